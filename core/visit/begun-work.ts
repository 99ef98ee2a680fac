import { afterOf } from "./after";
import type { FixedPhase, Phase, PhaseRef, VisitJob } from "./types";

/** Begun phases of a job by their index. */
export type Begun = ReadonlyMap<number, FixedPhase>;

const NOTHING_BEGUN: Begun = new Map();

/** What has begun, by job. */
export function begunByJob(fixed: readonly FixedPhase[] | undefined): (job: string) => Begun {
  const byJob = new Map<string, Map<number, FixedPhase>>();
  for (const one of fixed ?? []) {
    const own = byJob.get(one.job) ?? new Map<number, FixedPhase>();
    byJob.set(one.job, own.set(one.index, one));
  }
  return (job) => byJob.get(job) ?? NOTHING_BEGUN;
}

/** When a job may begin: with work that has begun its release has been and gone. */
export const releaseOf = (job: VisitJob, begun: Begun): number => (begun.size > 0 ? 0 : (job.release ?? 0));

/**
 * What is said to have begun and cannot have: before what goes before it has ended, not right behind it, after too long or too
 * short a wait, past the deadline. Nothing of it is ever moved.
 *
 * @param time how a minute is written
 * @param endOf when a phase that has begun has ended, as far as that is known
 * @returns sentences that name the phases
 */
export function contradictions(
  job: VisitJob,
  begun: Begun,
  time: (minute: number) => string,
  endOf: (ref: PhaseRef) => number | null,
): string[] {
  if (begun.size === 0) return [];
  const told: string[] = [];
  /** Start of the phase before, when it is known. */
  let before: number | null = null;
  job.phases.forEach((phase, index) => {
    const fixed = begun.get(index);
    const previous = job.phases[index - 1];
    const ended = previous?.kind === "hands" && before !== null ? before + previous.minutes : null;
    const start = fixed?.start ?? (phase.kind === "wait" ? (previous ? ended : 0) : null);
    const tell = (because: string): number =>
      told.push(`${job.id}: phase ${index} is said to have begun at ${time(start ?? 0)}, but ${because}.`);
    if (fixed && ended !== null && (phase.kind === "wait" ? start !== ended : fixed.start < ended))
      tell(
        `phase ${index - 1} began at ${time(before ?? 0)} and takes ${previous?.minutes} minutes, until ${time(ended)}`,
      );
    if (fixed && previous?.kind === "wait" && before !== null) {
      const bound = brokenBound(previous, fixed.start - before);
      if (bound) tell(`the wait before it, phase ${index - 1}, ${bound} minutes from ${time(before)}`);
    }
    if (fixed)
      for (const [ref, end] of notOver(afterOf(job, index), fixed.start, endOf))
        tell(`phase ${ref.index} of ${ref.job}, which it comes after, lasts until ${time(end)}`);
    if (fixed && job.deadline !== undefined && phase.kind === "hands" && fixed.start + phase.minutes > job.deadline)
      tell(`takes until ${time(fixed.start + phase.minutes)}, after the deadline ${time(job.deadline)}`);
    before = start;
  });
  return told;
}

/** Which of its bounds a wait of some minutes does not keep. */
function brokenBound({ minutes, maxMinutes }: Extract<Phase, { kind: "wait" }>, lasted: number): string | null {
  if (lasted < minutes) return `takes at least ${minutes}`;
  return maxMinutes !== undefined && lasted > maxMinutes ? `lasts at most ${maxMinutes}` : null;
}

/** Of begun phases those that end after a time, with their ends. */
function notOver(refs: readonly PhaseRef[], by: number, endOf: (ref: PhaseRef) => number | null): [PhaseRef, number][] {
  return refs.flatMap((ref): [PhaseRef, number][] => {
    const end = endOf(ref);
    return end !== null && end > by ? [[ref, end]] : [];
  });
}

/** When a phase that has begun ends, as far as what has begun says so; null otherwise. */
export function endOfBegun(job: VisitJob, index: number, begun: Begun): number | null {
  const phase = job.phases[index]!;
  const next = job.phases[index + 1];
  const before = job.phases[index - 1];
  const fixed = begun.get(index)?.start;
  if (phase.kind === "hands") return fixed === undefined ? null : fixed + phase.minutes;
  if (next) return begun.get(index + 1)?.start ?? null;
  const start = fixed ?? (before?.kind === "hands" ? endOfBegun(job, index - 1, begun) : null);
  return start === null ? null : start + phase.minutes;
}
