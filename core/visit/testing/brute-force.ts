import { checkVisit } from "../check-visit";
import type { PackedPhase, VisitProblem } from "../types";

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
    const from = before ? (afterWait || phase.kind === "hands" ? before.start : before.end) : (job.release ?? 0);
    for (let start = Math.min(from, begun?.start ?? from); start <= latest; start++) {
      if (begun && start !== begun.start) continue;
      // Waits start where the phase before them ends; a wait's end is the start of the next.
      if (phase.kind === "wait" && !before && !begun && start !== (job.release ?? 0)) continue;
      if (phase.kind === "wait" && before && !afterWait && start !== before.end) continue;
      if (afterWait) {
        const wait = flat[i - 1]!.phase as { minutes: number; maxMinutes?: number };
        const length = start - before!.start;
        if (length < wait.minutes || length > (wait.maxMinutes ?? Infinity)) continue;
        before!.end = start;
      } else if (before && start < before.end) continue;
      const technicians =
        phase.kind === "hands" ? Array.from({ length: problem.technicians }, (_, t) => t) : [undefined];
      for (const technician of technicians) {
        if (technician !== undefined && clash(technician, start, start + phase.minutes)) continue;
        placed.push({
          job: job.id,
          index,
          start,
          end: start + phase.minutes,
          ...(technician === undefined ? {} : { technician }),
        });
        place(i + 1);
        placed.pop();
      }
    }
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
