import type { Phase, PhaseRef, VisitJob } from "./types";

/** One way on the bench. What it and its phases come after is named by path; the machine's own way is `MACHINE`. */
export interface BenchPath {
  path: string;
  after: PhaseRef[];
  phases: Phase[];
}

/** Names the machine's own way where a path comes after it. */
export const MACHINE = "";

/** Work at a machine, with what goes on at the bench beside it. */
export interface WithBench {
  phases: Phase[];
  bench?: BenchPath[];
}

/** The jobs of one duty on a visit: the machine's own under its id, and one for each way on the bench. */
export function visitJobs(job: Omit<VisitJob, "phases">, { phases, bench = [] }: WithBench): VisitJob[] {
  if (bench.length === 0) return [{ ...job, phases }];
  const named = (refs: readonly PhaseRef[]): PhaseRef[] =>
    refs.map(({ job: path, index }) => ({ job: benchJobId(job.id, path), index }));
  const tied = (list: readonly Phase[]): Phase[] =>
    list.map((phase) => (phase.kind === "hands" && phase.after ? { ...phase, after: named(phase.after) } : phase));
  return [
    { ...job, phases: tied(phases) },
    ...bench.map((one) => ({
      ...job,
      id: benchJobId(job.id, one.path),
      after: named(one.after),
      phases: tied(one.phases),
    })),
  ];
}

/** All phases of a duty, at the machine and on the bench. */
export const allPhases = ({ phases, bench = [] }: WithBench): Phase[] => [
  ...phases,
  ...bench.flatMap((one) => one.phases),
];

/** Id of the job of a way on the bench. */
export const benchJobId = (job: string, path: string): string => (path === MACHINE ? job : `${job}/${path}`);

/** The duty whose job, at the machine or on the bench, has this id. */
export const dutyOfJob = (id: string): string => id.split("/")[0] ?? id;
