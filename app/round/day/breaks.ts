import type { DayBreak } from "@core";
import type { BreakRule } from "@db";

/** Something that happened on the day, with its minute. */
interface Happened {
  type: string;
  siteId: string | null;
  minute: number;
  body: { minutes?: number; over?: boolean };
}

/** Breaks that are behind, as they were logged. */
export interface Rested {
  site: string | null;
  from: number;
  minutes: number;
}

/** A person's breaks of a day that begins then, as far as they are still to be taken. */
export function breaksAhead(rules: readonly BreakRule[], startMinute: number, events: readonly Happened[]): DayBreak[] {
  const taken = events.filter((event) => event.type === "rested").length;
  return rules
    .slice(taken)
    .map(({ minutes, from, by }) => ({ minutes, from: startMinute + from, by: startMinute + by }));
}

/** The breaks that were logged. One that was logged when it was over says nothing of when it was. */
export function restedOn(events: readonly Happened[]): Rested[] {
  return events.flatMap(({ type, siteId, minute, body }) =>
    type === "rested"
      ? [{ site: siteId, from: body.over ? minute - (body.minutes ?? 0) : minute, minutes: body.minutes ?? 0 }]
      : [],
  );
}

/** The minute at which a break that goes on is over; null when none does. */
export function restingUntil(events: readonly Happened[], now: number): number | null {
  const last = restedOn(events).at(-1);
  return last && last.from + last.minutes > now ? last.from + last.minutes : null;
}
