import * as yup from "yup";

import { UUID_V7 } from "~/kit/forms/fields";
import { Refusal } from "~/kit/refusal";
import { apiAnswer } from "~/kit/server/api-answer.server";
import { readBody, readJson } from "~/kit/server/read-request.server";
import { actorOf } from "~/people/session.server";

import type { Route } from "./+types/log-entries.route";
import { appendEntries, MAX_BATCH_BYTES } from "./append-entries.server";
import { entriesUnlessKnown } from "./sheets.server";

const batchSchema = yup
  .object({ entries: yup.array().of(yup.mixed().defined()).strict().required() })
  .noUnknown()
  .strict();
/** More values than a full batch of entries can have. */
const MOST_VALUES = 40_000;

function sheetIdOf({ sheetId }: { sheetId: string }): string {
  if (!UUID_V7.test(sheetId)) throw new Refusal(422, "not-valid", "The sheet's id must be a UUID version 7");
  return sheetId;
}

/** The log of a sheet, if the caller does not know all of it: GET …/entries?have=12 */
export function loader({ params, request }: Route.LoaderArgs) {
  const have = Number(new URL(request.url).searchParams.get("have") ?? 0);
  return apiAnswer(async () => ({
    entries: (await entriesUnlessKnown(sheetIdOf(params), Number.isInteger(have) ? have : 0)) ?? [],
  }));
}

/** Adds a batch of entries; sending it again changes nothing. */
export function action({ params, request, context }: Route.ActionArgs) {
  return apiAnswer(async () => {
    const actor = actorOf(context);
    const sheetId = sheetIdOf(params);
    const body = await readBody(
      request,
      MAX_BATCH_BYTES,
      `A batch holds at most ${MAX_BATCH_BYTES / 1024} kB. Send it in parts.`,
    );
    const { entries } = batchSchema.validateSync(readJson(body.toString("utf8"), MOST_VALUES));
    return appendEntries(actor, sheetId, entries, new Date());
  });
}
