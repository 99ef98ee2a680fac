import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { Effort } from "../effort";
import { shuffled, uniform } from "../random";
import { checkVisitProblem } from "./check-problem";
import { explainConflicts } from "./explain-conflicts";
import { improveOnce } from "./improve";
import { insertJobs } from "./insert-jobs";
import { buildModel, range, type VisitModel } from "./model";
import { Network } from "./network";
import { inOrder, isBetter, type Placement, toPhases } from "./placement";
import { searchBelow } from "./search";
import type { PackOptions, VisitProblem, VisitSchedule } from "./types";

/** Orders of jobs tried at the beginning, and steps that each counts for. */
const FIRST_ORDERS = 30;
/** Attempts at bettering between two systematic searches. */
const ATTEMPTS = 12;
/** Contradictions of the first systematic search; each later one gets more. */
const FIRST_FAILS = 150;
const MORE_FAILS = 1.5;
/** Attempts without success in a row, steps in all, and share of the time after which the sum of the jobs' ends is left as it is. */
const SUM_ATTEMPTS = 40;
const SUM_STEPS = 4000;
const SUM_SHARE = 0.2;

/**
 * Packs a visit: the work of several machines into the least time, waits overlapped, hands never idle without need.
 *
 * Proven exact: constraint propagation with branch and bound, restarted, guided by the best schedule known; alternating with
 * large-neighbourhood search, which is what finds good schedules of large visits. Makespan first, then the sum of the jobs'
 * ends (not proven).
 *
 * @param problem times in whole minutes
 * @returns the best schedule found with a bound; `infeasible` only when proven
 * @throws CoreError for a malformed visit
 * @example packVisit({ technicians: 1, jobs: [{ id: 'a', phases: [{ kind: 'hands', minutes: 5 }, { kind: 'wait', minutes: 10 }, { kind: 'hands', minutes: 5 }] }] }).makespan // => 20
 */
export function packVisit(problem: VisitProblem, options: PackOptions = {}): VisitSchedule {
  return pack(problem, options, explainConflicts);
}

/** As `packVisit`; `explain` is asked for the reasons when nothing is possible. */
export function pack(
  problem: VisitProblem,
  options: PackOptions,
  explain: (problem: VisitProblem) => string[],
): VisitSchedule {
  checkVisitProblem(problem);
  const effort = new Effort(options);
  const random = uniform(xoroshiro128plus(options.seed ?? 1));
  const model = buildModel(problem);
  if (model.conflicts.length > 0) return infeasible(model.conflicts);
  const network = new Network(model);
  if (!network.start(model.horizon)) return infeasible(explain(problem));

  let best: Placement | null = null;
  let bound = network.makespan();
  const report = (): void => {
    if (best && options.onProgress?.(best.makespan, bound) === false) effort.stop();
  };
  const take = (found: Placement | null): boolean => {
    if (!found || !isBetter(found, best)) return false;
    const shorter = best === null || found.makespan < best.makespan;
    best = inOrder(model, found);
    if (shorter) report();
    return true;
  };
  const current = (): Placement | null => best;

  for (let i = 0; i < FIRST_ORDERS && effort.step(model.problem.jobs.length); i++) {
    take(insertJobs(model, i === 0 ? byLength(model) : shuffled(range(model.problem.jobs.length), random)));
    if (best && current()!.makespan === bound && i >= 8) break;
  }
  const raiseBound = (to: number): void => {
    if (to <= bound) return;
    bound = to;
    report();
  };
  if (best) raiseBound(refuted(network, bound, current()!.makespan));

  let fails = FIRST_FAILS;
  let share = 0.3;
  for (let round = 0; !effort.stopped; round++) {
    const known = current();
    if (known !== null && known.makespan <= bound) break;
    if (known !== null) {
      for (let i = 0; i < ATTEMPTS && !effort.stopped && current()!.makespan > bound; i++) {
        // Successes narrow what is set free, failures widen it.
        const better = take(improveOnce(network, current()!, "makespan", share, random, effort));
        share = Math.min(0.9, Math.max(0.1, better ? share : share * 1.03 > 0.9 ? 0.15 : share * 1.03));
        if (!effort.step()) break;
      }
      if (effort.stopped || current()!.makespan <= bound) continue;
    }
    // Every other search asks for half the gap at once: refuted, it lifts the bound by as much.
    const top = current()?.makespan ?? null;
    const limit = top === null ? model.horizon : round % 2 === 1 ? Math.floor((bound + top - 1) / 2) : top - 1;
    network.mark();
    const outcome = network.limitMakespan(limit)
      ? searchBelow(network, { fails, guide: current() }, effort)
      : "exhausted";
    network.undo();
    if (typeof outcome === "object") take(outcome.found);
    else if (outcome === "exhausted") {
      if (top === null) return infeasible(explain(problem));
      raiseBound(limit + 1);
    } else fails = Math.ceil(fails * MORE_FAILS);
  }
  if (!best) return { status: "unknown", makespan: 0, lowerBound: bound, phases: [] };
  const optimal = current()!.makespan <= bound;
  const steps = effort.nodes;
  effort.shorten(SUM_SHARE);
  for (let misses = 0; optimal && misses < SUM_ATTEMPTS && effort.nodes < steps + SUM_STEPS && effort.step();) {
    misses = take(improveOnce(network, current()!, "sum", 0.2 + 0.6 * random(), random, effort)) ? 0 : misses + 1;
  }
  return {
    status: optimal ? "optimal" : "feasible",
    makespan: current()!.makespan,
    lowerBound: bound,
    phases: toPhases(model, current()!),
  };
}

/** The least end that propagation alone does not refute. */
function refuted(network: Network, from: number, to: number): number {
  let low = from;
  let high = to;
  while (low < high) {
    const middle = Math.floor((low + high) / 2);
    network.mark();
    const possible = network.limitMakespan(middle);
    network.undo();
    if (possible) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** Jobs that take longest first. */
function byLength(model: VisitModel): number[] {
  const minutes = model.problem.jobs.map((job) => job.phases.reduce((sum, phase) => sum + phase.minutes, 0));
  return range(minutes.length).sort((a, b) => minutes[b]! - minutes[a]! || a - b);
}

function infeasible(conflicts: string[]): VisitSchedule {
  return { status: "infeasible", makespan: 0, lowerBound: 0, phases: [], conflicts };
}
