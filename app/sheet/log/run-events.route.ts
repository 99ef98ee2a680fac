import * as yup from "yup";

import { UUID_V7 } from "~/kit/forms/fields";
import { Refusal } from "~/kit/refusal";
import { apiAnswer } from "~/kit/server/api-answer.server";
import { readBody, readJson } from "~/kit/server/read-request.server";
import { actorOf } from "~/people/session.server";

import type { Route } from "./+types/run-events.route";
import { appendEvents, eventsUnlessKnown, MAX_BATCH_BYTES } from "./runs.server";

const batchSchema = yup
  .object({ events: yup.array().of(yup.mixed().defined()).strict().required() })
  .noUnknown()
  .strict();
/** More values than a full batch of events can have. */
const MOST_VALUES = 40_000;

function runIdOf({ runId }: { runId: string }): string {
  if (!UUID_V7.test(runId)) throw new Refusal(422, "not-valid", "runId must be a UUID version 7");
  return runId;
}

/** The log of a sheet, if the caller does not know all of it: GET …/events?have=12 */
export function loader({ params, request }: Route.LoaderArgs) {
  const have = Number(new URL(request.url).searchParams.get("have") ?? 0);
  return apiAnswer(async () => ({
    events: (await eventsUnlessKnown(runIdOf(params), Number.isInteger(have) ? have : 0)) ?? [],
  }));
}

/** Adds a batch of events; sending it again changes nothing. */
export function action({ params, request, context }: Route.ActionArgs) {
  return apiAnswer(async () => {
    const actor = actorOf(context);
    const runId = runIdOf(params);
    const body = await readBody(
      request,
      MAX_BATCH_BYTES,
      `A batch holds at most ${MAX_BATCH_BYTES / 1024} kB. Send it in parts.`,
    );
    const { events } = batchSchema.validateSync(readJson(body.toString("utf8"), MOST_VALUES));
    return appendEvents(actor, runId, events, new Date());
  });
}
