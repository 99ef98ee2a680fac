import { must } from "../must";
import { type Clockwork, compareRounds, drive } from "./clockwork";
import type { RoundTimes } from "./types";

export interface KnownOrder {
  order: number[];
  times: RoundTimes;
}

/** Longest chain of stops moved as one. */
const CHAIN = 3;

/**
 * Betters an order until no single change helps: a stretch driven the other way round, or up to three stops in a row put
 * elsewhere, either way round (2-opt: G. Croes, Operations Research 6, 1958; Or-opt: I. Or, 1976).
 *
 * @param step counts a change tried; false stops
 */
export function descend(clock: Clockwork, from: KnownOrder, step: () => boolean): KnownOrder {
  return clock.plain ? descendByTravel(clock, from, step) : descendByTimes(clock, from, step);
}

/** Without windows and timetables each change is judged by the legs it replaces. */
function descendByTravel(clock: Clockwork, from: KnownOrder, step: () => boolean): KnownOrder {
  const { travel } = clock;
  const n = clock.stops;
  let order = [0, ...from.order, 0];
  const back = clock.returnToDepot ? 1 : 0;
  const leg = (a: number, b: number, to: number): number =>
    to === n + 1 ? back * must(must(travel[a])[b]) : must(must(travel[a])[b]);
  // Legs there and back summed from the beginning: a stretch the other way round costs their difference.
  const there = new Float64Array(n + 2);
  const reverse = new Float64Array(n + 2);
  const sums = (): void => {
    for (let i = 1; i <= n + 1; i++) {
      there[i] = must(there[i - 1]) + leg(must(order[i - 1]), must(order[i]), i);
      reverse[i] = must(reverse[i - 1]) + must(must(travel[must(order[i])])[must(order[i - 1])]);
    }
  };
  sums();
  /** Turns a stretch that begins at i round where that is shorter; null = no steps left. */
  const turn = (i: number): boolean | null => {
    for (let k = i + 1; k <= n; k++) {
      if (!step()) return null;
      const [a, b, c, d] = [must(order[i - 1]), must(order[i]), must(order[k]), must(order[k + 1])];
      const gain =
        leg(a, b, i) +
        leg(c, d, k + 1) +
        (must(there[k]) - must(there[i])) -
        (leg(a, c, i) + leg(b, d, k + 1) + (must(reverse[k]) - must(reverse[i])));
      if (gain <= 1e-9) continue;
      order = [...order.slice(0, i), ...order.slice(i, k + 1).reverse(), ...order.slice(k + 1)];
      return true;
    }
    return false;
  };
  /** Puts the chain from i to k elsewhere, turned round or not, where that is shorter; null = no steps left. */
  const move = (i: number, k: number): boolean | null => {
    const [a, first, last, d] = [must(order[i - 1]), must(order[i]), must(order[k]), must(order[k + 1])];
    const freed = leg(a, first, i) + leg(last, d, k + 1) - leg(a, d, k + 1);
    const turned = must(reverse[k]) - must(reverse[i]) - (must(there[k]) - must(there[i]));
    for (let to = 0; to <= n; to++) {
      if (to >= i - 1 && to <= k) continue;
      if (!step()) return null;
      const [p, q] = [must(order[to]), must(order[to + 1])];
      const removed = leg(p, q, to + 1);
      const straight = freed + removed - must(must(travel[p])[first]) - leg(last, q, to + 1);
      const flipped = freed + removed - must(must(travel[p])[last]) - leg(first, q, to + 1) - turned;
      if (Math.max(straight, flipped) <= 1e-9) continue;
      order = moved(order, i, k, to, flipped > straight);
      return true;
    }
    return false;
  };
  const better = (i: number): boolean | null => {
    let found = turn(i);
    for (let k = i; found === false && k < i + CHAIN && k <= n; k++) found = move(i, k);
    return found;
  };
  for (let improved = true; improved;) {
    improved = false;
    for (let i = 1; i <= n && !improved; i++) {
      const found = better(i);
      if (found === null) return done();
      improved = found;
    }
    if (improved) sums();
  }
  return done();

  function done(): KnownOrder {
    const result = order.slice(1, -1);
    return { order: result, times: drive(clock, result) };
  }
}

function moved(order: number[], i: number, k: number, to: number, flip: boolean): number[] {
  const chain = order.slice(i, k + 1);
  if (flip) chain.reverse();
  const rest = [...order.slice(0, i), ...order.slice(k + 1)];
  const at = to < i ? to + 1 : to + 1 - chain.length;
  return [...rest.slice(0, at), ...chain, ...rest.slice(at)];
}

/** With windows or timetables each change is driven through. */
function descendByTimes(clock: Clockwork, from: KnownOrder, step: () => boolean): KnownOrder {
  let best = from;
  const n = clock.stops;
  const tryOrder = (order: number[]): boolean => {
    const times = drive(clock, order);
    if (compareRounds(times, best.times) >= 0) return false;
    best = { order, times };
    return true;
  };
  /** Changes that begin with the stretch from i to k: turned round where it is, or put elsewhere; null = no steps left. */
  const better = (i: number, k: number): boolean | null => {
    const { order } = best;
    const [head, chain, tail] = [order.slice(0, i), order.slice(i, k + 1), order.slice(k + 1)];
    const turned = [...chain].reverse();
    if (k > i) {
      if (!step()) return null;
      if (tryOrder([...head, ...turned, ...tail])) return true;
    }
    if (k - i >= CHAIN) return false;
    const rest = [...head, ...tail];
    for (let at = 0; at <= rest.length; at++) {
      if (at === i) continue;
      if (!step()) return null;
      const put = (what: number[]): number[] => [...rest.slice(0, at), ...what, ...rest.slice(at)];
      if (tryOrder(put(chain)) || (chain.length > 1 && tryOrder(put(turned)))) return true;
    }
    return false;
  };
  for (let improved = true; improved;) {
    improved = false;
    for (let i = 0; i < n && !improved; i++) {
      for (let k = i; k < n && !improved; k++) {
        const found = better(i, k);
        if (found === null) return best;
        improved = found;
      }
    }
  }
  return best;
}

/** Puts each stop where it costs least, the farthest from the depot first. */
export function insertCheapest(clock: Clockwork): KnownOrder {
  const nodes = Array.from({ length: clock.stops }, (_, i) => i + 1).sort(
    (a, b) => must(must(clock.travel[0])[b]) - must(must(clock.travel[0])[a]) || a - b,
  );
  let best: KnownOrder = { order: [], times: drive(clock, []) };
  for (const node of nodes) {
    let chosen: KnownOrder | null = null;
    for (let at = 0; at <= best.order.length; at++) {
      const order = [...best.order.slice(0, at), node, ...best.order.slice(at)];
      const times = drive(clock, order);
      if (chosen === null || compareRounds(times, chosen.times) < 0) chosen = { order, times };
    }
    best = must(chosen);
  }
  return best;
}

/** Two neighbouring stretches change places, somewhere at random: a change that no descent undoes at once. */
export function shake(order: readonly number[], random: () => number): number[] {
  const n = order.length;
  const longest = Math.max(1, Math.floor(Math.min(n / 3, 12)));
  const first = 1 + Math.floor(random() * longest);
  const second = 1 + Math.floor(random() * longest);
  const at = Math.floor(random() * Math.max(1, n - first - second + 1));
  const middle = at + first;
  const end = Math.min(n, middle + second);
  return [...order.slice(0, at), ...order.slice(middle, end), ...order.slice(at, middle), ...order.slice(end)];
}
