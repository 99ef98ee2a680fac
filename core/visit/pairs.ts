import { hasAfter, inTurn } from "./after";
import type { VisitModel } from "./model";

/** Pairs of phases of different jobs that may have to take turns. */
export interface PairTable {
  count: number;
  first: Int32Array;
  second: Int32Array;
  /** Bits: `NEVER_TOGETHER`, `SAME_TECHNICIAN`, `SHARE`. */
  kind: Uint8Array;
  /** Pairs of each phase. */
  of: Int32Array[];
}

/** They need more of something than there is: one goes before the other. */
export const NEVER_TOGETHER = 1;
/** They take turns once they are given to the same technician. */
export const SAME_TECHNICIAN = 2;
/** They share something that is enough for both, but perhaps not for a third. */
export const SHARE = 4;

export function buildPairs(model: VisitModel): PairTable {
  const { phases } = model;
  const inOrder = orderOf(model);
  // One place for every two phases: on a large visit much quicker than looking pairs up.
  const kinds = new Uint8Array(phases * phases);
  const add = (p: number, q: number, kind: number): void => {
    if (!inOrder(p, q)) kinds[p < q ? p * phases + q : q * phases + p]! |= kind;
  };
  model.groups.forEach((group, g) => {
    const technicians = model.distinct && g === 0;
    group.tasks.forEach((p, a) => {
      for (let b = a + 1; b < group.tasks.length; b++) {
        const q = group.tasks[b]!;
        if (technicians) add(p, q, SAME_TECHNICIAN);
        add(p, q, group.demand[a]! + group.demand[b]! > group.capacity ? NEVER_TOGETHER : SHARE);
      }
    });
  });
  let count = 0;
  const most = new Int32Array(phases);
  for (let p = 0; p < phases; p++)
    for (let q = p + 1; q < phases; q++)
      if (kinds[p * phases + q]) {
        count++;
        most[p]!++;
        most[q]!++;
      }
  const table: PairTable = {
    count,
    first: new Int32Array(count),
    second: new Int32Array(count),
    kind: new Uint8Array(count),
    of: Array.from(most, (length) => new Int32Array(length)),
  };
  let k = 0;
  most.fill(0);
  for (let p = 0; p < phases; p++)
    for (let q = p + 1; q < phases; q++) {
      const kind = kinds[p * phases + q]!;
      if (!kind) continue;
      table.first[k] = p;
      table.second[k] = q;
      table.kind[k] = kind;
      table.of[p]![most[p]!++] = k;
      table.of[q]![most[q]!++] = k;
      k++;
    }
  return table;
}

/** Whether one of two phases goes before the other whatever happens: in their job, or by what comes after what. */
function orderOf({ problem, phases, jobOf, firstPhase }: VisitModel): (p: number, q: number) => boolean {
  if (!hasAfter(problem.jobs)) return (p, q) => jobOf[p] === jobOf[q];
  const { order, before } = inTurn(problem.jobs, firstPhase);
  const words = Math.ceil(phases / 32);
  /** A row of bits for each phase: all that it comes behind. */
  const earlier = new Int32Array(phases * words);
  for (const p of order)
    for (const one of before[p]!) {
      for (let w = 0; w < words; w++) earlier[p * words + w]! |= earlier[one * words + w]!;
      earlier[p * words + (one >> 5)]! |= 1 << (one & 31);
    }
  const isBefore = (p: number, q: number): boolean => (earlier[q * words + (p >> 5)]! & (1 << (p & 31))) !== 0;
  return (p, q) => isBefore(p, q) || isBefore(q, p);
}
