import { redirect } from "react-router";

import type { Actor } from "~/kit/actor";
import { minutesOf } from "~/kit/days/day-time";
import { firmDay } from "~/kit/days/firm-day.server";
import { form, formAction, NOTHING } from "~/kit/server/form-action.server";
import { readQuery } from "~/kit/server/read-query.server";
import { actorById } from "~/people/people.server";
import { actorOf } from "~/people/session.server";

import type { Route } from "./+types/day.route";
import { clearDay } from "./clear-day.server";
import { changeDay, fixOrder, planAndKeep, proposeAndPut } from "./day.server";
import { addEmergency, handOver, logDay, takeBack } from "./day-log.server";
import {
  daySearchSchema,
  daySettingsSchema,
  dutiesSchema,
  emergencySchema,
  handOverSchema,
  orderSchema,
  restSchema,
  siteSchema,
  takeBackSchema,
} from "./day-schemas";
import { ownDay } from "./own-day";
import { undoSchema } from "./places-schema";
import { moveBack, pinToDay, putOnDay } from "./put-on-day.server";

/** Whose day the page is about, and which; another person's is a lead's business. */
export async function whoseDay({
  request,
  context,
}: Pick<Route.ActionArgs, "request" | "context">): Promise<{ personId: string; on: string; params: URLSearchParams }> {
  const { id: ownId } = actorOf(context);
  const asked = readQuery(request, daySearchSchema);
  return {
    personId: asked.for ?? ownId,
    on: asked.on ?? (await firmDay(new Date())).on,
    params: new URL(request.url).searchParams,
  };
}

/** Everything that a day's page can ask for. */
export async function dayAction(args: Route.ActionArgs) {
  const { personId, on, params } = await whoseDay(args);
  params.delete("add");
  const back = () => redirect(`/round/day?${params}`);
  const planned = async (who: Actor, now: Date): Promise<Response> => {
    await planAndKeep(who, personId, on, null, now);
    return back();
  };
  const log = (type: "started" | "arrived" | "left" | "skipped") =>
    form(siteSchema, async ({ site, reason, sure }, who, now) => {
      const said = { ...(reason ? { reason } : {}), sure: sure === "yes" };
      await logDay(who, { personId, on, type, siteId: site ?? null, ...said }, now);
      return planned(who, now);
    });
  const rest = (over: boolean) =>
    form(restSchema, async ({ minutes }, who, now) => {
      await logDay(who, { personId, on, type: "rested", siteId: null, rest: { minutes, over } }, now);
      return planned(who, now);
    });
  return formAction(
    args,
    {
      plan: form(NOTHING, (_, who, now) => planned(who, now)),
      // What the browser's search found is kept behind the scenes: it leads nowhere, so that what a person has opened
      // meanwhile stays open.
      "keep-plan": form(orderSchema, async ({ order }, who, now) => {
        await planAndKeep(who, personId, on, order, now);
      }),
      propose: form(NOTHING, async (_, who, now) => {
        const proposed = await proposeAndPut(who, await actorById(personId), on, now);
        await planAndKeep(who, personId, on, null, now);
        if (proposed === null)
          return "What is on the day already does not hold as often as is wanted: nothing was put beside it. Take something off, or change the hours.";
        const { chosen, left } = proposed;
        const put =
          chosen.length === 0
            ? "Nothing more fits the day, or nothing is due that nobody has planned."
            : `${chosen.length} put on the day.`;
        return left.length === 0 ? put : `${put} No place for ${left.join("; ")}.`;
      }),
      clear: form(NOTHING, async (_, who, now) => {
        const moved = await clearDay(who, personId, on, now);
        await planAndKeep(who, personId, on, null, now);
        return {
          said:
            moved.before.length === 0
              ? "Everything on the day is pinned or has begun: it stays."
              : `${moved.before.length} taken off the day.`,
          result: { moved },
        };
      }),
      undo: form(undoSchema, async ({ duties, before }, who, now) => {
        await moveBack(who, duties, before, now);
        await planAndKeep(who, personId, on, null, now);
        return `${before.length} are back on the day.`;
      }),
      hours: form(daySettingsSchema, async ({ start, end, technicians }, who, now) => {
        const hours = { startMinute: minutesOf(start), endMinute: minutesOf(end), technicians };
        await changeDay(who, personId, on, hours, now);
        return planned(who, now);
      }),
      order: form(orderSchema, async ({ order }, who, now) => {
        await fixOrder(who, personId, on, order, now);
        return planned(who, now);
      }),
      "free-order": form(NOTHING, async (_, who, now) => {
        await fixOrder(who, personId, on, null, now);
        return planned(who, now);
      }),
      pin: form(dutiesSchema, async ({ duty }, who, now) => {
        await pinToDay(who, duty, true, { on, personId }, now);
        return back();
      }),
      unpin: form(dutiesSchema, async ({ duty }, who, now) => {
        await pinToDay(who, duty, false, { on, personId }, now);
        return back();
      }),
      "take-off": form(dutiesSchema, async ({ duty }, who, now) => {
        await putOnDay(who, duty, { on: null, personId: null, from: { on, personId } }, now);
        return planned(who, now);
      }),
      "put-on": form(dutiesSchema, async ({ duty }, who, now) => {
        await putOnDay(who, duty, { on, personId, from: "nobody" }, now);
        return planned(who, now);
      }),
      emergency: form(emergencySchema, async (call, who, now) => {
        await addEmergency(who, personId, on, call, now);
        return planned(who, now);
      }),
      "hand-over": form(handOverSchema, async ({ to }, who, now) => {
        await handOver(who, personId, on, to, now);
        return planned(who, now);
      }),
      started: log("started"),
      arrived: log("arrived"),
      left: log("left"),
      skipped: log("skipped"),
      rested: rest(false),
      "had-rest": rest(true),
      ended: form(siteSchema, async (_, who, now) => {
        await logDay(who, { personId, on, type: "ended", siteId: null }, now);
        return redirect(`/round/evening?${params}`);
      }),
      "take-back": form(takeBackSchema, async ({ event }, who, now) => {
        await takeBack(who, { personId, on, eventId: event }, now);
        return planned(who, now);
      }),
    },
    ownDay(personId),
  );
}
