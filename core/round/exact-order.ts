import { must } from "../must";
import { type Clockwork, compareRounds, drive } from "./clockwork";
import type { RoundTimes } from "./types";

/** More stops are left to the search: the number of states doubles with each. */
export const MOST_EXACT = 13;

/**
 * Best order by dynamic programming over the sets of stops visited (M. Held, R. Karp, Journal of SIAM 10, 1962; R. Bellman,
 * Journal of the ACM 9, 1962), with all states that neither are later, nor later in sum, nor have travelled more than another
 * kept: leaving earlier never makes anything worse, so the others can be dropped.
 *
 * @param known an order to beat: what cannot is dropped early
 * @param step counts a state; false stops
 * @returns null when stopped
 */
export function exactOrder(
  clock: Clockwork,
  known: { order: number[]; times: RoundTimes },
  step: () => boolean,
): { order: number[]; times: RoundTimes } | null {
  const n = clock.stops;
  const full = 2 ** n - 1;
  const cheapestInto = Array.from({ length: n + 1 }, (_, to) => {
    let least = Infinity;
    for (let from = 0; from <= n; from++) if (from !== to) least = Math.min(least, must(must(clock.travel[from])[to]));
    return least;
  });
  const ahead = new Float64Array(full + 1);
  for (let mask = full; mask >= 0; mask--) {
    let sum = clock.returnToDepot ? must(cheapestInto[0]) : 0;
    for (let i = 0; i < n; i++) if (!(mask & (1 << i))) sum += must(cheapestInto[i + 1]);
    ahead[mask] = sum;
  }

  // One entry a label; `next` chains the labels of a state.
  const late: number[] = [];
  const travelled: number[] = [];
  const time: number[] = [];
  const cameFrom: number[] = [];
  const node: number[] = [];
  const next: number[] = [];
  const head = new Int32Array((full + 1) * n).fill(-1);
  let best = known;

  const add = (state: number, ahead: number, lateness: number, travel: number, at: number): boolean => {
    const bound = travel + ahead;
    const beaten = lateness - best.times.lateMinutes;
    if (beaten > 1e-9 || (beaten > -1e-9 && bound > best.times.travelMinutes + 1e-9)) return false;
    let previous = -1;
    for (let l = must(head[state]); l >= 0; l = must(next[l])) {
      if (must(late[l]) <= lateness && must(travelled[l]) <= travel && must(time[l]) <= at) return false;
      if (lateness <= must(late[l]) && travel <= must(travelled[l]) && at <= must(time[l])) {
        if (previous < 0) head[state] = must(next[l]);
        else next[previous] = must(next[l]);
      } else previous = l;
    }
    late.push(lateness);
    travelled.push(travel);
    time.push(at);
    next.push(must(head[state]));
    head[state] = late.length - 1;
    return true;
  };
  const visit = (mask: number, from: number, label: number): void => {
    for (let i = 0; i < n; i++) {
      if (mask & (1 << i)) continue;
      const to = i + 1;
      const begin = clock.open(to, clock.arrive(from, to, label < 0 ? clock.startAt : must(time[label])));
      const lateness = (label < 0 ? 0 : must(late[label])) + clock.late(to, begin);
      const travel = (label < 0 ? 0 : must(travelled[label])) + must(must(clock.travel[from])[to]);
      const reached = mask | (1 << i);
      if (!add(reached * n + i, must(ahead[reached]), lateness, travel, begin + clock.minutes(to))) continue;
      cameFrom.push(label);
      node.push(to);
    }
  };

  visit(0, 0, -1);
  for (let mask = 1; mask < full; mask++) {
    for (let i = 0; i < n; i++) {
      for (let l = must(head[mask * n + i]); l >= 0; l = must(next[l])) {
        if (!step()) return null;
        visit(mask, i + 1, l);
      }
    }
  }
  for (let i = 0; i < n; i++) {
    for (let l = must(head[full * n + i]); l >= 0; l = must(next[l])) {
      const order: number[] = [];
      for (let at = l; at >= 0; at = must(cameFrom[at])) order.unshift(must(node[at]));
      const times = drive(clock, order);
      if (compareRounds(times, best.times) < 0) best = { order, times };
    }
  }
  return best;
}
