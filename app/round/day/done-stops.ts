import type { DayPlan, DayProblem } from "@core";

/** Stops that are behind: they stay in the plan as they were planned. */
export function doneStops(before: DayPlan, after: DayPlan, problem: DayProblem): DayPlan["stops"] {
  const ahead = new Set(after.stops.map((stop) => stop.site));
  return before.stops.filter((stop) => !ahead.has(stop.site) && stop.arrive < problem.startAt);
}
