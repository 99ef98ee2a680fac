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
  for (let improved = true; improved;) {
    improved = false;
    for (let i = 1; i <= n && !improved; i++) {
      for (let k = i + 1; k <= n && !improved; k++) {
        if (!step()) return done();
        const [a, b, c, d] = [must(order[i - 1]), must(order[i]), must(order[k]), must(order[k + 1])];
        const gain =
          leg(a, b, i) +
          leg(c, d, k + 1) +
          (must(there[k]) - must(there[i])) -
          (leg(a, c, i) + leg(b, d, k + 1) + (must(reverse[k]) - must(reverse[i])));
        if (gain > 1e-9) {
          order = [...order.slice(0, i), ...order.slice(i, k + 1).reverse(), ...order.slice(k + 1)];
          improved = true;
        }
      }
      for (let length = 1; length <= CHAIN && i + length - 1 <= n && !improved; length++) {
        const k = i + length - 1;
        const [a, first, last, d] = [must(order[i - 1]), must(order[i]), must(order[k]), must(order[k + 1])];
        const freed = leg(a, first, i) + leg(last, d, k + 1) - leg(a, d, k + 1);
        const turned = must(reverse[k]) - must(reverse[i]) - (must(there[k]) - must(there[i]));
        for (let to = 0; to <= n && !improved; to++) {
          if (to >= i - 1 && to <= k) continue;
          if (!step()) return done();
          const [p, q] = [must(order[to]), must(order[to + 1])];
          const removed = leg(p, q, to + 1);
          const straight = freed + removed - must(must(travel[p])[first]) - leg(last, q, to + 1);
          const flipped = freed + removed - must(must(travel[p])[last]) - leg(first, q, to + 1) - turned;
          if (Math.max(straight, flipped) <= 1e-9) continue;
          order = moved(order, i, k, to, flipped > straight);
          improved = true;
        }
      }
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
  for (let improved = true; improved;) {
    improved = false;
    for (let i = 0; i < n && !improved; i++) {
      for (let k = i; k < n && !improved; k++) {
        const { order } = best;
        if (k > i) {
          if (!step()) return best;
          improved = tryOrder([...order.slice(0, i), ...order.slice(i, k + 1).reverse(), ...order.slice(k + 1)]);
        }
        if (improved || k - i >= CHAIN) continue;
        const chain = order.slice(i, k + 1);
        const rest = [...order.slice(0, i), ...order.slice(k + 1)];
        for (let at = 0; at <= rest.length && !improved; at++) {
          if (at === i) continue;
          if (!step()) return best;
          improved = tryOrder([...rest.slice(0, at), ...chain, ...rest.slice(at)]);
          if (!improved && chain.length > 1)
            improved = tryOrder([...rest.slice(0, at), ...[...chain].reverse(), ...rest.slice(at)]);
        }
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
