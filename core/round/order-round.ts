import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { Effort } from "../effort";
import { CoreError } from "../errors";
import { must } from "../must";
import { uniform } from "../random";
import { clockworkOf, compareRounds, drive } from "./clockwork";
import { exactOrder, MOST_EXACT } from "./exact-order";
import { descend, insertCheapest, shake } from "./search-order";
import type { OrderedRound, RoundOptions, RoundProblem, RoundTimes } from "./types";

/** Descents without a better order after which the search of a few stops is given to the exact method. */
const ENOUGH_FOR_EXACT = 20;
/** Descents without a better order after which the search begins again from the best. */
const PATIENCE = 60;

/**
 * The best order of a day's stops: least minutes late, then least travel, then earliest end. Proven up to 13 stops; beyond,
 * by iterated local search (H. Lourenço, O. Martin, T. Stützle, "Iterated Local Search", 2003).
 *
 * @throws CoreError for a malformed round
 * @example orderRound({ stops: [{ id: 'a', minutes: 30 }], travel: [[0, 10], [12, 0]] }).endAt // => 52
 */
export function orderRound(problem: RoundProblem, options: RoundOptions = {}): OrderedRound {
  const clock = clockworkOf(problem);
  const effort = new Effort(options);
  const random = uniform(xoroshiro128plus(options.seed ?? 1));
  const step = (): boolean => effort.step();
  const name = (order: readonly number[]): string[] => order.map((node) => must(problem.stops[node - 1]).id);

  let best = descend(clock, insertCheapest(clock), step);
  let here = best;
  for (let misses = 0; !effort.stopped && !(clock.stops <= MOST_EXACT && misses >= ENOUGH_FOR_EXACT); misses++) {
    if (clock.stops < 3) break;
    const order = shake(here.order, random);
    const tried = descend(clock, { order, times: drive(clock, order) }, step);
    // A slightly longer order may be the way to a shorter one; too long without success leads back.
    if (compareRounds(tried.times, here.times) <= 0 || random() < 0.02) here = tried;
    if (compareRounds(tried.times, best.times) < 0) {
      best = tried;
      misses = 0;
    } else if (misses % PATIENCE === PATIENCE - 1) here = best;
  }
  if (clock.stops <= MOST_EXACT && !effort.stopped) {
    const proven = exactOrder(clock, best, step);
    if (proven) return { status: "optimal", order: name(proven.order), ...proven.times };
  }
  return { status: "feasible", order: name(best.order), ...best.times };
}

/**
 * Times of a round driven in an order given by hand.
 *
 * @throws CoreError when the order names a stop that is not there, or leaves one out
 */
export function driveRound(problem: RoundProblem, order: readonly string[]): RoundTimes {
  const clock = clockworkOf(problem);
  const nodes = order.map((id, i) => {
    const found = problem.stops.findIndex((stop) => stop.id === id);
    if (found < 0) throw new CoreError("unknown-reference", `order[${i}]`, `There is no stop ${id}.`);
    return found + 1;
  });
  if (new Set(nodes).size !== problem.stops.length || nodes.length !== problem.stops.length) {
    throw new CoreError("bad-value", "order", "An order names every stop once.");
  }
  return drive(clock, nodes);
}
