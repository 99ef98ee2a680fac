import { likeJobs, type VisitModel } from "./model";
import type { PackedPhase } from "./types";

/** Where everything is put: starts and ends by phase, technicians of hands phases (−1 for waits). */
export interface Placement {
  start: Int32Array;
  end: Int32Array;
  technician: Int32Array;
  makespan: number;
  sumOfEnds: number;
}

/** Measures of a placement whose times are set. */
export function measure(model: VisitModel, start: Int32Array, end: Int32Array, technician: Int32Array): Placement {
  let makespan = 0;
  let sumOfEnds = 0;
  for (let p = 0; p < model.phases; p++) if (model.isHands[p]) makespan = Math.max(makespan, end[p]!);
  for (let j = 0; j + 1 < model.firstPhase.length; j++)
    if (model.firstPhase[j + 1]! > model.firstPhase[j]!) sumOfEnds += end[model.firstPhase[j + 1]! - 1]!;
  return { start, end, technician, makespan, sumOfEnds };
}

/** Better: ends earlier; of equal ends, its jobs end earlier in sum. */
export function isBetter(one: Placement, than: Placement | null): boolean {
  return (
    than === null || one.makespan < than.makespan || (one.makespan === than.makespan && one.sumOfEnds < than.sumOfEnds)
  );
}

export function toPhases(model: VisitModel, placement: Placement): PackedPhase[] {
  return Array.from({ length: model.phases }, (_, p) => {
    const job = model.jobOf[p]!;
    const phase: PackedPhase = {
      job: model.problem.jobs[job]!.id,
      index: p - model.firstPhase[job]!,
      start: placement.start[p]!,
      end: placement.end[p]!,
    };
    return model.isHands[p] ? { ...phase, technician: placement.technician[p]! } : phase;
  });
}

/** Gives work at given times to alike technicians: in order of starts, to whoever is free. */
export function shareOut(model: VisitModel, start: Int32Array, end: Int32Array): Int32Array {
  const technician = new Int32Array(model.phases).fill(-1);
  const freeFrom = new Array<number>(model.problem.technicians).fill(-Infinity);
  const hands = Array.from({ length: model.phases }, (_, p) => p).filter((p) => model.isHands[p]);
  hands.sort((p, q) => start[p]! - start[q]! || end[p]! - end[q]!);
  for (const p of hands) {
    if (start[p] === end[p]) {
      technician[p] = 0;
      continue;
    }
    const free = freeFrom.findIndex((time) => time <= start[p]!);
    technician[p] = free;
    freeFrom[free] = end[p]!;
  }
  return technician;
}

/** The same schedule with like jobs in the order of their first work, as the search keeps them. */
export function inOrder(model: VisitModel, placement: Placement): Placement {
  const { start, end, technician } = placement;
  const [newStart, newEnd, newTechnician] = [start.slice(), end.slice(), technician.slice()];
  for (const jobs of likeJobs(model.problem)) {
    const hands = model.problem.jobs[jobs[0]!]!.phases.findIndex((phase) => phase.kind === "hands");
    if (hands < 0) continue;
    const sorted = [...jobs].sort(
      (a, b) => start[model.firstPhase[a]! + hands]! - start[model.firstPhase[b]! + hands]!,
    );
    jobs.forEach((j, i) => {
      const [to, from] = [model.firstPhase[j]!, model.firstPhase[sorted[i]!]!];
      for (let p = 0; p < model.firstPhase[j + 1]! - to; p++) {
        newStart[to + p] = start[from + p]!;
        newEnd[to + p] = end[from + p]!;
        newTechnician[to + p] = technician[from + p]!;
      }
    });
  }
  return { ...placement, start: newStart, end: newEnd, technician: newTechnician };
}
