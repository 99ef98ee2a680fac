import { checkVisit } from "../check-visit";
import type { PackedPhase, VisitJob, VisitProblem } from "../types";

/**
 * Least makespan of a very small visit, by trying every whole minute for everything: shares nothing with the search.
 *
 * @param latest no time later than this is tried
 * @returns null when nothing is possible by then
 */
export function bruteForce(problem: VisitProblem, latest: number): number | null {
  const flat = problem.jobs.flatMap((job) => job.phases.map((phase, index) => ({ job, phase, index })));
  const placed: PackedPhase[] = [];
  let best: number | null = null;

  const endOfLast = (): number =>
    placed.reduce((most, one, i) => (flat[i]!.phase.kind === "hands" ? Math.max(most, one.end) : most), 0);

  function place(i: number): void {
    const makespan = endOfLast();
    if (best !== null && makespan >= best) return;
    if (i === flat.length) {
      const phases = placed.map((one) => ({ ...one }));
      if (checkVisit(problem, { status: "feasible", makespan, lowerBound: 0, phases }).length === 0) best = makespan;
      return;
    }
    const { job, phase, index } = flat[i]!;
    const before = index > 0 ? placed[i - 1]! : null;
    const afterWait = index > 0 && flat[i - 1]!.phase.kind === "wait";
    const begun = problem.fixed?.find((one) => one.job === job.id && one.index === index);
    const from = before ? (afterWait || phase.kind === "hands" ? before.start : before.end) : released(job);
    const first = begun ? begun.start : from;
    for (let start = first; start <= (begun ? Math.min(first, latest) : latest); start++) {
      if (phase.kind === "wait" && !waitMayStart(i, start, begun !== undefined)) continue;
      if (before && !follows(i, start, before)) continue;
      const technicians =
        phase.kind === "hands" ? Array.from({ length: problem.technicians }, (_, t) => t) : [undefined];
      for (const technician of technicians) {
        if (technician !== undefined && clash(technician, start, start + phase.minutes)) continue;
        const who = technician === undefined ? {} : { technician };
        placed.push({ job: job.id, index, start, end: start + phase.minutes, ...who });
        place(i + 1);
        placed.pop();
      }
    }
  }

  /** With work that has begun the release has been and gone. */
  function released(job: VisitJob): number {
    return problem.fixed?.some((one) => one.job === job.id) ? 0 : (job.release ?? 0);
  }

  /** Waits start where the phase before them ends; the first of a job where it is released. */
  function waitMayStart(i: number, start: number, begun: boolean): boolean {
    const { job, index } = flat[i]!;
    // One that comes after something is held to it at the end, when everything stands.
    if (index === 0) return begun || (job.after !== undefined && job.after.length > 0) || start === released(job);
    return flat[i - 1]!.phase.kind === "wait" || start === placed[i - 1]!.end;
  }

  /** Whether a phase may start here after the one before it; a wait's end is the start of the next. */
  function follows(i: number, start: number, before: PackedPhase): boolean {
    const { phase } = flat[i - 1]!;
    if (phase.kind !== "wait") return start >= before.end;
    const length = start - before.start;
    if (length < phase.minutes || length > (phase.maxMinutes ?? Infinity)) return false;
    before.end = start;
    return true;
  }

  function clash(technician: number, start: number, end: number): boolean {
    return placed.some(
      (one) =>
        one.technician === technician && one.end > one.start && end > start && one.start < end && one.end > start,
    );
  }

  place(0);
  return best;
}
