import { must } from "../must";
import type { Timetable } from "../round/types";
import type { DayPlan, DayProblem } from "./types";

/** One way of a planned day. Minutes of the day. */
export interface DayLeg {
  /** Null: where the round begins, and where it ends. */
  from: string | null;
  to: string | null;
  leave: number;
  arrive: number;
  ferry: {
    departs: number;
    lands: number;
    /** The departure after it on that day; null when it is the last. */
    next: number | null;
    /** The last one of the day the other way; null when nothing is known of it. */
    lastBack: number | null;
  } | null;
}

const DAY_MINUTES = 1440;

/**
 * The ways of a planned day with the ferries that it takes, in order, the way back as the last.
 *
 * @param problem what the plan was made from; stops that are behind and not in it any more have no leg
 */
export function dayLegs(
  problem: Pick<DayProblem, "sites" | "startAt" | "timetables" | "first">,
  plan: Pick<DayPlan, "stops" | "endAt">,
): DayLeg[] {
  const row = new Map(problem.sites.map((site, i) => [site.id, i + 1]));
  const ahead = plan.stops.filter((stop) => row.has(stop.site));
  if (ahead.length === 0) return [];
  const tables = problem.timetables ?? [];
  const between = (from: number, to: number): Timetable | undefined =>
    tables.findLast((one) => one.from === from && one.to === to);
  const legs: DayLeg[] = [];
  let [from, at, time]: [string | null, number, number] = [null, 0, problem.startAt];
  const go = (to: string | null, index: number, arrive: number): void => {
    legs.push({ from, to, leave: time, arrive, ferry: ferryOf(between(at, index), between(index, at), arrive) });
  };
  for (const { site, arrive, leave } of ahead) {
    const index = must(row.get(site));
    // Where one stands already there is no way to it.
    if (site !== problem.first) go(site, index, arrive);
    [from, at, time] = [site, index, leave];
  }
  go(null, 0, plan.endAt);
  return legs;
}

function ferryOf(table: Timetable | undefined, back: Timetable | undefined, arrive: number): DayLeg["ferry"] {
  if (!table) return null;
  const departs = arrive - table.minutes;
  const later = table.departures.filter((one) => one > departs && one < DAY_MINUTES);
  const returns = (back?.departures ?? []).filter((one) => one < DAY_MINUTES);
  return {
    departs,
    lands: arrive,
    next: later.length > 0 ? Math.min(...later) : null,
    lastBack: returns.length > 0 ? Math.max(...returns) : null,
  };
}
