import { Effort, type EffortLimits } from "../effort";
import { must } from "../must";
import { explainConflicts } from "../visit/explain-conflicts";
import { DayDriver, type PackedVisits } from "./drive-day";
import { bestOfAllOrders, MOST_EXACT_SITES, searchOrders } from "./order-sites";
import { readDayProblem } from "./read-day";
import type { DayPlan, DayProblem } from "./types";
import { visitAt } from "./visit-at";

export interface DayOptions extends EffortLimits {
  seed?: number;
  /** Called with each better plan; false stops. */
  onProgress?: (plan: DayPlan) => boolean | void;
}

/** How long it may be looked for why one visit's hours are not kept, milliseconds. */
const EXPLAIN_MS = 300;

/**
 * Plans a day: the order of the sites and the packing of each visit together, as the hours of sites and machines make one
 * depend on the other. Fewest minutes late, then back earliest, then least travel.
 *
 * Any order is judged by packing each visit from its real arrival. Up to seven sites every order that can still be the best is
 * tried; beyond, the search begins with the best round for the visits' lengths and moves sites about.
 *
 * @throws CoreError for a malformed day
 */
export function planDay(given: DayProblem, options: DayOptions = {}): DayPlan {
  return planWith(readDayProblem(given), options);
}

/**
 * As `planDay`, of a day that is checked already.
 *
 * @param visits packed visits, kept from one day to another that differs in its duties: what comes out is the same
 */
export function planWith(problem: DayProblem, options: DayOptions, visits: PackedVisits = new Map()): DayPlan {
  const { sites } = problem;
  // A day takes long to drive: the clock is looked at each time.
  const effort = new Effort(options, 1);
  const seed = options.seed ?? 1;
  const driver = new DayDriver(problem, seed, visits);
  const explained = (found: DayPlan): DayPlan => explain(driver.polished(found));
  const explain = (plan: DayPlan): DayPlan => ({
    ...plan,
    conflicts: plan.stops.flatMap((stop) => {
      const site = must(sites.find((one) => one.id === stop.site));
      if (stop.late === 0) return [];
      const visit = visitAt(problem, site, stop.begin, true);
      return explainConflicts(
        visit,
        (minute) => clockTime(stop.begin + minute),
        new Effort({ timeLimitMs: EXPLAIN_MS, ...(options.now && { now: options.now }) }),
      );
    }),
  });
  if (problem.order)
    return explained(driver.drive(problem.order.map((id) => sites.findIndex((site) => site.id === id))));

  const asked = { wanted: true };
  const onBetter = (plan: DayPlan): boolean => {
    asked.wanted &&= options.onProgress?.(plan) !== false;
    return asked.wanted;
  };
  const first = sites.findIndex((site) => site.id === problem.first);
  const few = sites.length <= MOST_EXACT_SITES;
  // Of a few sites one descent is enough to begin with: all orders are tried after it, whatever the nodes.
  const searching = few ? effort.atMost(FEW_STEPS) : effort;
  const searched = searchOrders(problem, driver, { first, seed, effort: searching, onBetter });
  if (!few || !asked.wanted) return explained(searched);
  const all = sites.map((_, i) => i);
  const exact = bestOfAllOrders(driver, all, {
    best: searched,
    first,
    good: () => true,
    enough: () => false,
    goesOn: () => effort.look(),
  });
  if (exact) onBetter(exact);
  return explained(exact ?? searched);
}

/** Steps of the search before all orders are tried. */
const FEW_STEPS = 24;

/** Minute of the day as HH:MM; past midnight it goes on counting from 00:00. */
export function clockTime(minute: number): string {
  const whole = Math.round(minute);
  return `${String(Math.floor(whole / 60) % 24).padStart(2, "0")}:${String(((whole % 60) + 60) % 60).padStart(2, "0")}`;
}
