import { range, type VisitModel } from "./model";

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
  const kinds = new Map<number, number>();
  const add = (p: number, q: number, kind: number): void => {
    if (model.jobOf[p] === model.jobOf[q]) return;
    const key = Math.min(p, q) * model.phases + Math.max(p, q);
    kinds.set(key, (kinds.get(key) ?? 0) | kind);
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
  const keys = [...kinds.keys()].sort((a, b) => a - b);
  const of: number[][] = range(model.phases).map(() => []);
  keys.forEach((key, k) => {
    of[Math.floor(key / model.phases)]!.push(k);
    of[key % model.phases]!.push(k);
  });
  return {
    count: keys.length,
    first: Int32Array.from(keys, (key) => Math.floor(key / model.phases)),
    second: Int32Array.from(keys, (key) => key % model.phases),
    kind: Uint8Array.from(keys, (key) => kinds.get(key)!),
    of: of.map((list) => Int32Array.from(list)),
  };
}
