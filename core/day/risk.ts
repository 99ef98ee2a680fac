import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { must } from "../must";
import { stratifiedNormals } from "../normal-quantiles";
import { uniform } from "../random";
import { dayLegs } from "./legs";
import type { DayPlan, DayProblem } from "./types";
import { DayWorker } from "./work-day";

export interface DayRisk {
  samples: number;
  /** Share of days on which nothing is late anywhere and one is back by `endBy`. */
  holds: number;
  /** For each stop, in order: share of days on which work there is over after closing, or after a machine has to be ready. */
  closing: { site: string; chance: number; late: number }[];
  /** For each stop, in order: when work there begins on the earliest and the latest tenth of days, minutes of the day. */
  begins: { site: string; early: number; late: number }[];
  /** Share of days that end after `endBy`. */
  overtime: number;
  /** Minute by which nine days in ten are over. */
  endBy90: number;
  /** Minutes by which 5, 10, 15 … 95 of a hundred days are over. */
  endings: number[];
  /** For each stop: share of days on which a longest wait is exceeded. */
  soaks: { site: string; chance: number }[];
  /** For each ferry that the plan takes after a stop: share of days on which it has left; `to` null is the way back. */
  ferries: { to: string | null; departs: number; next: number | null; missed: number }[];
}

/** Days drawn: the share of those that hold is then within some two points. */
const SAMPLES = 1000;

/**
 * How likely the day holds, when hands-on minutes scatter: the plan is worked in its orders with minutes as they happen to be
 * ({@link DayWorker}).
 *
 * Factors are lognormal with median 1 and the given spread for each duty (all its phases alike: it is the machine's state
 * and the day's form that make a job long), which is how times of manual work are usually modelled (common practice). Each
 * duty's draws are spread evenly over its distribution (Latin hypercube: M. McKay, R. Beckman, W. Conover, Technometrics 21,
 * 1979), so that few days say much.
 *
 * @param spread standard deviation of the logarithm of a duty's hands-on minutes
 * @param samples days drawn
 */
export function dayRisk(
  problem: DayProblem,
  plan: DayPlan,
  spread: (job: string) => number,
  seed = 1,
  samples = SAMPLES,
): DayRisk {
  const random = uniform(xoroshiro128plus(seed));
  const worker = new DayWorker(problem, plan);
  const spreads = worker.duties.map(spread);
  const normals = spreads.map(() => stratifiedNormals(samples, random));
  const factors = new Float64Array(spreads.length);
  const closing = plan.stops.map((stop) => ({ site: stop.site, chance: 0, late: 0 }));
  const soaks = plan.stops.map((stop) => ({ site: stop.site, chance: 0 }));
  const begins = plan.stops.map(() => new Float64Array(samples));
  const ferries = dayLegs(problem, plan).flatMap(({ from, to, ferry }) => {
    const stop = plan.stops.findIndex((one) => one.site === from);
    return ferry && stop >= 0 ? [{ stop, to, departs: ferry.departs, next: ferry.next, missed: 0 }] : [];
  });
  const ends = new Float64Array(samples);
  let held = 0;
  for (let sample = 0; sample < samples; sample++) {
    spreads.forEach((sigma, i) => (factors[i] = Math.exp(sigma * must(must(normals[i])[sample]))));
    const day = worker.work(factors);
    day.stops.forEach((stop, s) => {
      must(begins[s])[sample] = stop.begin;
      if (stop.soakTooLong) must(soaks[s]).chance += 1 / samples;
      if (stop.late <= IN_TIME) return;
      must(closing[s]).chance += 1 / samples;
      must(closing[s]).late += stop.late / samples;
    });
    ends[sample] = day.endAt;
    for (const ferry of ferries) if (must(day.stops[ferry.stop]).leave > ferry.departs + IN_TIME) ferry.missed++;
    if (day.endAt <= problem.endBy + IN_TIME && day.stops.every((stop) => stop.late <= IN_TIME)) held++;
  }
  ends.sort();
  return {
    samples,
    holds: held / samples,
    closing,
    begins: begins.map((list, s) => {
      list.sort();
      return { site: must(plan.stops[s]).site, early: Math.floor(tenth(list, 0.1)), late: Math.ceil(tenth(list, 0.9)) };
    }),
    overtime: ends.filter((end) => end > problem.endBy + IN_TIME).length / samples,
    endBy90: Math.ceil(tenth(ends, 0.9)),
    endings: Array.from({ length: 19 }, (_, i) => Math.ceil(tenth(ends, (i + 1) / 20))),
    soaks,
    ferries: ferries.map(({ stop: _stop, missed, ...ferry }) => ({ ...ferry, missed: missed / samples })),
  };
}

/** Sums of minutes are not exact to the last digit. */
const IN_TIME = 1e-6;

const tenth = (sorted: Float64Array, share: number): number => must(sorted[Math.floor(share * sorted.length)]);
