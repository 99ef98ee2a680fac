import { must } from "../must";

/** Most checks whose best order is found by going through all of them. */
const EXACT_CHECKS = 10;
/** Orders that differ by a smaller share are equally good: what remains of adding in another order. */
const SLACK = 1e-13;

/** A search for the one cause, in numbers. */
export interface Search {
  /** Chance of each cause, adding up to 1. */
  chances: readonly number[];
  /** For each check and cause, the chance that the check shows it when that cause is the one. */
  finds: readonly (readonly number[])[];
  /** Minutes of each check. */
  minutes: readonly number[];
  /** How many states the machine can be in; they are numbered from 0. */
  states: number;
  start: number;
  /** Minutes on the way from a state into what a check needs, and the state the machine is in then. */
  way: (state: number, check: number) => number;
  after: (state: number, check: number) => number;
}

/** A check of an order: the minutes that it and the way to it take, and how likely it comes to that. */
interface Leg {
  check: number;
  minutes: number;
  reach: number;
}

interface CheckOrder {
  /** Checks that can find anything when their turn comes, then the others as given. */
  order: number[];
  /** Those of them that can find anything. */
  legs: Leg[];
  /** Until found, or until no check that is left can find anything: what the legs come to. */
  expectedMinutes: number;
  /** No other order is expected to find it sooner. */
  isExact: boolean;
}

/**
 * The order of checks with the least expected minutes. A check that finds ends the search, so that whatever one does is an order:
 * exact by dynamic programming over the checks done and the state one is in, up to `EXACT_CHECKS` that can find anything; beyond,
 * the best chance per minute first. Of orders that are equally good the one that keeps to what is given.
 */
export function checkOrder(search: Search): CheckOrder {
  const useful = search.finds.flatMap((finds, k) => (chanceOf(search.chances, finds) > 0 ? [k] : []));
  const isExact = useful.length <= EXACT_CHECKS;
  const legs = walked(search, isExact ? exactOrder(search, useful) : ratioOrder(search, useful));
  const order = legs.map((leg) => leg.check);
  return {
    order: [...order, ...search.finds.flatMap((_, k) => (order.includes(k) ? [] : [k]))],
    legs,
    expectedMinutes: legs.reduce((sum, leg) => sum + leg.reach * leg.minutes, 0),
    isExact,
  };
}

function walked({ chances, finds, minutes, start, way, after }: Search, order: readonly number[]): Leg[] {
  let [left, state] = [chances, start];
  return order.map((check) => {
    const reach = left.reduce((sum, chance) => sum + chance, 0);
    const leg = { check, minutes: way(state, check) + must(minutes[check]), reach };
    left = without(left, must(finds[check]));
    state = after(state, check);
    return leg;
  });
}

const chanceOf = (left: readonly number[], finds: readonly number[]): number =>
  left.reduce((sum, chance, c) => sum + chance * must(finds[c]), 0);

/** The chance of each cause together with a check that shows nothing. */
export const without = (left: readonly number[], finds: readonly number[]): number[] =>
  left.map((chance, c) => chance * (1 - must(finds[c])));

function exactOrder(search: Search, useful: readonly number[]): number[] {
  const subsets = 1 << useful.length;
  /** By checks that have shown nothing, the chance of each cause together with that. */
  const left: number[][] = [[...search.chances]];
  for (let done = 1; done < subsets; done++) {
    const last = 31 - Math.clz32(done);
    left[done] = without(must(left[done & ~(1 << last)]), must(search.finds[must(useful[last])]));
  }
  const cost = new Float64Array(subsets * search.states);
  const first = new Int8Array(subsets * search.states).fill(-1);
  for (let done = subsets - 1; done >= 0; done--) {
    const now = must(left[done]);
    const reach = now.reduce((sum, chance) => sum + chance, 0);
    const open = useful.flatMap((k, i) => ((done >> i) & 1 || chanceOf(now, must(search.finds[k])) <= 0 ? [] : [i]));
    for (let state = 0; state < search.states; state++) {
      const at = done * search.states + state;
      let best = Infinity;
      for (const i of open) {
        const k = must(useful[i]);
        const then = must(cost[(done | (1 << i)) * search.states + search.after(state, k)]);
        const takes = reach * (search.way(state, k) + must(search.minutes[k])) + then;
        if (best !== Infinity && takes >= best * (1 - SLACK)) continue;
        best = takes;
        first[at] = i;
      }
      cost[at] = open.length === 0 ? 0 : best;
    }
  }
  const order: number[] = [];
  for (let done = 0, state = search.start; ;) {
    const i = must(first[done * search.states + state]);
    if (i < 0) break;
    const k = must(useful[i]);
    order.push(k);
    done |= 1 << i;
    state = search.after(state, k);
  }
  return order;
}

function ratioOrder(search: Search, useful: readonly number[]): number[] {
  const open = new Set(useful);
  const order: number[] = [];
  let [left, state] = [search.chances, search.start];
  for (;;) {
    let [next, most] = [-1, 0];
    for (const k of open) {
      const chance = chanceOf(left, must(search.finds[k]));
      const takes = search.way(state, k) + must(search.minutes[k]);
      const worth = takes === 0 && chance > 0 ? Infinity : chance / takes;
      if (chance > 0 && worth > most * (1 + SLACK)) [next, most] = [k, worth];
    }
    if (next < 0) return order;
    left = without(left, must(search.finds[next]));
    state = search.after(state, next);
    order.push(next);
    open.delete(next);
  }
}
