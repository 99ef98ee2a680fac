import * as yup from "yup";

import { Refusal } from "~/kit/refusal";
import { actorOf } from "~/people/session.server";

import type { Route } from "./+types/run-events.route";
import { UUID_V7 } from "./run-event-schema";
import { appendEvents, eventsUnlessKnown, MAX_BATCH_BYTES } from "./runs.server";

const paramsSchema = yup.object({ runId: yup.string().matches(UUID_V7, "runId must be a UUID version 7").required() });
const batchSchema = yup
  .object({ events: yup.array().of(yup.mixed().defined()).strict().required() })
  .noUnknown()
  .strict();

/** The log of a sheet, if the caller does not know all of it: GET …/events?have=12 */
export async function loader({ params, request }: Route.LoaderArgs) {
  const have = Number(new URL(request.url).searchParams.get("have") ?? 0);
  return answer(async () => {
    const { runId } = paramsSchema.validateSync(params);
    return { events: (await eventsUnlessKnown(runId, Number.isInteger(have) ? have : 0)) ?? [] };
  });
}

/** Adds a batch of events; sending it again changes nothing. */
export async function action({ params, request, context }: Route.ActionArgs) {
  const actor = actorOf(context);
  return answer(async () => {
    const { runId } = paramsSchema.validateSync(params);
    const text = await readLimited(request);
    let body: unknown;
    try {
      body = JSON.parse(text);
    } catch {
      throw new Refusal(400, "not-json", "The batch is no JSON.");
    }
    const { events } = batchSchema.validateSync(body);
    return appendEvents(actor, runId, events, new Date());
  });
}

/** The body as text, given up as soon as it is too long: nothing oversized is kept in memory. */
async function readLimited(request: Request): Promise<string> {
  const tooBig = new Refusal(
    413,
    "batch-too-big",
    `A batch holds at most ${MAX_BATCH_BYTES / 1024} kB. Send it in parts.`,
  );
  if (Number(request.headers.get("content-length") ?? 0) > MAX_BATCH_BYTES) throw tooBig;
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    size += chunk.byteLength;
    if (size > MAX_BATCH_BYTES) throw tooBig;
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString("utf8");
}

async function answer(work: () => Promise<object>): Promise<Response> {
  try {
    return Response.json(await work());
  } catch (error) {
    if (error instanceof Refusal) {
      // The rest of an oversized body is not read, so the connection cannot be used again.
      const headers: Record<string, string> = error.status === 413 ? { Connection: "close" } : {};
      return Response.json({ code: error.code, message: error.message }, { status: error.status, headers });
    }
    if (error instanceof yup.ValidationError)
      return Response.json({ code: "not-valid", message: error.errors.join("; ") }, { status: 422 });
    throw error;
  }
}
