import type { FixedPhase, VisitJob } from "./types";

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
 * @returns sentences that name the phases
 */
export function contradictions(job: VisitJob, begun: Begun, time: (minute: number) => string): string[] {
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
      const lasted = fixed.start - before;
      if (lasted < previous.minutes)
        tell(`the wait before it, phase ${index - 1}, takes at least ${previous.minutes} minutes from ${time(before)}`);
      else if (previous.maxMinutes !== undefined && lasted > previous.maxMinutes)
        tell(
          `the wait before it, phase ${index - 1}, lasts at most ${previous.maxMinutes} minutes from ${time(before)}`,
        );
    }
    if (fixed && job.deadline !== undefined && phase.kind === "hands" && fixed.start + phase.minutes > job.deadline)
      tell(`takes until ${time(fixed.start + phase.minutes)}, after the deadline ${time(job.deadline)}`);
    before = start;
  });
  return told;
}
