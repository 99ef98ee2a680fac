import type { Raise, Tasks } from "./push-disjunctive";

/**
 * Rules for what several may use at once: no moment takes more than there is of what surely runs then, work is moved out of
 * moments that are full, and no span of time holds more work than it has room for.
 *
 * Time-table and energy rules as in P. Baptiste, C. Le Pape, W. Nuijten, "Constraint-Based Scheduling" (2001), chapter 3;
 * quoted from memory.
 *
 * @param surely latest start and earliest end of a phase: between them it runs whatever happens
 * @returns false when the tasks cannot all be done
 */
export function pushCumulative(
  tasks: Tasks,
  capacity: number,
  surely: (phase: number) => [number, number],
  raise: Raise,
): boolean {
  const { count: n } = tasks;
  if (n < 2) return n === 0 || tasks.demand[0]! <= capacity;
  if (!hasRoom(tasks, capacity)) return false;
  const [phase, est, lct, length, demand] = [tasks.phase, tasks.est, tasks.lct, tasks.length, tasks.demand].map(
    (list) => list.slice(0, n),
  ) as [Int32Array, Int32Array, Int32Array, Int32Array, Int32Array];
  const from = new Int32Array(n);
  const to = new Int32Array(n);
  const times: number[] = [];
  for (let i = 0; i < n; i++) {
    [from[i], to[i]] = surely(phase[i]!);
    if (from[i]! < to[i]!) times.push(from[i]!, to[i]!);
  }
  if (times.length === 0) return true;
  const cuts = [...new Set(times)].sort((a, b) => a - b);
  const taken = new Int32Array(cuts.length);
  for (let i = 0; i < n; i++) {
    if (from[i]! >= to[i]!) continue;
    for (let c = 0; c + 1 < cuts.length; c++) if (cuts[c]! >= from[i]! && cuts[c]! < to[i]!) taken[c]! += demand[i]!;
  }
  for (let c = 0; c < cuts.length; c++) if (taken[c]! > capacity) return false;
  for (let i = 0; i < n; i++) {
    const [start, end] = outOfFull(i);
    if ((start !== est[i] || end !== lct[i]) && !raise(phase[i]!, start, end)) return false;
  }
  return true;

  /** The task's earliest start and latest end outside moments that the others fill. */
  function outOfFull(i: number): [number, number] {
    let start = est[i]!;
    let end = lct[i]!;
    const full = (c: number): boolean => {
      const own = from[i]! < to[i]! && cuts[c]! >= from[i]! && cuts[c]! < to[i]! ? demand[i]! : 0;
      return taken[c]! - own + demand[i]! > capacity;
    };
    for (let c = 0; c + 1 < cuts.length; c++)
      if (start < cuts[c + 1]! && start + length[i]! > cuts[c]! && full(c)) start = cuts[c + 1]!;
    for (let c = cuts.length - 2; c >= 0; c--)
      if (end > cuts[c]! && end - length[i]! < cuts[c + 1]! && full(c)) end = cuts[c]!;
    return [start, end];
  }
}

function hasRoom({ count: n, est, lct, length, demand }: Tasks, capacity: number): boolean {
  const order = Array.from({ length: n }, (_, i) => i).sort((a, b) => est[b]! - est[a]!);
  for (let k = 0; k < n; k++) {
    const limit = lct[k]!;
    let energy = 0;
    for (const i of order) {
      if (lct[i]! > limit) continue;
      energy += length[i]! * demand[i]!;
      if (energy > capacity * (limit - est[i]!)) return false;
    }
  }
  return true;
}
