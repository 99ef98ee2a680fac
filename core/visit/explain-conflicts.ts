import { Effort } from "../effort";
import { afterOf, hasAfter } from "./after";
import { buildModel } from "./model";
import { Network } from "./network";
import { proveImpossible } from "./prove-impossible";
import type { PhaseRef, VisitJob, VisitProblem } from "./types";

type TimeWords = (minute: number) => string;

/** Search nodes for each question asked on the way. */
const NODES = 400;

/** What explaining a visit by itself may cost at most, milliseconds. */
const EXPLAIN_MS = 2000;

/**
 * Why a visit is impossible: the smallest set of jobs that collide (none of them could be left out of the proof), and what
 * each of them insists on. When `effort` ends before the set is smallest, it is said with the jobs that are left by then.
 *
 * @param problem a visit proven impossible
 * @param time how a minute is written
 * @returns sentences with job ids
 */
export function explainConflicts(
  problem: VisitProblem,
  time: TimeWords = String,
  effort: Effort = new Effort({ timeLimitMs: EXPLAIN_MS }),
): string[] {
  const told = buildModel(problem, time).conflicts;
  if (told.length > 0) return told;
  const impossible = (jobs: VisitJob[]): boolean => proveImpossible(only(problem, jobs), NODES, effort);
  const alone = problem.jobs.filter((job) => impossible([job]));
  if (alone.length > 0) return alone.map((job) => reasonAlone(problem, job, time, effort));
  const { jobs, smallest } = collision(problem.jobs, impossible, effort);
  const names = jobs.map((job) => job.id);
  if (jobs.length > 1 && hasAfter(jobs) && !impossible(jobs.map(withoutAfter)))
    return [
      `${listed(names)} cannot all be done in the order that is asked for: what one comes after ends too late in another.`,
      ...jobs.flatMap((job) => insistence(problem, job, time)),
    ];
  const bound = jobs.flatMap((job) => insistence(problem, job, time));
  const hands = jobs.reduce(
    (sum, job) => sum + job.phases.reduce((inner, phase) => inner + (phase.kind === "hands" ? phase.minutes : 0), 0),
    0,
  );
  const people = problem.technicians === 1 ? "one technician" : `${problem.technicians} technicians`;
  return [
    `${listed(names)} cannot all be done by ${people}: they take ${hands} minutes of hands-on work${smallest ? ", and any one of them left out would make room" : ""}.`,
    ...bound,
  ];
}

/**
 * Jobs that collide with none to spare: whole stretches are left out first, as in U. Junker, "QuickXplain", AAAI 2004 (from
 * memory), then smaller ones, so that a few that collide among many are found with few proofs.
 */
function collision(
  all: VisitJob[],
  impossible: (jobs: VisitJob[]) => boolean,
  effort: Effort,
): { jobs: VisitJob[]; smallest: boolean } {
  let jobs = all;
  for (let stretch = Math.max(1, Math.floor(all.length / 2)); ; stretch = Math.max(1, Math.floor(stretch / 2))) {
    for (let at = 0; at < jobs.length;) {
      const fewer = [...jobs.slice(0, at), ...jobs.slice(at + stretch)];
      if (fewer.length > 0 && impossible(fewer)) jobs = fewer;
      else at += stretch;
      if (effort.stopped) return { jobs, smallest: false };
    }
    if (stretch === 1) return { jobs, smallest: true };
  }
}

/** The visit with some of its jobs. */
export function only(problem: VisitProblem, jobs: VisitJob[]): VisitProblem {
  const kept = new Set(jobs.map((job) => job.id));
  return {
    ...problem,
    // What comes after work that is left out may come at any time.
    jobs: jobs.some((job) => job.phases.some((_, index) => afterOf(job, index).some((ref) => !kept.has(ref.job))))
      ? jobs.map((job) => changedAfter(job, (refs) => refs.filter((ref) => kept.has(ref.job))))
      : jobs,
    fixed: (problem.fixed ?? []).filter((one) => kept.has(one.job)),
  };
}

const withoutAfter = (job: VisitJob): VisitJob => changedAfter(job, () => []);

function changedAfter(job: VisitJob, change: (refs: PhaseRef[]) => PhaseRef[]): VisitJob {
  return {
    ...job,
    after: change(job.after ?? []),
    phases: job.phases.map((phase) =>
      phase.kind === "hands" && phase.after ? { ...phase, after: change(phase.after) } : phase,
    ),
  };
}

function reasonAlone(problem: VisitProblem, job: VisitJob, time: TimeWords, effort: Effort): string {
  const own = only(problem, [job]);
  // By itself it waits for no other.
  const alone = own.jobs[0]!;
  const { deadline: _deadline, ...endless } = alone;
  const { windows: _windows, ...atAnyTime } = alone;
  const { technicianHours: _hours, ...atAllHours } = own;
  if (!effort.look()) return `${job.id} cannot be done as it is asked for.`;
  const withoutDeadline: VisitProblem = { ...own, jobs: [endless] };
  const possible = (changed: VisitProblem): boolean => !proveImpossible(changed, NODES, effort);
  if (job.deadline !== undefined && possible(withoutDeadline)) {
    return `${job.id} can end at ${time(earliestEnd(withoutDeadline))} at the earliest, after its deadline ${time(job.deadline)}.`;
  }
  if (job.windows !== undefined && possible({ ...own, jobs: [atAnyTime] })) {
    const longest = Math.max(0, ...job.phases.map((phase) => (phase.kind === "hands" ? phase.minutes : 0)));
    const spans = job.windows.map(([from, to]) => `${time(from)}–${time(to)}`).join(", ");
    return job.windows.length === 0
      ? `${job.id} has work to be done but no window to do it in.`
      : `${job.id} does not fit its windows ${spans}: its work (up to ${longest} minutes at a stretch) and the waits between do not fall into them.`;
  }
  if (problem.technicianHours !== undefined && possible(atAllHours))
    return `${job.id} does not fit the hours of any technician.`;
  if ((own.fixed ?? []).length > 0 && possible({ ...own, fixed: [] }))
    return `${job.id}: what has begun (${listed((own.fixed ?? []).map((one) => `phase ${one.index + 1}, ${time(one.start)}`))}) does not go with the rest of it, as a longest wait or a deadline has passed.`;
  return `${job.id} cannot be done: its own waits, deadline, windows and resources contradict each other.`;
}

function earliestEnd(problem: VisitProblem): number {
  const model = buildModel(problem);
  const network = new Network(model);
  network.start(model.horizon);
  let end = 0;
  for (let p = 0; p < model.phases; p++) end = Math.max(end, network.earliestEnd(p));
  return end;
}

/** What a job holds out for, for the sentences under a collision. */
function insistence(problem: VisitProblem, job: VisitJob, time: TimeWords): string[] {
  const parts: string[] = [];
  if (job.release) parts.push(`not before ${time(job.release)}`);
  if (job.deadline !== undefined) parts.push(`over by ${time(job.deadline)}`);
  if (job.windows !== undefined)
    parts.push(`only within ${job.windows.map(([from, to]) => `${time(from)}–${time(to)}`).join(", ")}`);
  const longest = job.phases.find((phase) => phase.kind === "wait" && phase.maxMinutes !== undefined);
  if (longest?.kind === "wait") parts.push(`a wait of at most ${longest.maxMinutes} minutes`);
  const shared = [...new Set(job.phases.flatMap((phase) => phase.uses ?? []))];
  if (shared.length > 0) parts.push(`needs ${listed(shared)}`);
  job.phases.forEach((_, index) => {
    const refs = afterOf(job, index).map((ref) => `phase ${ref.index} of ${ref.job}`);
    if (refs.length > 0) parts.push(`phase ${index} only after ${listed(refs)}`);
  });
  for (const one of problem.fixed ?? [])
    if (one.job === job.id) parts.push(`phase ${one.index} begun at ${time(one.start)}`);
  return parts.length === 0 ? [] : [`${job.id}: ${parts.join("; ")}.`];
}

function listed(names: readonly string[]): string {
  return names.length < 2 ? (names[0] ?? "") : `${names.slice(0, -1).join(", ")} and ${names[names.length - 1]}`;
}
