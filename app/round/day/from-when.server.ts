import type { DayProblem } from "@core";
import { type DayEventRow, type DayRow, getDb } from "@db";

import { minuteOfDay } from "~/kit/days/day-time";

import { breaksAhead, restingUntil } from "./breaks";

/** When the round begins, or goes on, and the breaks that are still to be taken; who has one goes on when it is over. */
export async function fromWhen(
  day: Pick<DayRow, "personId" | "startMinute">,
  events: readonly DayEventRow[],
  live: Date | null,
  zone: string,
): Promise<Pick<DayProblem, "startAt" | "breaks">> {
  const person = await getDb().models.Person.findOne({
    attributes: ["breaks"],
    where: { id: day.personId },
    raw: true,
  });
  const happened = events.map((event) => ({ ...event, minute: minuteOfDay(event.at, zone) }));
  const breaks = breaksAhead(person?.breaks ?? [], day.startMinute, happened);
  const clock = live ? minuteOfDay(live, zone) : day.startMinute;
  return {
    startAt: live ? (restingUntil(happened, clock) ?? clock) : clock,
    ...(breaks.length > 0 ? { breaks } : {}),
  };
}
