import fc from "fast-check";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { must } from "../must";
import { uniform } from "../random";
import { learnCauses } from "./learn-causes";
import { nextCheck } from "./next-check";

it("begins with the typical chances and moves to what is seen", () => {
  const prior = { dirt: 3, pump: 1 };
  expect(learnCauses({ prior, strength: 4, seen: [] })).toMatchObject({ dirt: { weight: 0.75, n: 0 }, pump: { n: 0 } });
  const learned = learnCauses({ prior, strength: 4, seen: ["pump", "pump", "pump", "pump"] });
  expect(learned["pump"]).toMatchObject({ weight: 0.625, n: 4 });
  expect(must(learned["dirt"]).weight).toBeCloseTo(0.375, 12);
});

it("the span is that of a beta distribution: the published example of 4 in 20", () => {
  // NIST/SEMATECH e-Handbook of Statistical Methods, 7.2.4.1: exact 90 % limits 0.071354 and 0.401029 for 4 defectives in 20
  // (from memory). The lower one is the 5th percentile of Beta(4, 17), the upper the 95th of Beta(5, 16).
  const low = learnCauses({ prior: { a: 4, b: 17 }, strength: 21, seen: [] })["a"];
  const high = learnCauses({ prior: { a: 5, b: 16 }, strength: 21, seen: [] })["a"];
  expect(must(low).low).toBeCloseTo(0.071354, 5);
  expect(must(high).high).toBeCloseTo(0.401029, 5);
});

it("and by sums of the binomial distribution: at the percentile, so many of a + b − 1 trials or more have that chance", () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 12 }), (a, b) => {
      const { low, high } = must(learnCauses({ prior: { a, b }, strength: a + b, seen: [] })["a"]);
      const trials = a + b - 1;
      const atLeast = (p: number): number => {
        let [sum, ways] = [0, 1];
        for (let k = 0; k <= trials; ways = (ways * (trials - k)) / ++k)
          if (k >= a) sum += ways * p ** k * (1 - p) ** (trials - k);
        return sum;
      };
      expect(atLeast(low)).toBeCloseTo(0.05, 6);
      expect(atLeast(high)).toBeCloseTo(0.95, 6);
    }),
    { numRuns: 100 },
  );
});

it("a cause without any weight has no chance until it is seen; a single one has all of it", () => {
  expect(learnCauses({ prior: { a: 1, b: 0 }, strength: 2, seen: [] })["b"]).toEqual({
    weight: 0,
    low: 0,
    high: 0,
    n: 0,
  });
  expect(learnCauses({ prior: { a: 1 }, strength: 2, seen: ["a"] })["a"]).toEqual({ weight: 1, low: 1, high: 1, n: 1 });
});

it.each([
  [{ prior: {}, strength: 1, seen: [] }, "prior"],
  [{ prior: { a: 0 }, strength: 1, seen: [] }, "prior"],
  [{ prior: { a: -1 }, strength: 1, seen: [] }, "prior.a"],
  [{ prior: { a: 1 }, strength: 0, seen: [] }, "strength"],
  [{ prior: { a: 1 }, strength: 1, seen: ["b"] }, "seen[0]"],
])("says what is wrong with %j", (input, path) => {
  expect(() => learnCauses(input)).toThrow(expect.objectContaining({ path }) as Error);
});

it("after 200 faults with chances unlike the typical ones, the order costs at most a twentieth more than with the true chances", () => {
  const typical = { strainer: 8, level: 5, valve: 4, air: 3, pump: 2, gas: 1, coil: 1, gauge: 1 };
  const truth = { strainer: 1, level: 1, valve: 2, air: 1, pump: 9, gas: 6, coil: 3, gauge: 2 };
  const minutes = { strainer: 25, level: 2, valve: 3, air: 6, pump: 12, gas: 20, coil: 15, gauge: 4 };
  const names = Object.keys(truth) as (keyof typeof truth)[];
  const checks = names.map((id) => ({ id: `check ${id}`, minutes: minutes[id], finds: { [id]: 0.9 } }));
  const causesOf = (weights: Record<string, number>) => names.map((id) => ({ id, weight: must(weights[id]) }));
  /** What an order comes to when the true chances hold. */
  const comesTo = (order: readonly string[]): number => {
    const total = Object.values(truth).reduce((sum, one) => sum + one, 0);
    let left = names.map((id) => truth[id] / total);
    let spent = 0;
    for (const id of order) {
      const check = must(checks.find((one) => one.id === id));
      spent += left.reduce((sum, one) => sum + one, 0) * check.minutes;
      left = left.map((one, c) => one * (1 - ((check.finds as Record<string, number>)[must(names[c])] ?? 0)));
    }
    return spent;
  };
  const best = comesTo(nextCheck({ causes: causesOf(truth), checks, seen: [] }).order);
  const untaught = comesTo(nextCheck({ causes: causesOf(typical), checks, seen: [] }).order);
  expect(untaught / best).toBeGreaterThan(1.2);
  for (const seed of [1, 2, 3, 4, 5]) {
    const random = uniform(xoroshiro128plus(seed));
    const seen = Array.from({ length: 200 }, () => {
      let at = random() * Object.values(truth).reduce((sum, one) => sum + one, 0);
      return must(names.find((id) => (at -= truth[id]) < 0) ?? names[0]);
    });
    const learned = learnCauses({ prior: typical, strength: 10, seen });
    const weights = Object.fromEntries(Object.entries(learned).map(([id, one]) => [id, one.weight]));
    expect(comesTo(nextCheck({ causes: causesOf(weights), checks, seen: [] }).order) / best).toBeLessThanOrEqual(1.05);
  }
});
