import { MAX_PHOTO_BYTES, UUID_V7 } from "~/kit/forms/fields";
import { Refusal } from "~/kit/refusal";
import { apiAnswer } from "~/kit/server/api-answer.server";
import { readBody } from "~/kit/server/read-request.server";
import { actorOf } from "~/people/session.server";

import type { Route } from "./+types/sheet-photos.route";
import { storeSheetPhoto } from "./sheet-photos.server";

/** Takes a picture for a sheet, under the id its entry names. */
export function action({ params, request, context }: Route.ActionArgs) {
  return apiAnswer(async () => {
    const actor = actorOf(context);
    const id = new URL(request.url).searchParams.get("id") ?? "";
    if (!UUID_V7.test(id) || !UUID_V7.test(params.sheetId))
      throw new Refusal(422, "not-valid", "The picture needs an id of its own.");
    const bytes = await readBody(
      request,
      MAX_PHOTO_BYTES,
      `A picture holds at most ${MAX_PHOTO_BYTES / 1024 / 1024} MB.`,
    );
    await storeSheetPhoto(actor, params.sheetId, id, bytes, new Date());
    return { stored: id };
  });
}
