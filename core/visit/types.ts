/** One phase of a job, by its place in it. */
export interface PhaseRef {
  job: string;
  index: number;
}

/** Work by hand, whole and uninterrupted, or a wait between such work; minutes are whole. */
export type Phase =
  /** `after`: starts only when each of these has ended, whichever job it is of. */
  | { kind: "hands"; minutes: number; uses?: string[]; after?: PhaseRef[] }
  /** At least `minutes`, at most `maxMinutes` when given: a soak that must not be left too long. */
  | { kind: "wait"; minutes: number; maxMinutes?: number; uses?: string[] };

/** One machine's work on the visit. All times are whole minutes from the visit's beginning. */
export interface VisitJob {
  id: string;
  /** Nothing of the job starts before; 0 when absent. */
  release?: number;
  /** Every phase of the job has ended by then. */
  deadline?: number;
  /** Each hands phase lies inside one of these, [from, to). */
  windows?: [number, number][];
  phases: Phase[];
  /** What its first phase comes after: a part's own way on the bench begins when the part is off. */
  after?: PhaseRef[];
}

/** Work already begun: its phase starts then, whatever else is planned around it. */
export interface FixedPhase {
  job: string;
  index: number;
  start: number;
  technician?: number;
}

export interface VisitProblem {
  technicians: number;
  jobs: VisitJob[];
  /** What phases share: a sink, a hose, a fume hood; `capacity` at a time. */
  resources?: { id: string; capacity: number }[];
  /** For each technician, when they are there: [from, to) each. */
  technicianHours?: [number, number][][];
  fixed?: FixedPhase[];
}

export interface PackedPhase {
  job: string;
  index: number;
  start: number;
  end: number;
  /** 0-based; given for every hands phase. */
  technician?: number;
}

export interface VisitSchedule {
  /** `optimal`: the makespan is proven the least possible; `unknown`: nothing found in the time given. */
  status: "optimal" | "feasible" | "infeasible" | "unknown";
  /** End of the last hands phase, minutes. */
  makespan: number;
  /** No schedule ends earlier, minutes. */
  lowerBound: number;
  phases: PackedPhase[];
  /** Why nothing is possible, in sentences with job ids. */
  conflicts?: string[];
}

export interface PackOptions {
  /** Milliseconds; 5000 when neither this nor `nodeLimit` is given. */
  timeLimitMs?: number;
  /** Search nodes: with it and the same seed, the same answer on any machine. */
  nodeLimit?: number;
  seed?: number;
  /** Clock in milliseconds; a monotonic one when absent. */
  now?: () => number;
  /** Called with each better schedule and bound; `false` stops the search with the best so far. */
  onProgress?: (best: number, bound: number) => boolean | void;
}
