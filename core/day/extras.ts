import { requireList, requireRecord } from "../inputs";
import { UNKNOWN_SPREAD } from "../minutes/learn-minutes";
import { requireShare } from "../numbers";
import { inTime } from "./day-in-time";
import { DayDriver, type PackedVisits } from "./drive-day";
import type { ProposeOptions } from "./propose-day";
import { readDayProblem } from "./read-day";
import { dayRisk } from "./risk";
import { keepJobs } from "./suggest-changes";
import type { DayPlan, DayProblem } from "./types";

/** A duty that a planned day has room for, at a site that it goes to anyway. */
export interface DayExtra {
  site: string;
  job: string;
  /** By how much later one is back with it. */
  minutes: number;
  endAt: number;
  /** Share of days on which the day holds with it. */
  holds: number;
}

/**
 * Of duties at sites that a planned day goes to, those with which it still holds as often as is wanted, in the plan's order of
 * sites; the one that costs the fewest minutes first. Each by itself: of two together nothing is said.
 *
 * @param given the day with everything that could be done on it
 * @param on what is on the day
 * @param plan the day as planned; stops that are behind do not count
 * @throws CoreError for a malformed day
 */
export function dayExtras(
  given: DayProblem,
  on: readonly string[],
  plan: DayPlan,
  options: ProposeOptions = {},
): DayExtra[] {
  const problem = readDayProblem(given);
  const { chance = 0, spread = () => UNKNOWN_SPREAD, seed = 1 } = options;
  requireShare(chance, "options.chance");
  const stays = new Set(requireList([...on], "on"));
  const order = requireList(requireRecord(plan, "plan").stops, "plan.stops").map((stop) => stop.site);
  // All of them go to the same sites: only the visit with the extra is another.
  const visits: PackedVisits = new Map();
  const driven = (extra: string | null): { problem: DayProblem; plan: DayPlan } => {
    const day = keepJobs(problem, (job, site) => order.includes(site) && (stays.has(job) || job === extra));
    const driver = new DayDriver(day, seed, visits);
    const places = order.map((id) => day.sites.findIndex((site) => site.id === id)).filter((i) => i >= 0);
    return { problem: day, plan: driver.polished(driver.drive(places)) };
  };
  const before = driven(null).plan;
  return problem.sites
    .filter((site) => before.stops.some((stop) => stop.site === site.id))
    .flatMap((site) => site.jobs.filter((job) => !stays.has(job.id)).map((job) => ({ site: site.id, job: job.id })))
    .flatMap(({ site, job }) => {
      const day = driven(job);
      if (!inTime(day.plan)) return [];
      const { holds } = dayRisk(day.problem, day.plan, spread, seed);
      const { endAt } = day.plan;
      return holds >= chance ? [{ site, job, minutes: Math.max(0, endAt - before.endAt), endAt, holds }] : [];
    })
    .sort((a, b) => a.minutes - b.minutes || (a.job < b.job ? -1 : 1));
}
