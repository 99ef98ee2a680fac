import fc from "fast-check";

import { must } from "../must";
import { ewmaChart } from "./ewma-chart";
import { westgard } from "./westgard";

/** NIST/SEMATECH e-Handbook of Statistical Methods, 6.3.2.4 "EWMA Control Charts", worked example (from memory). */
const nist = {
  values: [
    52.0, 47.0, 53.0, 49.3, 50.1, 47.0, 51.0, 50.1, 51.2, 50.5, 49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6,
    52.1,
  ],
  ewma: [
    50.6, 49.52, 50.56, 50.18, 50.16, 49.21, 49.75, 49.85, 50.26, 50.33, 50.11, 49.36, 49.52, 50.05, 49.38, 49.92,
    50.73, 51.23, 51.94, 51.99,
  ],
};

describe("EWMA", () => {
  const chart = ewmaChart({ values: nist.values, target: 50, sd: 2.0539, lambda: 0.3 });

  it("agrees with the handbook's example", () => {
    chart.ewma.forEach((z, i) => expect(z).toBeCloseTo(must(nist.ewma[i]), 1));
    expect(chart.ewma.map((z) => Math.round(z * 100) / 100)).toEqual(nist.ewma);
    expect(chart.signals).toEqual([]);
    // The handbook's limits are those for a long series.
    expect(chart.upper.at(-1)).toBeCloseTo(52.5884, 2);
    expect(chart.lower.at(-1)).toBeCloseTo(47.4115, 2);
  });
  it("has narrower limits at the beginning: the first is width × sd × λ", () => {
    expect(must(chart.upper[0]) - 50).toBeCloseTo(3 * 2.0539 * 0.3, 9);
    for (let i = 1; i < chart.upper.length; i++) expect(must(chart.upper[i])).toBeGreaterThan(must(chart.upper[i - 1]));
  });
  it("signals a slow drift before any single value is beyond three standard deviations", () => {
    const drift = Array.from({ length: 20 }, (_, i) => 100 + i * 0.25);
    const { signals } = ewmaChart({ values: drift, target: 100, sd: 2, lambda: 0.2 });
    expect(signals[0]).toBeLessThan(20);
    expect(Math.max(...drift)).toBeLessThan(106);
  });
  it("with λ = 1 is an ordinary chart of single values", () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -10, max: 10, noNaN: true }), { maxLength: 30 }), (values) => {
        const { ewma, signals } = ewmaChart({ values, target: 0, sd: 1, lambda: 1 });
        // Adding zero makes −0 the same as 0.
        expect(ewma.map((z) => z + 0)).toEqual(values.map((value) => value + 0));
        expect(signals).toEqual(values.flatMap((value, i) => (Math.abs(value) > 3 ? [i] : [])));
      }),
    );
  });
  it("refuses what is no chart", () => {
    expect(() => ewmaChart({ values: [], target: 0, sd: 0, lambda: 0.2 })).toThrow(/sd/);
    expect(() => ewmaChart({ values: [], target: 0, sd: 1, lambda: 1.1 })).toThrow(/lambda/);
    expect(() => ewmaChart({ values: [NaN], target: 0, sd: 1, lambda: 0.2 })).toThrow(/values\[0\]/);
    expect(ewmaChart({ values: [], target: 0, sd: 1, lambda: 0.2 })).toEqual({
      ewma: [],
      lower: [],
      upper: [],
      signals: [],
    });
  });
});

/** Definitions: Westgard et al., Clinical Chemistry 27 (1981) 493–501. Values in standard deviations from the mean. */
describe("control rules", () => {
  const hits = (...z: number[]): string[] =>
    westgard({ values: z.map((one) => 100 + 5 * one), mean: 100, sd: 5 }).map(({ rule, at }) => `${rule}@${at}`);
  it.each<[string, number[], string[]]>([
    ["exactly on a limit is within", [2, 3 - 1e-3], ["1-2s@1"]],
    ["1-3s implies 1-2s", [3.1], ["1-2s@0", "1-3s@0"]],
    ["2-2s on the same side only", [2.1, 2.2], ["1-2s@0", "1-2s@1", "2-2s@1"]],
    ["R-4s on both sides", [2.1, -2.1], ["1-2s@0", "1-2s@1", "R-4s@1"]],
    ["no R-4s with a value between", [2.1, 0, -2.1], ["1-2s@0", "1-2s@2"]],
    ["no R-4s when the range is 4 s but one is within 2 s", [2.5, -1.9], ["1-2s@0"]],
    ["4-1s", [1.1, 1.2, 1.3, 1.1], ["4-1s@3"]],
    ["4-1s at every index that completes it", [-1.1, -1.2, -1.3, -1.1, -1.5], ["4-1s@3", "4-1s@4"]],
    ["4-1s broken by one on the limit", [1.1, 1.2, 1, 1.1], []],
    ["10x", Array.from({ length: 10 }, () => 0.1), ["10x@9"]],
    ["10x broken by one on the mean", [...Array.from({ length: 9 }, () => 0.1), 0], []],
  ])("%s", (_name, z, expected) => expect(hits(...z)).toEqual(expected));

  it("is the same, mirrored, for mirrored values", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -35, max: 35 }), { maxLength: 25 }), (tenths) => {
        const z = tenths.map((one) => one / 10);
        expect(hits(...z.map((one) => -one))).toEqual(hits(...z));
      }),
    );
  });
  it("does not let rounding push a value over its limit", () => {
    expect(westgard({ values: [0.5, 0.1 + 0.4], mean: 0.3, sd: 0.1 })).toEqual([]);
  });
});
