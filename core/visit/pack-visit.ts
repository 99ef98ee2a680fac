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
  const model = buildModel(problem);
  if (model.conflicts.length > 0) return infeasible(model.conflicts);
  const network = new Network(model);
  if (!network.start(model.horizon)) return infeasible(explain(problem));

  return new Packing(model, network, options, effort).run() ?? infeasible(explain(problem));
}

/** One search for the best schedule of a visit: what it has, what it has proven, and how hard it tries. */
class Packing {
  readonly #model: VisitModel;
  readonly #network: Network;
  readonly #options: PackOptions;
  readonly #effort: Effort;
  readonly #random: () => number;
  #best: Placement | null = null;
  #bound: number;
  #fails = FIRST_FAILS;
  #share = 0.3;

  constructor(model: VisitModel, network: Network, options: PackOptions, effort: Effort) {
    this.#model = model;
    this.#network = network;
    this.#options = options;
    this.#effort = effort;
    this.#random = uniform(xoroshiro128plus(options.seed ?? 1));
    this.#bound = network.makespan();
  }

  /** @returns null when it is proven that there is no schedule */
  run(): VisitSchedule | null {
    this.#insert();
    if (this.#best) this.#raiseBound(refuted(this.#network, this.#bound, this.#best.makespan));
    for (let round = 0; this.#goesOn(); round++) {
      if (this.#best !== null) this.#improve();
      if (this.#goesOn() && !this.#search(round)) return null;
    }
    if (!this.#best) return { status: "unknown", makespan: 0, lowerBound: this.#bound, phases: [] };
    const optimal = this.#proven();
    if (optimal) this.#shortenSum();
    return {
      status: optimal ? "optimal" : "feasible",
      makespan: this.#best.makespan,
      lowerBound: this.#bound,
      phases: toPhases(this.#model, this.#best),
    };
  }

  #goesOn(): boolean {
    return !this.#effort.stopped && !this.#proven();
  }

  #proven(): boolean {
    return this.#best !== null && this.#best.makespan <= this.#bound;
  }

  #report(): void {
    if (this.#best && this.#options.onProgress?.(this.#best.makespan, this.#bound) === false) this.#effort.stop();
  }

  #take(found: Placement | null): boolean {
    if (!found || !isBetter(found, this.#best)) return false;
    const shorter = this.#best === null || found.makespan < this.#best.makespan;
    this.#best = inOrder(this.#model, found);
    if (shorter) this.#report();
    return true;
  }

  #raiseBound(to: number): void {
    if (to <= this.#bound) return;
    this.#bound = to;
    this.#report();
  }

  /** First schedules: the longest jobs first, then any order. */
  #insert(): void {
    const { jobs } = this.#model.problem;
    for (let i = 0; i < FIRST_ORDERS && this.#effort.step(jobs.length); i++) {
      const order = i === 0 ? byLength(this.#model) : shuffled(range(jobs.length), this.#random);
      this.#take(insertJobs(this.#model, order));
      if (this.#best?.makespan === this.#bound && i >= 8) break;
    }
  }

  #improve(): void {
    const effort = this.#effort;
    for (let i = 0; i < ATTEMPTS && !effort.stopped && !this.#proven(); i++) {
      const how = { by: "makespan" as const, share: this.#share, random: this.#random };
      const better = this.#take(improveOnce(this.#network, this.#best!, how, effort));
      // Successes narrow what is set free, failures widen it.
      const next = better ? this.#share : this.#share * 1.03 > 0.9 ? 0.15 : this.#share * 1.03;
      this.#share = Math.min(0.9, Math.max(0.1, next));
      if (!effort.step()) break;
    }
  }

  /** A search from the top. @returns false when there is provably no schedule at all */
  #search(round: number): boolean {
    const network = this.#network;
    const top = this.#best?.makespan ?? null;
    // Every other search asks for half the gap at once: refuted, it lifts the bound by as much.
    const half = top !== null && round % 2 === 1 ? Math.floor((this.#bound + top - 1) / 2) : null;
    const limit = half ?? (top === null ? this.#model.horizon : top - 1);
    network.mark();
    const outcome = network.limitMakespan(limit)
      ? searchBelow(network, { fails: this.#fails, guide: this.#best }, this.#effort)
      : "exhausted";
    network.undo();
    if (typeof outcome === "object") this.#take(outcome.found);
    else if (outcome !== "exhausted") this.#fails = Math.ceil(this.#fails * MORE_FAILS);
    else if (top === null) return false;
    else this.#raiseBound(limit + 1);
    return true;
  }

  /** With the least makespan known, jobs are ended earlier where that costs nothing. */
  #shortenSum(): void {
    const effort = this.#effort;
    const steps = effort.nodes;
    effort.shorten(SUM_SHARE);
    for (let misses = 0; misses < SUM_ATTEMPTS && effort.nodes < steps + SUM_STEPS && effort.step();) {
      const how = { by: "sum" as const, share: 0.2 + 0.6 * this.#random(), random: this.#random };
      misses = this.#take(improveOnce(this.#network, this.#best!, how, effort)) ? 0 : misses + 1;
    }
  }
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
