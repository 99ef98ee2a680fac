import jstat from "jstat";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { requireList, requireRecord } from "../inputs";
import { must } from "../must";
import { requireFinite } from "../numbers";
import { shuffled, uniform } from "../random";

/** Pairs from which on something is said at all: with four, the best agreement there is comes by luck one time in twelve. */
export const LEAST_PAIRS = 5;
/** Up to so many, every order is tried; of more, so many orders at random. */
const ALL_ORDERS = 8;
const ORDERS = 20_000;
/** Of very many pairs fewer orders tell as much: a table is not waited for. */
const MOST_STEPS = 2_000_000;
const LEAST_ORDERS = 1000;

export interface Agreement {
  /** Rank correlation, −1 to 1; null when there are too few pairs or one side does not vary. */
  rho: number | null;
  /** How often chance alone gives as much agreement, either way; null with `rho`. */
  byLuck: number | null;
  n: number;
}

/**
 * Whether one figure goes with another over sites or machines: Spearman's rank correlation, ties at their mean rank, with the exact
 * permutation test (of more than eight pairs by 20,000 orders, of more than a hundred by fewer, at least 1,000, always the same).
 *
 * @param pairs one a site or machine, so that many services of one do not count as many
 * @throws CoreError `bad-number`
 */
export function agreement(pairs: readonly { cause: number; effect: number }[]): Agreement {
  requireList(pairs, "pairs");
  pairs.forEach((pair, i) => {
    const { cause, effect } = requireRecord(pair, `pairs[${i}]`);
    requireFinite(cause, `pairs[${i}].cause`);
    requireFinite(effect, `pairs[${i}].effect`);
  });
  const n = pairs.length;
  const [causes, effects] = [ranked(pairs.map((one) => one.cause)), ranked(pairs.map((one) => one.effect))];
  if (n < LEAST_PAIRS || isFlat(causes) || isFlat(effects)) return { rho: null, byLuck: null, n };
  const rho = jstat.corrcoeff(causes, effects);
  // With both sides as they are, the sum of products alone tells how well an order agrees.
  const mean = (n + 1) / 2;
  const agrees = (order: readonly number[]): number =>
    Math.abs(order.reduce((sum, effect, i) => sum + (must(causes[i]) - mean) * (effect - mean), 0));
  const least = agrees(effects) - 1e-9;
  let [all, asMuch] = [0, 0];
  const count = (order: readonly number[]): void => {
    all++;
    if (agrees(order) >= least) asMuch++;
  };
  if (n <= ALL_ORDERS) everyOrder(effects, count);
  else {
    const random = uniform(xoroshiro128plus(n));
    // The order as it is counts as one of them: chance is never said to be none.
    count(effects);
    const orders = Math.max(LEAST_ORDERS, Math.min(ORDERS, Math.floor(MOST_STEPS / n)));
    for (let i = 1; i < orders; i++) count(shuffled([...effects], random));
  }
  return { rho, byLuck: asMuch / all, n };
}

/** Ranks from 1; equal ones have their mean rank. */
const ranked = (values: readonly number[]): number[] => jstat.rank([...values]);
const isFlat = (ranks: readonly number[]): boolean => ranks.every((one) => one === ranks[0]);

/** Every order of a list (Heap's algorithm). */
function everyOrder(list: readonly number[], visit: (order: readonly number[]) => void): void {
  const order = [...list];
  const swap = (i: number, k: number): void => {
    [order[i], order[k]] = [must(order[k]), must(order[i])];
  };
  const permute = (size: number): void => {
    if (size <= 1) {
      visit(order);
      return;
    }
    for (let i = 0; i < size; i++) {
      permute(size - 1);
      swap(size % 2 === 0 ? i : 0, size - 1);
    }
  };
  permute(order.length);
}
