import { DayDriver, type PackedVisits } from "./drive-day";
import { leastEndOf } from "./least-end";
import { bestOfAllOrders, MOST_EXACT_SITES } from "./order-sites";
import type { DayPlan, DayProblem } from "./types";

/** The plan when nothing on it is late and it ends in time, else null. */
export const inTime = (plan: DayPlan): DayPlan | null => (plan.lateMinutes === 0 && plan.overtime === 0 ? plan : null);

/**
 * A day of few sites on which all is done in time, in any order; much quicker than the best one.
 *
 * @param problem a checked day
 * @param visits packed visits, kept for days that differ in their duties or hours
 * @returns null when there is none; undefined when it has more sites than all orders of are tried, or time ran out
 */
export function dayInTime(
  problem: DayProblem,
  { visits, seed, goesOn }: { visits: PackedVisits; seed: number; goesOn: () => boolean },
): DayPlan | null | undefined {
  if (problem.sites.some((site) => site.access?.length === 0)) return null;
  if (leastEndOf(problem) > problem.endBy) return null;
  const driver = new DayDriver(problem, seed, visits);
  const place = (id: string | undefined): number => problem.sites.findIndex((site) => site.id === id);
  if (problem.order) return inTime(driver.drive(problem.order.map(place)));
  if (problem.sites.length > MOST_EXACT_SITES) return undefined;
  const found = bestOfAllOrders(
    driver,
    problem.sites.map((_, i) => i),
    {
      best: null,
      first: place(problem.first),
      good: (way, end) => way.lateMinutes === 0 && end <= problem.endBy,
      enough: (plan) => inTime(plan) !== null,
      goesOn,
    },
  );
  if (found && inTime(found)) return found;
  return goesOn() ? null : undefined;
}
