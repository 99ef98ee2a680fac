import { MAX_PHOTO_BYTES, storeRunPhoto } from "~/kit/photos.server";
import { Refusal } from "~/kit/refusal";

import type { Route } from "./+types/run-photos.route";
import { UUID_V7 } from "./run-event-schema";

/** Takes a picture for a sheet, under the id its event names. */
export async function action({ params, request }: Route.ActionArgs) {
  try {
    const id = new URL(request.url).searchParams.get("id") ?? "";
    if (!UUID_V7.test(id) || !UUID_V7.test(params.runId))
      throw new Refusal(422, "not-valid", "The picture needs an id of its own.");
    const bytes = await readLimited(request);
    await storeRunPhoto(params.runId, id, bytes, new Date());
    return Response.json({ stored: id });
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    const headers: Record<string, string> = error.status === 413 ? { Connection: "close" } : {};
    return Response.json({ code: error.code, message: error.message }, { status: error.status, headers });
  }
}

/** The picture, given up as soon as it is too large. */
async function readLimited(request: Request): Promise<Uint8Array> {
  const tooBig = new Refusal(413, "photo", `A picture holds at most ${MAX_PHOTO_BYTES / 1024 / 1024} MB.`);
  if (Number(request.headers.get("content-length") ?? 0) > MAX_PHOTO_BYTES) throw tooBig;
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    size += chunk.byteLength;
    if (size > MAX_PHOTO_BYTES) throw tooBig;
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}
