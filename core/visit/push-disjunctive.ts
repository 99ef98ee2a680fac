/** Work that shares something, as a rule sees it: earliest start, latest end, least length. */
export interface Tasks {
  count: number;
  phase: Int32Array;
  est: Int32Array;
  lct: Int32Array;
  length: Int32Array;
  demand: Int32Array;
}

/** Puts new bounds in force; false at a contradiction. */
export type Raise = (phase: number, est: number, lct: number) => boolean;

const FLOOR = -1_000_000_000;

/**
 * Edge-finding for work that takes turns: where a set of tasks leaves no room for another before (or after) it, that other
 * one starts after (ends before) all of them. Both directions, O(n²).
 *
 * Method: P. Baptiste, C. Le Pape, W. Nuijten, "Constraint-Based Scheduling" (2001), section 2.1.4, after J. Carlier and
 * E. Pinson, Management Science 35 (1989); quoted from memory.
 *
 * @returns false when the tasks cannot all be done
 */
export function pushDisjunctive(tasks: Tasks, raise: Raise): boolean {
  const { count: n, phase, est, lct, length } = tasks;
  if (n < 2) return true;
  const newStart = est.slice(0, n);
  const mirrorStart = new Int32Array(n);
  const mirrorEnd = new Int32Array(n);
  for (let i = 0; i < n; i++) {
    mirrorStart[i] = -lct[i]!;
    mirrorEnd[i] = -est[i]!;
  }
  if (!findEdges(n, est, lct, length, newStart)) return false;
  const newMirror = mirrorStart.slice();
  if (!findEdges(n, mirrorStart, mirrorEnd, length, newMirror)) return false;
  // The bounds are put in force last: the loops above read what they started from.
  const phases = phase.slice(0, n);
  const before = { est: est.slice(0, n), lct: lct.slice(0, n) };
  for (let i = 0; i < n; i++) {
    if (newStart[i]! === before.est[i] && -newMirror[i]! === before.lct[i]) continue;
    if (!raise(phases[i]!, newStart[i]!, -newMirror[i]!)) return false;
  }
  return true;
}

function findEdges(n: number, est: Int32Array, lct: Int32Array, length: Int32Array, result: Int32Array): boolean {
  const order = byTime(n, est);
  const ends = new Int32Array(n);
  for (let k = 0; k < n; k++) {
    const limit = lct[k]!;
    let work = 0;
    let end = FLOOR;
    for (let a = n - 1; a >= 0; a--) {
      const i = order[a]!;
      if (lct[i]! <= limit) {
        work += length[i]!;
        end = Math.max(end, est[i]! + work);
        if (end > limit) return false;
      }
      ends[i] = end;
    }
    // `work`: of the tasks that end by the limit, those not yet passed; `head`: end of the passed ones with all others behind.
    let head = FLOOR;
    for (let a = 0; a < n; a++) {
      const i = order[a]!;
      if (lct[i]! <= limit) {
        head = Math.max(head, est[i]! + work);
        work -= length[i]!;
        continue;
      }
      if (work > 0 && est[i]! + work + length[i]! > limit) result[i] = Math.max(result[i]!, ends[i]!);
      if (head > FLOOR && head + length[i]! > limit) result[i] = Math.max(result[i]!, end);
    }
  }
  return true;
}

/** More tasks than one group ever has; a power of two. */
const KEYS = 65_536;

/** Indices in order of time, ties by index: sorted as plain numbers, which is several times faster than with a comparison. */
function byTime(n: number, time: Int32Array): Int32Array {
  const keys = new Float64Array(n);
  for (let i = 0; i < n; i++) keys[i] = time[i]! * KEYS + i;
  keys.sort();
  const order = new Int32Array(n);
  for (let a = 0; a < n; a++) order[a] = keys[a]! - Math.floor(keys[a]! / KEYS) * KEYS;
  return order;
}
