import { CoreError } from "../errors";
import type { PhaseRef, VisitJob } from "./types";

const NOTHING: readonly PhaseRef[] = [];

/** What a phase comes after beside what goes before it in its job; what is said of a job holds for its first phase. */
export function afterOf(job: VisitJob, index: number): readonly PhaseRef[] {
  const phase = job.phases[index];
  const own = phase?.kind === "hands" ? phase.after : undefined;
  if (index > 0 || job.after === undefined) return own ?? NOTHING;
  return own ? [...job.after, ...own] : job.after;
}

/** Whether anything of any job comes after something of another. */
export function hasAfter(jobs: readonly VisitJob[]): boolean {
  return jobs.some((job) => job.phases.some((_, index) => afterOf(job, index).length > 0));
}

/**
 * Phases in an order in which each comes behind all it comes after.
 *
 * @param firstPhase number of each job's first phase, and one more at the end
 * @returns numbers of phases, and for each phase the numbers of those it comes after; short of some when they go in a circle
 */
export function inTurn(
  jobs: readonly VisitJob[],
  firstPhase: ArrayLike<number>,
): { order: number[]; before: readonly (readonly number[])[] } {
  const numberOf = new Map(jobs.map((job, j) => [job.id, firstPhase[j]!]));
  const before = jobs.flatMap((job, j) =>
    job.phases.map((_, index) => {
      const refs = afterOf(job, index).map((ref) => numberOf.get(ref.job)! + ref.index);
      return index > 0 ? [firstPhase[j]! + index - 1, ...refs] : refs;
    }),
  );
  const behind: number[][] = before.map(() => []);
  const open = before.map((list) => list.length);
  before.forEach((list, p) => {
    for (const one of list) behind[one]!.push(p);
  });
  const order = open.flatMap((count, p) => (count === 0 ? [p] : []));
  for (let i = 0; i < order.length; i++) for (const p of behind[order[i]!]!) if (--open[p]! === 0) order.push(p);
  return { order, before };
}

/** Number of each job's first phase, and one more at the end. */
export function firstPhases(jobs: readonly VisitJob[]): number[] {
  const first = [0];
  for (const job of jobs) first.push(first[first.length - 1]! + job.phases.length);
  return first;
}

/** @throws CoreError when phases come after each other in a circle */
export function refuseCircles(jobs: readonly VisitJob[]): void {
  if (!hasAfter(jobs)) return;
  const first = firstPhases(jobs);
  const { order, before } = inTurn(jobs, first);
  if (order.length === before.length) return;
  const done = new Set(order);
  let at = before.findIndex((_, p) => !done.has(p));
  const seen: number[] = [];
  // Whatever is left comes after something else that is left: going back from one to the next ends in the circle.
  while (!seen.includes(at)) {
    seen.push(at);
    at = before[at]!.find((p) => !done.has(p))!;
  }
  const circle = seen.slice(seen.indexOf(at)).reverse();
  const jobOf = (p: number): number => first.findIndex((from, i) => p >= from && p < first[i + 1]!);
  const name = (p: number): string => `phase ${p - first[jobOf(p)]!} of ${jobs[jobOf(p)]!.id}`;
  // The first that is asked to come after another job's, or its own job's later, work.
  const asked = circle.find((p, i) => circle.at(i - 1) !== p - 1 || p === first[jobOf(p)])!;
  const j = jobOf(asked);
  const index = asked - first[j]!;
  const named = jobs[j]!.after?.some(
    ({ job, index: of }) => name(circle.at(circle.indexOf(asked) - 1)!) === `phase ${of} of ${job}`,
  );
  throw new CoreError(
    "bad-value",
    index === 0 && named ? `jobs[${j}].after` : `jobs[${j}].phases[${index}].after`,
    circle.length === 1
      ? `${capital(name(asked))} is said to come after itself.`
      : `${capital(circle.map(name).join(", then "))} go in a circle: none of them can be the first.`,
  );
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
