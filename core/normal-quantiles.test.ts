import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { cumulativeStdNormalProbability } from "simple-statistics";

import { must } from "./must";
import { normalQuantiles, stratifiedNormals } from "./normal-quantiles";
import { uniform } from "./random";

it("has the quantiles of printed tables of the normal distribution, and simple-statistics' table back", () => {
  // 0.975 → 1.959964, 0.95 → 1.644854, 0.9 → 1.281552 (any table; from memory).
  const thousand = normalQuantiles(1000);
  const at = (share: number): number => (must(thousand[share * 1000 - 1]) + must(thousand[share * 1000])) / 2;
  expect(at(0.975)).toBeCloseTo(1.959964, 3);
  expect(at(0.95)).toBeCloseTo(1.644854, 3);
  expect(at(0.9)).toBeCloseTo(1.281552, 4);
  expect(at(0.5)).toBeCloseTo(0, 6);
  normalQuantiles(40).forEach((z, i) => expect(cumulativeStdNormalProbability(z)).toBeCloseTo((i + 0.5) / 40, 2));
  expect(normalQuantiles(1)).toHaveLength(1);
});

it("draws each share once", () => {
  const draws = stratifiedNormals(500, uniform(xoroshiro128plus(3)));
  expect([...draws].sort((a, b) => a - b)).toEqual([...normalQuantiles(500)]);
  expect([...draws]).not.toEqual([...normalQuantiles(500)]);
  expect(draws.reduce((sum, z) => sum + z, 0) / 500).toBeCloseTo(0, 6);
  expect(draws.reduce((sum, z) => sum + z * z, 0) / 500).toBeCloseTo(1, 1);
});
