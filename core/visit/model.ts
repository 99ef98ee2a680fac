import type { VisitProblem } from "./types";

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

export function buildModel(problem: VisitProblem): VisitModel {
  const { jobs, technicians } = problem;
  const phases = jobs.reduce((sum, job) => sum + job.phases.length, 0);
  const ints = (): Int32Array => new Int32Array(phases);
  const [jobOf, length, startPoint, startOffset, endPoint, endOffset, mayDo] = [
    ints(),
    ints(),
    ints(),
    ints(),
    ints(),
    ints(),
    ints(),
  ] as const;
  const firstPhase = new Int32Array(jobs.length + 1);
  const isHands = new Uint8Array(phases);
  const earliest: number[] = [];
  const latest: number[] = [];
  const handsOf: number[] = [];
  const edges: VisitModel["edges"] = [];
  const mayStart: VisitModel["mayStart"] = [];
  const conflicts: string[] = [];
  const maybeEmpty: number[] = [];
  const fixed = new Map((problem.fixed ?? []).map((one) => [`${one.index} ${one.job}`, one]));
  const distinct =
    problem.technicianHours !== undefined || (problem.fixed ?? []).some((one) => one.technician !== undefined);
  const everybody = distinct ? 2 ** technicians - 1 : 1;

  const newPoint = (hands: number, from: number, to: number): number => {
    earliest.push(from);
    latest.push(to);
    handsOf.push(hands);
    return earliest.length - 1;
  };

  let p = 0;
  jobs.forEach((job, j) => {
    firstPhase[j] = p;
    const release = job.release ?? 0;
    job.phases.forEach((phase, index) => {
      jobOf[p] = j;
      length[p] = phase.minutes;
      mayStart.push([]);
      const begun = fixed.get(`${index} ${job.id}`);
      if (phase.kind === "hands") {
        isHands[p] = 1;
        startPoint[p] = newPoint(p, release, FAR);
        endPoint[p] = startPoint[p]!;
        endOffset[p] = phase.minutes;
        mayDo[p] = begun?.technician === undefined ? everybody : 1 << begun.technician;
        mayStart[p] = allowedStarts(problem, job.windows, phase.minutes, distinct);
      } else if (index === 0) {
        const start = begun && job.release === undefined ? begun.start : release;
        startPoint[p] = newPoint(-1, start, start);
      } else if (isHands[p - 1]) {
        startPoint[p] = startPoint[p - 1]!;
        startOffset[p] = length[p - 1]!;
      } else {
        startPoint[p] = newPoint(-1, release, FAR);
      }
      if (begun) {
        const point = startPoint[p]!;
        const at = begun.start - startOffset[p]!;
        if (job.release !== undefined && begun.start < job.release) {
          conflicts.push(
            `${job.id}: phase ${index} is said to have begun at ${begun.start}, but nothing of it may start before ${job.release}.`,
          );
        }
        if (at < latest[point]!) latest[point] = at;
        if (at > earliest[point]! || job.release === undefined) earliest[point] = at;
      }
      p++;
    });
    firstPhase[j + 1] = p;
    // What came before work that has begun may lie before minute 0.
    if (job.release === undefined) letPastBePast(firstPhase[j], p);
    for (let q = firstPhase[j]; q < p; q++) {
      if (isHands[q]) {
        if (q + 1 < p && isHands[q + 1])
          edges.push({ from: startPoint[q]!, to: startPoint[q + 1]!, weight: length[q]! });
        continue;
      }
      const phase = job.phases[q - firstPhase[j]]!;
      if (q + 1 === p) {
        endPoint[q] = startPoint[q]!;
        endOffset[q] = startOffset[q]! + length[q]!;
        continue;
      }
      endPoint[q] = startPoint[q + 1]!;
      endOffset[q] = startOffset[q + 1]!;
      edges.push({ from: startPoint[q]!, to: endPoint[q]!, weight: startOffset[q]! - endOffset[q]! + length[q]! });
      if (phase.kind === "wait" && phase.maxMinutes !== undefined) {
        edges.push({
          from: endPoint[q]!,
          to: startPoint[q]!,
          weight: endOffset[q]! - startOffset[q]! - phase.maxMinutes,
        });
      }
    }
    if (job.deadline !== undefined) {
      for (let q = firstPhase[j]; q < p; q++)
        latest[endPoint[q]!] = Math.min(latest[endPoint[q]!]!, job.deadline - endOffset[q]!);
    }
  });

  function letPastBePast(from: number, to: number): void {
    let upper = FAR;
    for (let q = to - 1; q >= from; q--) {
      const point = startPoint[q]!;
      upper = Math.min(latest[point]! + startOffset[q]!, upper - (length[q] ?? 0));
      if (upper < earliest[point]! + startOffset[q]!) earliest[point] = Math.min(earliest[point]!, -FAR / 2);
    }
  }

  const groups: ResourceGroup[] = [];
  const working = range(phases).filter((q) => isHands[q] && length[q]! > 0);
  // With as many technicians as jobs nobody ever waits for one: a job has one pair of hands on it at a time.
  if (technicians < jobs.length || distinct)
    groups.push({ id: "technicians", capacity: technicians, tasks: working, demand: working.map(() => 1) });
  for (const { id, capacity } of problem.resources ?? []) {
    const group: ResourceGroup = { id, capacity, tasks: [], demand: [] };
    for (let q = 0; q < phases; q++) {
      const phase = jobs[jobOf[q]!]!.phases[q - firstPhase[jobOf[q]!]!]!;
      const count = (phase.uses ?? []).filter((one) => one === id).length;
      if (count === 0 || (isHands[q] && length[q] === 0)) continue;
      const trailing = endPoint[q] === startPoint[q];
      if (length[q] === 0 && trailing) continue;
      if (length[q] === 0) maybeEmpty.push(q);
      group.tasks.push(q);
      group.demand.push(count);
      if (count > capacity && length[q]! > 0) {
        conflicts.push(
          `${jobs[jobOf[q]!]!.id}: phase ${q - firstPhase[jobOf[q]!]!} takes ${count} of ${id}, of which there ${capacity === 1 ? "is" : "are"} only ${capacity}.`,
        );
      }
    }
    if (group.tasks.length > 0) groups.push(group);
  }
  return {
    problem,
    points: earliest.length,
    earliest: Int32Array.from(earliest),
    latest: Int32Array.from(latest),
    edges: [...edges, ...likeJobsInOrder(problem, firstPhase, startPoint)],
    phases,
    jobOf,
    firstPhase,
    isHands,
    length,
    startPoint,
    startOffset,
    endPoint,
    endOffset,
    handsOf: Int32Array.from(handsOf),
    mayStart,
    distinct,
    mayDo,
    groups,
    maybeEmpty: [...new Set(maybeEmpty)],
    horizon: horizonOf(problem),
    conflicts,
  };
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
function horizonOf(problem: VisitProblem): number {
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

/** Jobs that differ in nothing but the name and of which nothing has begun; lists of two and more. */
export function likeJobs(problem: VisitProblem): number[][] {
  const begun = new Set((problem.fixed ?? []).map((one) => one.job));
  const byKey = new Map<string, number[]>();
  problem.jobs.forEach(({ id, release, deadline, windows, phases }, j) => {
    if (begun.has(id)) return;
    const key = JSON.stringify([release ?? 0, deadline ?? null, windows ?? null, phases]);
    byKey.set(key, [...(byKey.get(key) ?? []), j]);
  });
  return [...byKey.values()].filter((jobs) => jobs.length > 1);
}

export function range(length: number): number[] {
  return Array.from({ length }, (_, i) => i);
}
