import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { must } from "../must";
import { uniform } from "../random";
import { draws } from "../testing/draws";
import { leastWays, leastWaysInRounds } from "./week-bound";

/** The shortest round through all places, by trying every order of them. */
function shortestRound(travel: readonly (readonly number[])[], overheads: readonly number[]): number {
  const go = (at: number, left: readonly number[]): number =>
    left.length === 0
      ? must(must(travel[at])[0])
      : Math.min(
          ...left.map(
            (to) =>
              must(must(travel[at])[to]) +
              must(overheads[to - 1]) +
              go(
                to,
                left.filter((one) => one !== to),
              ),
          ),
        );
  return go(
    0,
    overheads.map((_, i) => i + 1),
  );
}

it("one place costs the way there, arriving, and the way back; what is worth less is left", () => {
  const travel = [
    [0, 20],
    [30, 0],
  ];
  // By the shorter direction both ways: a bound, not the round itself.
  expect(leastWays(travel, [10])).toBe(50);
  expect(leastWays(travel, [10], [12])).toBe(12);
  expect(leastWays([[0]], [])).toBe(0);
});

it("two places far away and near each other are gone to together", () => {
  const travel = [
    [0, 60, 60],
    [60, 0, 4],
    [60, 4, 0],
  ];
  expect(leastWays(travel, [0, 0])).toBe(60 + 4 + 60);
});

it("work that is longer than a day takes several rounds there", () => {
  const far = [
    [0, 60, 60],
    [60, 0, 4],
    [60, 4, 0],
  ];
  expect(leastWaysInRounds(far, [200, 200], 480)).toBe(124);
  expect(leastWaysInRounds(far, [300, 300], 480)).toBe(2 * 120);
  expect(leastWaysInRounds(far, [1000, 0], 480)).toBe(120 + 120 + 124);
});

/** The least ways of all shares of places among rounds that have room for their work, each in its best order. */
function leastRounds(travel: readonly (readonly number[])[], loads: readonly number[], longest: number): number {
  const rounds = new Map<number, number>();
  for (let set = 1; set < 1 << loads.length; set++) {
    const chosen = loads.flatMap((_, i) => (set & (1 << i) ? [i + 1] : []));
    if (chosen.reduce((sum, i) => sum + must(loads[i - 1]), 0) > longest) continue;
    const nodes = [0, ...chosen];
    const own = nodes.map((a) => nodes.map((b) => must(must(travel[a])[b])));
    rounds.set(
      set,
      shortestRound(
        own,
        chosen.map(() => 0),
      ),
    );
  }
  const best = new Map<number, number>([[0, 0]]);
  for (let set = 1; set < 1 << loads.length; set++)
    for (const [one, ways] of rounds)
      if ((one & set) === one && best.has(set ^ one))
        best.set(set, Math.min(best.get(set) ?? Infinity, ways + must(best.get(set ^ one))));
  return best.get((1 << loads.length) - 1) ?? Infinity;
}

it("in rounds is never more than the best share of the places among them", () => {
  let [sum, of] = [0, 0];
  for (let seed = 0; seed < draws(60, 2000); seed++) {
    const random = uniform(xoroshiro128plus(seed + 901));
    const whole = (from: number, to: number): number => from + Math.floor(random() * (to - from + 1));
    const count = whole(1, 6);
    const at = Array.from({ length: count + 1 }, () => [whole(0, 90), whole(0, 90)] as const);
    const travel = at.map((a) => at.map((b) => Math.round(Math.hypot(a[0] - b[0], a[1] - b[1]))));
    const loads = Array.from({ length: count }, () => whole(10, 100));
    const best = leastRounds(travel, loads, 120);
    const bound = leastWaysInRounds(travel, loads, 120);
    expect([seed, bound <= best + 1e-9]).toEqual([seed, true]);
    sum += bound;
    of += best;
  }
  expect(sum / of).toBeGreaterThan(0.5);
});

it("is never more than the best round, for all places or for any choice of them, and not far below it", () => {
  let [sum, of] = [0, 0];
  for (let seed = 0; seed < draws(60, 2000); seed++) {
    const random = uniform(xoroshiro128plus(seed + 77));
    const whole = (from: number, to: number): number => from + Math.floor(random() * (to - from + 1));
    const count = whole(1, 6);
    const at = Array.from({ length: count + 1 }, () => [whole(0, 90), whole(0, 90)] as const);
    const travel = at.map((a) =>
      at.map((b) => Math.round(Math.hypot(a[0] - b[0], a[1] - b[1])) + (a === b ? 0 : whole(0, 3))),
    );
    const overheads = Array.from({ length: count }, () => whole(0, 12));
    const best = shortestRound(travel, overheads);
    const bound = leastWays(travel, overheads);
    expect([seed, bound <= best + 1e-9]).toEqual([seed, true]);
    sum += bound;
    of += best;
    const prizes = overheads.map(() => whole(0, 120));
    let least = Infinity;
    for (let choice = 0; choice < 1 << count; choice++) {
      const chosen = prizes.flatMap((_, i) => (choice & (1 << i) ? [i + 1] : []));
      const nodes = [0, ...chosen];
      const left = prizes.reduce((total, prize, i) => (choice & (1 << i) ? total : total + prize), 0);
      const ways =
        chosen.length === 0
          ? 0
          : shortestRound(
              nodes.map((a) => nodes.map((b) => must(must(travel[a])[b]))),
              chosen.map((i) => must(overheads[i - 1])),
            );
      least = Math.min(least, left + ways);
    }
    expect([seed, leastWays(travel, overheads, prizes) <= least + 1e-9]).toEqual([seed, true]);
  }
  expect(sum / of).toBeGreaterThan(0.8);
});
