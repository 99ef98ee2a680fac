import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import type { VisitJob, VisitProblem } from "../../core/index";
import { must } from "../../core/must";
import { shuffled, uniform } from "../../core/random";

/**
 * A plain way to pack a large visit, to measure ours against: whole jobs placed one after the other, each as early as it
 * fits, minute by minute, and their order bettered by simulated annealing. Knows technicians who are alike, waits and
 * what is shared; no windows, no work that has begun.
 *
 * @returns the shortest length found, minutes, and how many orders were tried
 */
export function annealedInsertion(problem: VisitProblem, timeLimitMs: number): { makespan: number; tried: number } {
  const random = uniform(xoroshiro128plus(1));
  const { jobs } = problem;
  const endsAt = performance.now() + timeLimitMs;
  let order = shuffled(
    jobs.map((_, j) => j),
    random,
  );
  let makespan = lengthOf(problem, order);
  let best = makespan;
  let tried = 1;
  for (; performance.now() < endsAt; tried++) {
    const heat = 10 * 0.01 ** (1 - (endsAt - performance.now()) / timeLimitMs);
    const next = [...order];
    const [from, to] = [Math.floor(random() * next.length), Math.floor(random() * next.length)];
    if (random() < 0.5) next.splice(to, 0, ...next.splice(from, 1));
    else [next[from], next[to]] = [must(next[to]), must(next[from])];
    const length = lengthOf(problem, next);
    if (length > makespan - heat * Math.log(1 - random())) continue;
    [order, makespan] = [next, length];
    best = Math.min(best, length);
  }
  return { makespan: best, tried };
}

function lengthOf(problem: VisitProblem, order: readonly number[]): number {
  const { jobs, technicians, resources = [] } = problem;
  const minutes = jobs.reduce((sum, job) => sum + job.phases.reduce((inner, phase) => inner + phase.minutes, 0), 0);
  const room = new Map(resources.map(({ id, capacity }) => [id, new Uint8Array(2 * minutes + 1).fill(capacity)]));
  const hands = new Uint8Array(2 * minutes + 1).fill(technicians);
  const free = (left: Uint8Array, from: number, to: number): boolean => {
    for (let t = from; t < to; t++) if (left[t] === 0) return false;
    return true;
  };
  const take = (left: Uint8Array, from: number, to: number): void => {
    for (let t = from; t < to; t++) left[t] = must(left[t]) - 1;
  };
  /** Starts of the job's phases from one on, when that begins here. */
  const placed = (job: VisitJob, p: number, at: number): number[] | null => {
    const phase = job.phases[p];
    if (!phase) return [];
    const held = (phase.uses ?? []).map((id) => must(room.get(id)));
    const last = phase.kind === "hands" ? at + phase.minutes : at + (phase.maxMinutes ?? minutes);
    const mayWait = phase.kind === "wait" && p + 1 < job.phases.length;
    for (let end = at + phase.minutes; end <= (mayWait ? last : at + phase.minutes); end++) {
      if (!held.every((left) => free(left, at, end)) || (phase.kind === "hands" && !free(hands, at, end))) return null;
      const rest = placedFrom(job, p + 1, end, phase.kind === "hands" && job.phases[p + 1]?.kind === "hands");
      if (rest) return [at, ...rest];
    }
    return null;
  };
  const placedFrom = (job: VisitJob, p: number, at: number, mayStartLater: boolean): number[] | null => {
    for (let start = at; start <= (mayStartLater ? minutes : at); start++) {
      const found = placed(job, p, start);
      if (found) return found;
    }
    return null;
  };
  let makespan = 0;
  for (const j of order) {
    const job = must(jobs[j]);
    const starts = must(placedFrom(job, 0, 0, job.phases[0]?.kind === "hands"));
    job.phases.forEach((phase, p) => {
      const start = must(starts[p]);
      const end = phase.kind === "hands" ? start + phase.minutes : (starts[p + 1] ?? start + phase.minutes);
      for (const id of phase.uses ?? []) take(must(room.get(id)), start, end);
      if (phase.kind === "wait") return;
      take(hands, start, end);
      makespan = Math.max(makespan, end);
    });
  }
  return makespan;
}
