import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { Effort, OutOfTime } from "../effort";
import { withoutNulls } from "../inputs";
import { shuffled, uniform } from "../random";
import { hasAfter } from "./after";
import { annealOrder } from "./anneal-order";
import { readVisitProblem } from "./check-problem";
import { explainConflicts } from "./explain-conflicts";
import { improveOnce } from "./improve";
import { JobInserter } from "./insert-jobs";
import { buildModel, range, type VisitModel } from "./model";
import { Network } from "./network";
import { inOrder, isBetter, type Placement, toPhases } from "./placement";
import { searchBelow } from "./search";
import type { PackOptions, VisitProblem, VisitSchedule } from "./types";

/** Orders of jobs tried at the beginning, and steps that each counts for. */
const FIRST_ORDERS = 30;
/** Jobs from which on the order in which they are placed is worth annealing, and the share of the effort at which that ends. */
const LARGE_JOBS = 12;
const ANNEAL_UNTIL = 0.5;
/** From so many phases on the search by phases gets little done in the time there is: annealing goes first, and on. */
const LARGE_PHASES = 110;
const ANNEAL_LARGE_UNTIL = 0.9;
/** Work that waits for work of other jobs is found soonest by placing it in turn: annealing goes first, for so long at most. */
const ANNEAL_WOVEN_UNTIL = 0.4;
/** Attempts at bettering between two systematic searches. */
const ATTEMPTS = 12;
/** Contradictions of the first systematic search; each later one gets more. */
const FIRST_FAILS = 150;
const MORE_FAILS = 1.5;
/** Attempts without success in a row, steps in all, and share of the time after which the sum of the jobs' ends is left as it is. */
const SUM_ATTEMPTS = 40;
const SUM_STEPS = 4000;
/** Beyond so many phases a step is longer, and fewer are taken. */
const SMALL_PHASES = 50;
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
  return pack(problem, options, (read, effort) => explainConflicts(read, String, effort));
}

/**
 * As `packVisit`; `explain` is asked for the reasons when nothing is possible.
 *
 * @param sums whether jobs are ended earlier where that costs nothing: what only compares lengths does without
 */
export function pack(
  given: VisitProblem,
  limits: PackOptions,
  explain: (problem: VisitProblem, effort: Effort) => string[],
  sums = true,
): VisitSchedule {
  const problem = readVisitProblem(given);
  const options = withoutNulls(limits);
  const effort = new Effort(options, stepsBetweenLooks(problem));
  const model = buildModel(problem);
  if (model.conflicts.length > 0) return infeasible(model.conflicts);
  const packing = new Packing(model, options, effort);
  return packing.run(sums) ?? infeasible(explain(problem, effort));
}

/** The more phases, the longer a step takes, and the sooner the clock is looked at again. */
function stepsBetweenLooks({ jobs }: VisitProblem): number {
  const phases = jobs.reduce((sum, job) => sum + job.phases.length, 0);
  return Math.max(1, Math.floor(32 / (1 + phases / 50)));
}

/** One search for the best schedule of a visit: what it has, what it has proven, and how hard it tries. */
class Packing {
  readonly #model: VisitModel;
  readonly #network: Network;
  readonly #options: PackOptions;
  readonly #effort: Effort;
  readonly #random: () => number;
  readonly #inserter: JobInserter;
  #best: Placement | null = null;
  #bound: number;
  #fails = FIRST_FAILS;
  #share = 0.3;

  constructor(model: VisitModel, options: PackOptions, effort: Effort) {
    this.#model = model;
    this.#network = new Network(model, () => effort.look());
    this.#options = options;
    this.#effort = effort;
    this.#random = uniform(xoroshiro128plus(options.seed ?? 1));
    this.#bound = leastHands(model);
    this.#inserter = new JobInserter(model);
  }

  /** @returns null when it is proven that there is no schedule */
  run(sums: boolean): VisitSchedule | null {
    try {
      if (!this.#network.start(this.#model.horizon)) return null;
      this.#bound = Math.max(this.#bound, this.#network.makespan());
      if (!this.#searchAll()) return null;
      if (sums && this.#proven()) this.#shortenSum();
    } catch (error) {
      if (!(error instanceof OutOfTime)) throw error;
    }
    // Time was up before anything else: what can be had at once.
    if (!this.#best && this.#effort.stopped) this.#take(this.#inserter.insert(this.#inserter.longestFirst()));
    if (!this.#best) return { status: "unknown", makespan: 0, lowerBound: this.#bound, phases: [] };
    return {
      status: this.#proven() ? "optimal" : "feasible",
      makespan: this.#best.makespan,
      lowerBound: this.#bound,
      phases: toPhases(this.#model, this.#best),
    };
  }

  /** @returns false when it is proven that there is no schedule */
  #searchAll(): boolean {
    this.#insert();
    if (this.#best) this.#raiseBound(refuted(this.#network, this.#bound, this.#best.makespan));
    const large = this.#model.phases >= LARGE_PHASES;
    if (large) this.#anneal(ANNEAL_LARGE_UNTIL);
    else if (hasAfter(this.#model.problem.jobs)) this.#anneal(ANNEAL_WOVEN_UNTIL);
    for (let round = 0; this.#goesOn(); round++) {
      if (this.#best !== null) this.#improve();
      if (this.#goesOn() && !this.#search(round)) return false;
      if (round === 0 && !large) this.#anneal(ANNEAL_UNTIL);
    }
    return true;
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

  /** First schedules: the longest jobs first, what is followed by most first, then any order. */
  #insert(): void {
    const { jobs } = this.#model.problem;
    for (let i = 0; i < FIRST_ORDERS && this.#effort.step(jobs.length); i++) {
      const order =
        i === 1
          ? this.#inserter.longestFirst()
          : this.#inserter.whole(i === 0 ? byLength(this.#model) : shuffled(range(jobs.length), this.#random));
      this.#take(this.#inserter.insert(order));
      if (this.#best?.makespan === this.#bound && i >= 8) break;
    }
  }

  /** On a large visit, the order in which work is placed. */
  #anneal(until: number): void {
    const { jobs } = this.#model.problem;
    if (jobs.length < LARGE_JOBS || !this.#goesOn()) return;
    const best = this.#best;
    const first = (j: number): number => best!.start[this.#model.firstPhase[j]!]!;
    const order = best ? range(jobs.length).sort((a, b) => first(a) - first(b)) : byLength(this.#model);
    const how = { random: this.#random, until, enough: this.#bound };
    this.#take(annealOrder(this.#inserter, this.#inserter.whole(order), how, this.#effort));
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
    const steps = effort.nodes + SUM_STEPS * Math.min(1, SMALL_PHASES / this.#model.phases) ** 2;
    effort.shorten(SUM_SHARE);
    for (let misses = 0; misses < SUM_ATTEMPTS && effort.nodes < steps && effort.step();) {
      const how = { by: "sum" as const, share: 0.2 + 0.6 * this.#random(), random: this.#random };
      misses = this.#take(improveOnce(this.#network, this.#best!, how, effort)) ? 0 : misses + 1;
    }
  }
}

/** The hands-on work shared out among all, begun work of before minute 0 aside: nothing ends earlier. */
function leastHands(model: VisitModel): number {
  if ((model.problem.fixed ?? []).length > 0) return 0;
  let minutes = 0;
  for (let p = 0; p < model.phases; p++) if (model.isHands[p]) minutes += model.length[p]!;
  return Math.ceil(minutes / model.problem.technicians);
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
