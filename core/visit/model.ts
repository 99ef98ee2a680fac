import { afterOf } from "./after";
import { type Begun, begunByJob, contradictions, endOfBegun, releaseOf } from "./begun-work";
import type { FirstWait } from "./first-waits";
import type { PhaseRef, VisitJob, VisitProblem } from "./types";

type VisitPhase = VisitJob["phases"][number];

/** "No latest time": far beyond any horizon, small enough for sums in 32 bits. */
export const FAR = 100_000_000;

/**
 * A visit as a network of time points. A hands phase has a point for its start; a wait begins at a fixed distance from the
 * point before it, so only a wait after a wait has a point of its own. Every bound between points is a difference constraint.
 */
export interface VisitModel {
  problem: VisitProblem;
  points: number;
  /** First and last time of each point before anything is derived. */
  earliest: Int32Array;
  latest: Int32Array;
  /** `x[to] ≥ x[from] + weight`. */
  edges: { from: number; to: number; weight: number }[];
  /** First waits that come after something. */
  firstWaits: FirstWait[];
  phases: number;
  jobOf: Int32Array;
  /** First phase of each job; one more at the end. */
  firstPhase: Int32Array;
  isHands: Uint8Array;
  /** Hands: their minutes. Waits: their least minutes. */
  length: Int32Array;
  startPoint: Int32Array;
  startOffset: Int32Array;
  endPoint: Int32Array;
  endOffset: Int32Array;
  /** The hands phase whose start a point is; −1 for a point between two waits. */
  handsOf: Int32Array;
  /** Where a hands phase may start, by technician (or one list for all): [first, last] pairs in order; null = anywhere. */
  mayStart: (Int32Array | null)[][];
  /** Whether technicians differ (hours, begun work), so that each hands phase must be given to one during the search. */
  distinct: boolean;
  /** Bits of the technicians that may do a phase; 0 for waits. */
  mayDo: Int32Array;
  groups: ResourceGroup[];
  /** Waits that hold something and may take no time at all: then they hold nothing. */
  maybeEmpty: number[];
  /** No schedule needs to end later. */
  horizon: number;
  /** Contradictions seen while reading the visit. */
  conflicts: string[];
}

/** What takes turns: the technicians as one (when alike), or a resource. */
export interface ResourceGroup {
  id: string;
  capacity: number;
  tasks: number[];
  demand: number[];
}

/** @param time how a minute is written in what contradicts itself */
export function buildModel(problem: VisitProblem, time: (minute: number) => string = String): VisitModel {
  return new ModelBuilder(problem, time).build();
}

/** Reads a visit phase by phase into flat arrays. */
class ModelBuilder {
  readonly #problem: VisitProblem;
  readonly #time: (minute: number) => string;
  readonly #phases: number;
  readonly #jobOf: Int32Array;
  readonly #length: Int32Array;
  readonly #startPoint: Int32Array;
  readonly #startOffset: Int32Array;
  readonly #endPoint: Int32Array;
  readonly #endOffset: Int32Array;
  readonly #mayDo: Int32Array;
  readonly #isHands: Uint8Array;
  readonly #firstPhase: Int32Array;
  readonly #earliest: number[] = [];
  readonly #latest: number[] = [];
  readonly #handsOf: number[] = [];
  readonly #edges: VisitModel["edges"] = [];
  readonly #firstWaits: FirstWait[] = [];
  readonly #mayStart: VisitModel["mayStart"] = [];
  readonly #conflicts: string[] = [];
  readonly #maybeEmpty = new Set<number>();
  readonly #begun: (job: string) => Begun;
  readonly #distinct: boolean;

  constructor(problem: VisitProblem, time: (minute: number) => string) {
    const { jobs } = problem;
    this.#time = time;
    const phases = jobs.reduce((sum, job) => sum + job.phases.length, 0);
    this.#problem = problem;
    this.#phases = phases;
    this.#jobOf = new Int32Array(phases);
    this.#length = new Int32Array(phases);
    this.#startPoint = new Int32Array(phases);
    this.#startOffset = new Int32Array(phases);
    this.#endPoint = new Int32Array(phases);
    this.#endOffset = new Int32Array(phases);
    this.#mayDo = new Int32Array(phases);
    this.#isHands = new Uint8Array(phases);
    this.#firstPhase = new Int32Array(jobs.length + 1);
    const fixed = problem.fixed ?? [];
    this.#begun = begunByJob(fixed);
    this.#distinct = problem.technicianHours !== undefined || fixed.some((one) => one.technician !== undefined);
  }

  build(): VisitModel {
    const { jobs } = this.#problem;
    jobs.forEach((job, j) => {
      this.#readJob(job, j);
    });
    this.#linkAfter();
    const groups = this.#groups();
    return {
      problem: this.#problem,
      points: this.#earliest.length,
      earliest: Int32Array.from(this.#earliest),
      latest: Int32Array.from(this.#latest),
      edges: [...this.#edges, ...likeJobsInOrder(this.#problem, this.#firstPhase, this.#startPoint)],
      firstWaits: this.#firstWaits,
      phases: this.#phases,
      jobOf: this.#jobOf,
      firstPhase: this.#firstPhase,
      isHands: this.#isHands,
      length: this.#length,
      startPoint: this.#startPoint,
      startOffset: this.#startOffset,
      endPoint: this.#endPoint,
      endOffset: this.#endOffset,
      handsOf: Int32Array.from(this.#handsOf),
      mayStart: this.#mayStart,
      distinct: this.#distinct,
      mayDo: this.#mayDo,
      groups,
      maybeEmpty: [...this.#maybeEmpty],
      horizon: horizonOf(this.#problem),
      conflicts: this.#conflicts,
    };
  }

  #readJob(job: VisitJob, j: number): void {
    const from = this.#firstPhase[j]!;
    const to = from + job.phases.length;
    this.#firstPhase[j + 1] = to;
    const begun = this.#begun(job.id);
    const ended = (ref: PhaseRef): number | null => {
      const other = this.#problem.jobs.find((one) => one.id === ref.job)!;
      return endOfBegun(other, ref.index, this.#begun(ref.job));
    };
    this.#conflicts.push(...contradictions(job, begun, this.#time, ended));
    job.phases.forEach((phase, index) => {
      this.#jobOf[from + index] = j;
      this.#readPhase(job, phase, from + index, begun);
    });
    for (let q = from; q < to; q++) this.#link(job.phases[q - from]!, q, to);
    if (job.deadline === undefined) return;
    for (let q = from; q < to; q++) {
      const point = this.#endPoint[q]!;
      this.#latest[point] = Math.min(this.#latest[point]!, job.deadline - this.#endOffset[q]!);
    }
  }

  #newPoint(hands: number, from: number, to: number): number {
    this.#earliest.push(from);
    this.#latest.push(to);
    this.#handsOf.push(hands);
    return this.#earliest.length - 1;
  }

  #readPhase(job: VisitJob, phase: VisitPhase, p: number, begun: Begun): void {
    const index = p - this.#firstPhase[this.#jobOf[p]!]!;
    const release = releaseOf(job, begun);
    const fixed = begun.get(index);
    this.#length[p] = phase.minutes;
    this.#mayStart.push([]);
    if (phase.kind === "hands") {
      const everybody = this.#distinct ? 2 ** this.#problem.technicians - 1 : 1;
      this.#isHands[p] = 1;
      this.#startPoint[p] = this.#newPoint(p, release, FAR);
      this.#endPoint[p] = this.#startPoint[p]!;
      this.#endOffset[p] = phase.minutes;
      this.#mayDo[p] = fixed?.technician === undefined ? everybody : 1 << fixed.technician;
      // What has begun has begun, inside the windows and hours or not.
      this.#mayStart[p] = fixed
        ? Array.from({ length: this.#distinct ? this.#problem.technicians : 1 }, () => null)
        : allowedStarts(this.#problem, job.windows, phase.minutes, this.#distinct);
    } else if (index === 0) {
      this.#startPoint[p] = this.#newPoint(-1, release, release);
    } else if (this.#isHands[p - 1]) {
      // Where the work before it ends: that it is said to have begun then and not elsewhere was looked at.
      this.#startPoint[p] = this.#startPoint[p - 1]!;
      this.#startOffset[p] = this.#length[p - 1]!;
      return;
    } else {
      this.#startPoint[p] = this.#newPoint(-1, release, FAR);
    }
    if (!fixed) return;
    this.#earliest[this.#startPoint[p]] = fixed.start;
    this.#latest[this.#startPoint[p]] = fixed.start;
  }

  /** Ties a phase to the next one of its job; `to` is the first phase of the next job. */
  #link(phase: VisitPhase, q: number, to: number): void {
    const start = this.#startPoint[q]!;
    const next = q + 1;
    if (this.#isHands[q]) {
      if (next < to && this.#isHands[next])
        this.#edges.push({ from: start, to: this.#startPoint[next]!, weight: this.#length[q]! });
      return;
    }
    if (next === to) {
      this.#endPoint[q] = start;
      this.#endOffset[q] = this.#startOffset[q]! + this.#length[q]!;
      return;
    }
    const end = this.#startPoint[next]!;
    this.#endPoint[q] = end;
    this.#endOffset[q] = this.#startOffset[next]!;
    const apart = this.#startOffset[q]! - this.#endOffset[q];
    this.#edges.push({ from: start, to: end, weight: apart + this.#length[q]! });
    if (phase.kind === "wait" && phase.maxMinutes !== undefined)
      this.#edges.push({ from: end, to: start, weight: -apart - phase.maxMinutes });
  }

  /** Ties phases to those of other jobs that they come after. */
  #linkAfter(): void {
    const { jobs } = this.#problem;
    const numberOf = new Map(jobs.map((job, j) => [job.id, this.#firstPhase[j]!]));
    jobs.forEach((job, j) => {
      const begun = this.#begun(job.id);
      job.phases.forEach((phase, index) => {
        const after = afterOf(job, index);
        if (after.length === 0) return;
        const p = this.#firstPhase[j]! + index;
        const point = this.#startPoint[p]!;
        const phases = [...new Set(after.map((ref) => numberOf.get(ref.job)! + ref.index))];
        const ends = phases.map((q) => ({ point: this.#endPoint[q]!, offset: this.#endOffset[q]! }));
        for (const end of ends) this.#edges.push({ from: end.point, to: point, weight: end.offset });
        if (phase.kind === "hands" || begun.has(index)) return;
        this.#latest[point] = Math.min(FAR, job.deadline === undefined ? FAR : job.deadline - phase.minutes);
        this.#firstWaits.push({ point, release: releaseOf(job, begun), ends });
      });
    });
  }

  #groups(): ResourceGroup[] {
    const { jobs, technicians, resources } = this.#problem;
    const groups: ResourceGroup[] = [];
    const working = range(this.#phases).filter((q) => this.#isHands[q] && this.#length[q]! > 0);
    // With as many technicians as jobs nobody ever waits for one: a job has one pair of hands on it at a time.
    if (technicians < jobs.length || this.#distinct)
      groups.push({ id: "technicians", capacity: technicians, tasks: working, demand: working.map(() => 1) });
    for (const { id, capacity } of resources ?? []) {
      const group: ResourceGroup = { id, capacity, tasks: [], demand: [] };
      for (let q = 0; q < this.#phases; q++) this.#addUse(group, q);
      if (group.tasks.length > 0) groups.push(group);
    }
    return groups;
  }

  /** What a phase takes of a resource, in the resource's group. */
  #addUse(group: ResourceGroup, q: number): void {
    const job = this.#problem.jobs[this.#jobOf[q]!]!;
    const index = q - this.#firstPhase[this.#jobOf[q]!]!;
    const count = (job.phases[index]!.uses ?? []).filter((one) => one === group.id).length;
    const empty = this.#length[q] === 0;
    const trailing = this.#endPoint[q] === this.#startPoint[q];
    if (count === 0 || (empty && (this.#isHands[q] || trailing))) return;
    if (empty) this.#maybeEmpty.add(q);
    group.tasks.push(q);
    group.demand.push(count);
    if (count > group.capacity && !empty)
      this.#conflicts.push(
        `${job.id}: phase ${index} takes ${count} of ${group.id}, of which there ${group.capacity === 1 ? "is" : "are"} only ${group.capacity}.`,
      );
  }
}

/** Windows of the job within each technician's hours (one list when they are alike), less the minutes the work takes. */
function allowedStarts(
  problem: VisitProblem,
  windows: [number, number][] | undefined,
  minutes: number,
  distinct: boolean,
): (Int32Array | null)[] {
  const hours = distinct
    ? (problem.technicianHours ?? Array.from({ length: problem.technicians }, () => undefined))
    : [undefined];
  return hours.map((own) => {
    if (windows === undefined && own === undefined) return null;
    const spans: [number, number][] = [];
    for (const [a, b] of windows ?? [[-FAR, FAR] as [number, number]]) {
      for (const [c, d] of own ?? [[-FAR, FAR] as [number, number]]) {
        const from = Math.max(a, c);
        const to = Math.min(b, d) - minutes;
        if (from <= to) spans.push([from, to]);
      }
    }
    spans.sort((x, y) => x[0] - y[0] || x[1] - y[1]);
    const merged: number[] = [];
    for (const [from, to] of spans) {
      const end = merged.length - 1;
      if (merged.length > 0 && from <= merged[end]! + 1) merged[end] = Math.max(merged[end]!, to);
      else merged.push(from, to);
    }
    return Int32Array.from(merged);
  });
}

/**
 * A latest end that some best schedule keeps: in a schedule pushed together to the left every start stands on a chain of
 * work and least waits that goes back to a given time (release, opening, begun work), and passes each phase once at most.
 */
export function horizonOf(problem: VisitProblem): number {
  const given = [
    0,
    ...problem.jobs.flatMap((job) => [job.release ?? 0, ...(job.windows ?? []).map(([from]) => from)]),
    ...(problem.technicianHours ?? []).flatMap((hours) => hours.map(([from]) => from)),
    ...(problem.fixed ?? []).map((one) => one.start),
  ];
  const work = problem.jobs.reduce(
    (sum, job) => sum + job.phases.reduce((inner, phase) => inner + phase.minutes, 0),
    0,
  );
  return (
    given.reduce((most, one) => Math.max(most, one), 0) +
    work +
    problem.jobs.reduce((sum, job) => sum + job.phases.length, 0)
  );
}

/** Of jobs alike in everything the first may go first: the search need not try them in every order. */
function likeJobsInOrder(problem: VisitProblem, firstPhase: Int32Array, startPoint: Int32Array): VisitModel["edges"] {
  return likeJobs(problem).flatMap((jobs) => {
    const firstHands = problem.jobs[jobs[0]!]!.phases.findIndex((phase) => phase.kind === "hands");
    if (firstHands < 0) return [];
    return jobs.slice(1).map((j, i) => ({
      from: startPoint[firstPhase[jobs[i]!]! + firstHands]!,
      to: startPoint[firstPhase[j]! + firstHands]!,
      weight: 0,
    }));
  });
}

/** Jobs that differ in nothing but the name, of which nothing has begun and after which nothing comes; lists of two and more. */
export function likeJobs(problem: VisitProblem): number[][] {
  const apart = new Set((problem.fixed ?? []).map((one) => one.job));
  for (const job of problem.jobs)
    job.phases.forEach((_, index) => {
      for (const ref of afterOf(job, index)) apart.add(ref.job);
    });
  const byKey = new Map<string, number[]>();
  problem.jobs.forEach(({ id, release, deadline, windows, phases, after }, j) => {
    if (apart.has(id)) return;
    const key = JSON.stringify([release ?? 0, deadline ?? null, windows ?? null, after ?? [], phases]);
    byKey.set(key, [...(byKey.get(key) ?? []), j]);
  });
  return [...byKey.values()].filter((jobs) => jobs.length > 1);
}

export function range(length: number): number[] {
  return Array.from({ length }, (_, i) => i);
}
