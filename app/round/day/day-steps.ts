import type { DayEventRow, DayRow } from "@db";

import { whereOne } from "./day-events";

/** Why something cannot be logged on a day now; null when it can. */
export const NEXT: Record<
  "started" | "arrived" | "left" | "skipped" | "rested" | "ended",
  (day: DayRow, events: DayEventRow[], siteId: string | null) => string | null
> = {
  started: (day) => (day.status === "open" ? null : "This day has been started already."),
  arrived: (day, events) => notGoing(day) ?? (whereOne(events) ? "Leave the site you are at first." : null),
  left: (day, events, siteId) => notGoing(day) ?? (whereOne(events) === siteId ? null : "You are not at this site."),
  skipped: (day) => notGoing(day),
  rested: (day) => notGoing(day),
  ended: (day, events) => notGoing(day) ?? (whereOne(events) ? "Leave the site you are at first." : null),
};

function notGoing(day: DayRow): string | null {
  return day.status === "started" ? null : day.status === "open" ? "Start the day first." : "This day has ended.";
}
