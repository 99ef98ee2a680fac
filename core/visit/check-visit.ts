import { requireList, requireRecord } from "../inputs";
import { readVisitProblem } from "./check-problem";
import type { PackedPhase, Phase, PhaseRef, VisitJob, VisitProblem, VisitSchedule } from "./types";

/**
 * Verifies a schedule against every rule of its visit, independently of how it was found.
 *
 * @returns what is broken, in sentences with job ids; [] when every rule holds
 * @throws CoreError when the visit itself is malformed
 */
export function checkVisit(given: VisitProblem, schedule: VisitSchedule): string[] {
  const problem = readVisitProblem(given);
  requireList(requireRecord(schedule, "schedule").phases, "schedule.phases").forEach((phase, p) => {
    requireRecord(phase, `schedule.phases[${p}]`);
  });
  if (schedule.status === "infeasible" || schedule.status === "unknown") {
    return schedule.phases.length === 0 ? [] : [`A visit that is ${schedule.status} has no phases.`];
  }
  const faults: string[] = [];
  const placed = place(problem, schedule, faults);
  if (faults.length > 0) return faults;
  problem.jobs.forEach((_, j) => checkJob(problem, j, placed, faults));
  for (const { job, index, start, technician } of problem.fixed ?? []) {
    const phase = placed[problem.jobs.findIndex((one) => one.id === job)]![index]!;
    if (phase.start !== start) faults.push(`${job}, phase ${index}, began at ${start} but is put at ${phase.start}.`);
    if (technician !== undefined && phase.technician !== technician)
      faults.push(`${job}, phase ${index}, was begun by technician ${technician}.`);
  }
  checkTechnicians(problem, placed, faults);
  checkResources(problem, placed, faults);
  const makespan = Math.max(
    0,
    ...problem.jobs.flatMap((job, j) =>
      job.phases.flatMap((phase, p) => (phase.kind === "hands" ? [placed[j]![p]!.end] : [])),
    ),
  );
  if (schedule.makespan !== makespan) faults.push(`The last work ends at ${makespan}, not at ${schedule.makespan}.`);
  if (schedule.lowerBound > makespan) faults.push(`The bound ${schedule.lowerBound} is above the length ${makespan}.`);
  if (schedule.status === "optimal" && schedule.lowerBound !== makespan)
    faults.push(`Said to be optimal with a bound of ${schedule.lowerBound} for ${makespan}.`);
  return faults;
}

/** Phases by job and index, each once. */
function place(problem: VisitProblem, schedule: VisitSchedule, faults: string[]): PackedPhase[][] {
  const byKey = new Map<string, PackedPhase>();
  for (const phase of schedule.phases) {
    const key = `${phase.index} ${phase.job}`;
    if (byKey.has(key)) faults.push(`${phase.job}, phase ${phase.index}, is there twice.`);
    byKey.set(key, phase);
    if (!Number.isInteger(phase.start) || !Number.isInteger(phase.end))
      faults.push(`${phase.job}, phase ${phase.index}, is not at whole minutes.`);
  }
  const placed = problem.jobs.map((job) =>
    job.phases.map((_, index) => {
      const phase = byKey.get(`${index} ${job.id}`);
      if (!phase) faults.push(`${job.id}, phase ${index}, is missing.`);
      byKey.delete(`${index} ${job.id}`);
      return phase!;
    }),
  );
  for (const phase of byKey.values()) faults.push(`${phase.job}, phase ${phase.index}, is not part of the visit.`);
  return placed;
}

function checkJob(problem: VisitProblem, j: number, all: PackedPhase[][], faults: string[]): void {
  const job = problem.jobs[j]!;
  const placed = all[j]!;
  const begun = new Map((problem.fixed ?? []).filter((one) => one.job === job.id).map((one) => [one.index, one.start]));
  // A job of which something has begun is released.
  const release = begun.size > 0 ? 0 : (job.release ?? 0);
  const ended = ({ job: id, index }: PhaseRef): number =>
    all[problem.jobs.findIndex((one) => one.id === id)]![index]!.end;
  job.phases.forEach((phase, p) => {
    const { start, end } = placed[p]!;
    const name = `${job.id}, phase ${p},`;
    const fault = (what: string): number => faults.push(`${name} ${what}`);
    if (phase.kind === "hands") checkHands(problem, { job, placed, p, begun: begun.has(p) }, fault);
    else checkWait(job, placed, p, begun.get(0) ?? Math.max(release, ...(job.after ?? []).map(ended)), fault);
    const after = [...(p === 0 ? (job.after ?? []) : []), ...(phase.kind === "hands" ? (phase.after ?? []) : [])];
    for (const ref of after)
      if (start < ended(ref))
        fault(`starts at ${start}, before phase ${ref.index} of ${ref.job} ends at ${ended(ref)}.`);
    // A wait begins when the work before it ends, whenever that was; everything else that has not begun is still to come.
    const derived = phase.kind === "wait" && job.phases[p - 1]?.kind === "hands";
    if (!derived && !begun.has(p) && start < release) fault(`starts at ${start}, before ${release}.`);
    if (job.deadline !== undefined && end > job.deadline) fault(`ends at ${end}, after the deadline ${job.deadline}.`);
  });
}

function checkHands(
  problem: VisitProblem,
  { job, placed, p, begun }: { job: VisitJob; placed: PackedPhase[]; p: number; begun: boolean },
  fault: (what: string) => void,
): void {
  const { start, end, technician } = placed[p]!;
  const before = placed[p - 1];
  const minutes = job.phases[p]!.minutes;
  if (end - start !== minutes) fault(`takes ${end - start} minutes instead of ${minutes}.`);
  if (before && start < before.end) fault(`starts at ${start}, before phase ${p - 1} ends at ${before.end}.`);
  if (before && job.phases[p - 1]!.kind === "wait" && start !== before.end)
    fault(`starts at ${start}, but the wait before it ends at ${before.end}.`);
  if (technician === undefined || !Number.isInteger(technician) || technician < 0 || technician >= problem.technicians)
    fault("has no technician.");
  if (job.windows && !begun && !job.windows.some(([from, to]) => start >= from && end <= to))
    fault(`at ${start}–${end} lies in none of its windows.`);
}

function checkWait(
  job: VisitJob,
  placed: PackedPhase[],
  p: number,
  first: number,
  fault: (what: string) => void,
): void {
  const { start, end, technician } = placed[p]!;
  const phase = job.phases[p]!;
  const due = placed[p - 1]?.end ?? first;
  const next = placed[p + 1];
  const lasts = end - start;
  if (start !== due) fault(`waits from ${start}, but what comes before it ends at ${due}.`);
  if (technician !== undefined) fault("is a wait and takes no technician.");
  if (!next) {
    if (lasts !== phase.minutes) fault(`at the end lasts ${lasts} minutes instead of ${phase.minutes}.`);
    return;
  }
  if (end !== next.start) fault(`ends at ${end}, but the next phase starts at ${next.start}.`);
  if (lasts < phase.minutes) fault(`lasts ${lasts} minutes, less than ${phase.minutes}.`);
  if (phase.kind === "wait" && phase.maxMinutes !== undefined && lasts > phase.maxMinutes)
    fault(`lasts ${lasts} minutes, more than ${phase.maxMinutes}.`);
}

function checkTechnicians(problem: VisitProblem, placed: PackedPhase[][], faults: string[]): void {
  const hands = placed.flatMap((phases, j) => phases.filter((_, p) => problem.jobs[j]!.phases[p]!.kind === "hands"));
  for (let t = 0; t < problem.technicians; t++) {
    const own = hands.filter((phase) => phase.technician === t);
    const hours = problem.technicianHours?.[t];
    for (const phase of own) {
      const begun = problem.fixed?.some((one) => one.job === phase.job && one.index === phase.index);
      if (hours && !begun && !hours.some(([from, to]) => phase.start >= from && phase.end <= to)) {
        faults.push(
          `${phase.job}, phase ${phase.index}, at ${phase.start}–${phase.end} is outside the hours of technician ${t}.`,
        );
      }
    }
    const busy = own.filter((phase) => phase.end > phase.start).sort((a, b) => a.start - b.start);
    busy.forEach((phase, i) => {
      const before = busy[i - 1];
      if (before && phase.start < before.end) {
        faults.push(
          `Technician ${t} has ${before.job}, phase ${before.index}, and ${phase.job}, phase ${phase.index}, at ${phase.start}.`,
        );
      }
    });
  }
}

function checkResources(problem: VisitProblem, placed: PackedPhase[][], faults: string[]): void {
  for (const { id, capacity } of problem.resources ?? []) {
    const held = placed.flatMap((phases, j) =>
      phases.flatMap((phase, p) => {
        const count = usesOf(problem.jobs[j]!.phases[p]!, id);
        return count > 0 && phase.end > phase.start ? [{ ...phase, count }] : [];
      }),
    );
    for (const { start } of held) {
      const now = held.filter((phase) => phase.start <= start && phase.end > start);
      const taken = now.reduce((sum, phase) => sum + phase.count, 0);
      if (taken > capacity) {
        faults.push(
          `At ${start} ${[...new Set(now.map((phase) => phase.job))].join(", ")} take ${taken} of ${id}, of which there ${capacity === 1 ? "is" : "are"} ${capacity}.`,
        );
      }
    }
  }
}

function usesOf(phase: Phase, id: string): number {
  return (phase.uses ?? []).filter((one) => one === id).length;
}
