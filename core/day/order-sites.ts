import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import type { Effort } from "../effort";
import { must } from "../must";
import { uniform } from "../random";
import { orderRound } from "../round/order-round";
import type { DayDriver, Underway } from "./drive-day";
import type { DayPlan, DayProblem } from "./types";
import { opening } from "./visit-at";

/** As many sites as all orders of are looked at. */
export const MOST_EXACT_SITES = 7;
/** Steps of the effort that driving a day costs. */
const DRIVE_STEPS = 2;
/** Descents without a better day after which it is left. */
const PATIENCE = 40;
/** Exchanges that lead away from a day that no single change betters. */
const SHAKES = 3;

/** Below zero: the first is better. Minutes late, then the end, then the way. */
export function compareDays(a: DayPlan, b: DayPlan): number {
  return a.lateMinutes - b.lateMinutes || a.endAt - b.endAt || a.travelMinutes - b.travelMinutes;
}

interface AllOrders {
  best: DayPlan | null;
  /** The site that comes first; −1 for any. */
  first: number;
  /** @param end the day ends no earlier */
  good: (way: Underway, end: number) => boolean;
  enough: (plan: DayPlan) => boolean;
  goesOn: () => boolean;
}

/**
 * Every order of the sites, as far as it can still be better than the best known: an order that is later already is not
 * gone through to its end.
 *
 * @param best to be bettered; null: any day
 * @param good whether a round can still become one that is wanted
 * @param enough whether a day is all that is wanted: the first such one ends it
 * @returns null when nothing is better
 */
export function bestOfAllOrders(
  driver: DayDriver,
  sites: readonly number[],
  { best, first, good, enough, goesOn }: AllOrders,
): DayPlan | null {
  let found: DayPlan | null = null;
  let least = best;
  let ended = false;
  const mayBeBetter = (way: Underway, rest: readonly number[]): boolean => {
    const end = way.time + driver.leastFor(rest);
    return (
      good(way, end) &&
      (least === null ||
        way.lateMinutes < least.lateMinutes ||
        (way.lateMinutes === least.lateMinutes && end <= least.endAt))
    );
  };
  const visit = (way: Underway, left: readonly number[]): void => {
    if (left.length === 0) {
      const plan = driver.home(way);
      if (least !== null && compareDays(plan, least) >= 0) return;
      found = plan;
      least = plan;
      ended = enough(plan);
      return;
    }
    if (!mayBeBetter(way, left)) return;
    const ways = left
      .filter((i) => way.stops.length > 0 || first < 0 || i === first)
      .map((i) => ({ i, way: driver.goOn(way, i) }));
    ways.sort((a, b) => a.way.lateMinutes - b.way.lateMinutes || a.way.time - b.way.time);
    for (const next of ways) {
      if (ended || !goesOn()) return;
      visit(
        next.way,
        left.filter((i) => i !== next.i),
      );
    }
  };
  visit(driver.start(), sites);
  return found;
}

/**
 * A good order of more sites than all orders of can be tried: descent from the best round for the visits' lengths, then from
 * shaken orders as long as the effort lasts.
 *
 * @param onBetter false stops
 */
export function searchOrders(
  problem: DayProblem,
  driver: DayDriver,
  {
    first,
    seed,
    effort,
    onBetter,
  }: { first: number; seed: number; effort: Effort; onBetter: (plan: DayPlan) => boolean },
): DayPlan {
  const random = uniform(xoroshiro128plus(seed));
  let here = firstOrder(problem, driver, first);
  let best = driver.drive(here);
  let plan = best;
  if (!onBetter(best)) return best;
  const from = first < 0 ? 0 : 1;
  if (here.length - from < 2) return best;
  let misses = 0;
  for (let kept = here; ;) {
    const better = firstBetter(driver, { order: here, plan, first }, effort);
    if (better) {
      ({ order: here, plan } = better);
      if (compareDays(plan, best) >= 0) continue;
      best = plan;
      kept = here;
      misses = 0;
      if (!onBetter(best)) return best;
      continue;
    }
    if (effort.stopped || ++misses > PATIENCE) return best;
    here = [...kept];
    for (let i = 0; i < SHAKES; i++) {
      const [a, b] = [0, 1].map(() => from + Math.floor(random() * (here.length - from)));
      [here[must(a)], here[must(b)]] = [must(here[must(b)]), must(here[must(a)])];
    }
    if (!effort.step(DRIVE_STEPS)) return best;
    plan = driver.drive(here);
  }
}

function firstBetter(
  driver: DayDriver,
  { order, plan, first }: { order: readonly number[]; plan: DayPlan; first: number },
  effort: Effort,
): { order: number[]; plan: DayPlan } | null {
  for (const next of neighbours(order, first)) {
    if (!effort.step(DRIVE_STEPS)) return null;
    const tried = driver.drive(next);
    if (compareDays(tried, plan) < 0) return { order: next, plan: tried };
  }
  return null;
}

/** The best round for the lengths that the visits have when nothing hinders them. */
function firstOrder(problem: DayProblem, driver: DayDriver, first: number): number[] {
  const { sites } = problem;
  const rest = sites.map((_, i) => i).filter((i) => i !== first);
  const length = (i: number): number => {
    const site = must(sites[i]);
    const begin = opening(site, problem.startAt);
    return site.arriving + driver.packAt(i, begin + site.arriving).schedule.makespan + site.leaving;
  };
  const from = first < 0 ? 0 : first + 1;
  const leaveFirst =
    first < 0
      ? problem.startAt
      : problem.startAt + driver.packAt(first, problem.startAt).schedule.makespan + must(sites[first]).leaving;
  const places = [from, ...rest.map((i) => i + 1)];
  const place = new Map(places.map((node, at) => [node, at]));
  const travel = places.map((a) => places.map((b, at) => must(must(problem.travel[a])[at === 0 ? 0 : b])));
  const timetables = (problem.timetables ?? []).flatMap((one) => {
    const [a, b] = [place.get(one.from), one.to === 0 ? 0 : place.get(one.to)];
    return a === undefined || b === undefined || (first >= 0 && one.from === 0) ? [] : [{ ...one, from: a, to: b }];
  });
  const stops = rest.map((i) => {
    const minutes = length(i);
    const windows = must(sites[i]).access?.map(([open, close]): [number, number] => [
      open,
      Math.max(open, close - minutes),
    ]);
    return { id: String(i), minutes, ...(windows ? { windows } : {}) };
  });
  const round = orderRound({ stops, travel, startAt: leaveFirst, timetables }, { nodeLimit: 60_000 });
  return [...(first < 0 ? [] : [first]), ...round.order.map(Number)];
}

/** Orders one change away: a site put elsewhere, two exchanged, a stretch turned round. The first stays when one stands there. */
function* neighbours(order: readonly number[], first: number): Generator<number[]> {
  const from = first < 0 ? 0 : 1;
  for (let i = from; i < order.length; i++) {
    for (let k = from; k < order.length; k++) {
      if (i === k) continue;
      const moved = order.filter((_, at) => at !== i);
      moved.splice(k, 0, must(order[i]));
      yield moved;
      if (k <= i + 1) continue;
      yield [...order.slice(0, i), ...order.slice(i, k + 1).reverse(), ...order.slice(k + 1)];
      const swapped = [...order];
      [swapped[i], swapped[k]] = [must(swapped[k]), must(swapped[i])];
      yield swapped;
    }
  }
}
