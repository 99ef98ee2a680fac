import fc from "fast-check";
import { mean, sampleStandardDeviation, zScore } from "simple-statistics";

import { must } from "../must";
import { beltTime } from "./belt-time";
import { bristleAdvice } from "./bristle-advice";
import { hydrometer } from "./hydrometer";
import { orderChecks } from "./order-checks";
import { lotScores, percentOfOwn, relativeSd } from "./own-scale";
import { strainerDrop } from "./strainer-drop";
import { tighteningOrder } from "./tightening-order";

describe("tightening order", () => {
  /** Legacy cross-pattern of ASME PCC-1, Guidelines for Pressure Boundary Bolted Flange Joint Assembly (from memory). */
  it.each([
    [4, [1, 3, 2, 4]],
    [8, [1, 5, 3, 7, 2, 6, 4, 8]],
    [12, [1, 7, 4, 10, 2, 8, 5, 11, 3, 9, 6, 12]],
    [16, [1, 9, 5, 13, 3, 11, 7, 15, 2, 10, 6, 14, 4, 12, 8, 16]],
  ])("%d bolts as in the flange standard", (bolts, order) => expect(tighteningOrder(bolts)).toEqual(order));

  it("takes every bolt once, starts with an opposite pair, and never two neighbours in succession", () => {
    for (let bolts = 2; bolts <= 120; bolts++) {
      const order = tighteningOrder(bolts);
      expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: bolts }, (_, i) => i + 1));
      if (bolts % 2 === 0) expect(must(order[1]) - must(order[0])).toBe(bolts / 2);
      if (bolts <= 4) continue;
      for (let i = 1; i < bolts; i++) {
        const apart = Math.abs(must(order[i]) - must(order[i - 1]));
        expect(Math.min(apart, bolts - apart)).toBeGreaterThan(1);
      }
    }
  });
  it.each([0, 1, -4, 2.5, NaN])("%d bolts are refused", (bolts) => expect(() => tighteningOrder(bolts)).toThrow());
});

describe("belt time", () => {
  it("is judged by the mean, the tolerance included", () => {
    expect(beltTime({ setSeconds: 300, runsSeconds: [315, 315] })).toMatchObject({
      meanSeconds: 315,
      errorPercent: 5,
      within: true,
    });
    expect(beltTime({ setSeconds: 300, runsSeconds: [316] })).toMatchObject({ within: false });
    expect(beltTime({ setSeconds: 300, runsSeconds: [285] })).toMatchObject({ errorPercent: -5, within: true });
    expect(beltTime({ setSeconds: 60, runsSeconds: [61], tolerancePercent: 1 }).within).toBe(false);
  });
  it("says which way it is off, and a dial setting that brings the real time back", () => {
    const { advice } = beltTime({ setSeconds: 300, runsSeconds: [330] });
    expect(advice).toMatch(/10 % slower/);
    // real = dial × 330/300, so a dial of 272.73 s gives 300 s
    expect(advice).toMatch(/272\.73 s/);
  });
  it("needs a run", () => {
    expect(() => beltTime({ setSeconds: 300, runsSeconds: [] })).toThrow(/at least one run/);
    expect(() => beltTime({ setSeconds: 300, runsSeconds: [0] })).toThrow(/runsSeconds\[0\]/);
  });
});

describe("hydrometer", () => {
  /** Battery service handbooks: add 0.004 for every 10 °F above 80 °F, subtract below (from memory; 10 °F = 5.56 K). */
  it.each([
    [1.25, 26.7, 1.25],
    [1.25, 26.7 + 5.56, 1.254],
    [1.25, 26.7 - 2 * 5.56, 1.242],
    [1.265, 37.82, 1.273],
  ])("reads %d at %d °C as %d", (sg, tempC, corrected) =>
    expect(hydrometer({ readings: [{ sg, tempC }] }).corrected[0]).toBeCloseTo(corrected, 9),
  );

  it("compares corrected cells, not those read", () => {
    const { spread, verdict } = hydrometer({
      readings: [
        { sg: 1.25, tempC: 26.7 },
        { sg: 1.246, tempC: 32.26 },
      ],
    });
    expect(spread).toBeCloseTo(0, 9);
    expect(verdict).toMatch(/as it should be/);
  });
  it("names the weak cell, and tells a low battery from a weak cell", () => {
    const cells = (...sg: number[]) => hydrometer({ readings: sg.map((one) => ({ sg: one, tempC: 26.7 })) }).verdict;
    expect(cells(1.27, 1.265, 1.22)).toMatch(/Cell 3/);
    expect(cells(1.2, 1.21, 1.2)).toMatch(/charge fully/);
  });
  it("needs a cell", () => expect(() => hydrometer({ readings: [] })).toThrow(/at least one cell/));
});

describe("readings on the instrument's own scale", () => {
  it("a check fluid in standard deviations of its lot, as simple-statistics has it, the farthest named", () => {
    const lot = [
      { result: 5.4, mean: 5, sd: 0.2 },
      { result: 131, mean: 140, sd: 3 },
      { result: 0.99, mean: 1, sd: 0.04 },
    ];
    const { scores, worst } = lotScores(lot);
    lot.forEach(({ result, mean, sd }, i) => expect(scores[i]).toBeCloseTo(zScore(result, mean, sd), 12));
    expect(worst).toBe(1);
    expect(() => lotScores([])).toThrow(/one result/);
    expect(() => lotScores([{ result: 1, mean: 1, sd: 0 }])).toThrow(/results\[0\]\.sd/);
    expect(() => lotScores([{ result: Number.NaN, mean: 1, sd: 1 }])).toThrow(/results\[0\]\.result/);
  });
  it("scatter of repeats: NIST StRD NumAcc1 and NumAcc3, certified SD 1 and 0.1, and simple-statistics", () => {
    expect(relativeSd([10_000_001, 10_000_003, 10_000_002]).percent).toBeCloseTo(100 / 10_000_002, 12);
    const numAcc3 = [1_000_000.2, ...Array.from({ length: 500 }, () => [1_000_000.1, 1_000_000.3]).flat()];
    expect(relativeSd(numAcc3).percent / (10 / 1_000_000.2)).toBeCloseTo(1, 8);
    const counts = [84_120, 83_950, 84_400, 84_010, 83_700];
    expect(relativeSd(counts)).toMatchObject({ mean: mean(counts), sd: sampleStandardDeviation(counts) });
    expect(relativeSd(counts).percent).toBeCloseTo((100 * sampleStandardDeviation(counts)) / mean(counts), 12);
    expect(() => relativeSd([1])).toThrow(/two repeats/);
    expect(() => relativeSd([-1, 1])).toThrow(/mean of 0/);
  });
  it("a signal in percent of its own: 84,000 of 100,000 counts are 84 %", () => {
    expect(percentOfOwn({ now: 84_000, own: 100_000 })).toBe(84);
    expect(percentOfOwn({ now: 0, own: 5 })).toBe(0);
    expect(() => percentOfOwn({ now: 1, own: 0 })).toThrow(/own/);
    expect(() => percentOfOwn({ now: -1, own: 1 })).toThrow(/now/);
  });
});

it("a fourfold drop leaves half the flow", () => {
  expect(strainerDrop({ cleanDrop: 20, drop: 80 })).toMatchObject({
    ratio: 4,
    flowFraction: 0.5,
    verdict: expect.stringMatching(/now/) as string,
  });
  expect(strainerDrop({ cleanDrop: 20, drop: 40 }).verdict).toMatch(/doubled/);
  expect(strainerDrop({ cleanDrop: 20, drop: 21 }).verdict).toMatch(/as it should be/);
  expect(strainerDrop({ cleanDrop: 20, drop: 10 }).verdict).toMatch(/check the gauges/);
  expect(() => strainerDrop({ cleanDrop: 0, drop: 1 })).toThrow(/cleanDrop/);
});

it("the polish mark says which way to turn, the band's ends included", () => {
  const turn = (markMm: number) => bristleAdvice({ markMm, lowMm: 20, highMm: 40 }).turn;
  expect([0, 19.9, 20, 30, 40, 40.1].map(turn)).toEqual(["lower", "lower", "none", "none", "none", "raise"]);
  expect(() => bristleAdvice({ markMm: 30, lowMm: 40, highMm: 20 })).toThrow(/above its upper end/);
});

describe("order of checks", () => {
  it("is never worse than any other order", () => {
    const cause = fc.record({ weight: fc.integer({ min: 1, max: 9 }), minutes: fc.integer({ min: 0, max: 30 }) });
    fc.assert(
      fc.property(fc.array(cause, { minLength: 1, maxLength: 6 }), (drawn) => {
        const total = drawn.reduce((sum, one) => sum + one.weight, 0);
        const causes = drawn.map((one, i) => ({ id: `c${i}`, probability: one.weight / total, minutes: one.minutes }));
        const best = Math.min(...permutations(causes).map(expected));
        const { order, expectedMinutes } = orderChecks({ causes });
        expect(expectedMinutes).toBeCloseTo(best, 6);
        expect(expected(order.map((id) => must(causes.find((one) => one.id === id))))).toBeCloseTo(expectedMinutes, 9);
      }),
    );
  });
  it("carries out the last check too", () => {
    expect(orderChecks({ causes: [{ id: "only", probability: 1, minutes: 7 }] })).toEqual({
      order: ["only"],
      expectedMinutes: 7,
    });
  });
  it("keeps the order of equals", () => {
    const causes = ["b", "a", "c"].map((id) => ({ id, probability: 1 / 3, minutes: 5 }));
    expect(orderChecks({ causes }).order).toEqual(["b", "a", "c"]);
  });
  it("refuses probabilities that are no whole", () => {
    expect(() => orderChecks({ causes: [{ id: "a", probability: 0.9, minutes: 1 }] })).toThrow(/add up to 0.9/);
    expect(() => orderChecks({ causes: [] })).toThrow(/at least one cause/);
  });
});

interface Cause {
  id: string;
  probability: number;
  minutes: number;
}

function expected(causes: Cause[]): number {
  let elapsed = 0;
  return causes.reduce((sum, one) => sum + one.probability * (elapsed += one.minutes), 0);
}

function permutations<T>(list: T[]): T[][] {
  return list.length < 2
    ? [list]
    : list.flatMap((one, i) => permutations([...list.slice(0, i), ...list.slice(i + 1)]).map((rest) => [one, ...rest]));
}

describe("what the tools say, and refuse", () => {
  const fault = (work: () => unknown): unknown => {
    try {
      work();
      return null;
    } catch (error) {
      return [(error as { code: string }).code, (error as { path: string }).path];
    }
  };

  it("a broom's mark: both ends of the band are good", () => {
    const says = (markMm: number) => bristleAdvice({ markMm, lowMm: 20, highMm: 40 });
    expect([19.9, 20, 40, 40.1].map((mark) => says(mark).turn)).toEqual(["lower", "none", "none", "raise"]);
    expect(says(12).message).toBe(
      "12 mm is narrower than 20 to 40 mm: lower the broom one step, make a new mark, measure again.",
    );
    expect(says(55.5).message).toBe(
      "55.5 mm is wider than 20 to 40 mm: raise the broom one step, make a new mark, measure again.",
    );
    expect(says(30).message).toBe("30 mm is within 20 to 40 mm: leave it.");
    expect(bristleAdvice({ markMm: 20, lowMm: 20, highMm: 20 }).turn).toBe("none");
    expect(fault(() => bristleAdvice({ markMm: -1, lowMm: 20, highMm: 40 }))).toEqual(["bad-number", "markMm"]);
    expect(fault(() => bristleAdvice({ markMm: 1, lowMm: -1, highMm: 40 }))).toEqual(["bad-number", "lowMm"]);
    expect(fault(() => bristleAdvice({ markMm: 1, lowMm: 1, highMm: NaN }))).toEqual(["bad-number", "highMm"]);
    expect(fault(() => bristleAdvice({ markMm: 1, lowMm: 41, highMm: 40 }))).toEqual(["out-of-range", "lowMm"]);
  });

  it("a battery's cells: the one that is apart, else the one that wants charging", () => {
    const says = (...sg: number[]) => hydrometer({ readings: sg.map((one) => ({ sg: one, tempC: 26.7 })) }).verdict;
    expect(says(1.27, 1.22, 1.265)).toBe(
      "Cell 2 is 0.050 below the best: equalise by the maker's manual, read again; still apart, the cell is failing.",
    );
    expect(says(1.27, 1.221)).toBe("Lowest cell 1.221: charge fully, let it rest, read again.");
    expect(says(1.225, 1.23)).toBe("Even (spread 0.005), lowest 1.225: as it should be.");
    // 10 °F warmer is 0.004 more, colder less.
    const at = (tempC: number) => must(hydrometer({ readings: [{ sg: 1.25, tempC }] }).corrected[0]);
    expect(at(26.7 + 5.56)).toBeCloseTo(1.254, 9);
    expect(at(26.7 - 2 * 5.56)).toBeCloseTo(1.242, 9);
    expect(fault(() => hydrometer({ readings: [] }))).toEqual(["missing", "readings"]);
    expect(
      fault(() =>
        hydrometer({
          readings: [
            { sg: 1.2, tempC: 20 },
            { sg: 0, tempC: 20 },
          ],
        }),
      ),
    ).toEqual(["bad-number", "readings[1].sg"]);
    expect(fault(() => hydrometer({ readings: [{ sg: 1.2, tempC: Infinity }] }))).toEqual([
      "bad-number",
      "readings[0].tempC",
    ]);
  });

  it("a belt: within its tolerance, or how far off and what to set meanwhile", () => {
    const says = (...runsSeconds: number[]) => beltTime({ setSeconds: 300, runsSeconds });
    expect(says(315)).toMatchObject({ within: true, advice: "Within 5 %: leave it as it is." });
    expect(says(285).within).toBe(true);
    expect(says(330).advice).toBe(
      "The belt is 10 % slower than the dial. Set the dial to 272.73 s meanwhile to get 300 s, and have the speed adjusted.",
    );
    expect(says(240, 260).advice).toMatch(/^The belt is 16\.67 % faster than the dial\. Set the dial to 360 s/);
    expect(beltTime({ setSeconds: 300, runsSeconds: [301], tolerancePercent: 0 }).within).toBe(false);
    expect(fault(() => beltTime({ setSeconds: 300, runsSeconds: [] }))).toEqual(["missing", "runsSeconds"]);
    expect(fault(() => beltTime({ setSeconds: 300, runsSeconds: [300, 0] }))).toEqual(["bad-number", "runsSeconds[1]"]);
    expect(fault(() => beltTime({ setSeconds: 0, runsSeconds: [1] }))).toEqual(["bad-number", "setSeconds"]);
  });

  it("a strainer: by how often the clean drop stands over it", () => {
    const says = (drop: number) => strainerDrop({ cleanDrop: 20, drop }).verdict;
    expect(says(19)).toMatch(/^Less than when clean/);
    expect(says(20)).toBe("Drop 1 times the clean one, about 100 % of the clean flow is left: as it should be.");
    expect(says(39.9)).toMatch(/as it should be\.$/);
    expect(says(40)).toMatch(/^Drop has doubled \(2 times\), about 70\.71 % of the clean flow is left: clean/);
    expect(says(79.9)).toMatch(/^Drop has doubled/);
    expect(says(80)).toBe(
      "Drop 4 times the clean one, about 50 % of the clean flow is left: clean or replace the strainer now.",
    );
    expect(fault(() => strainerDrop({ cleanDrop: 0, drop: 1 }))).toEqual(["bad-number", "cleanDrop"]);
    expect(fault(() => strainerDrop({ cleanDrop: 1, drop: 0 }))).toEqual(["bad-number", "drop"]);
  });

  it("checks: each cause once, chances that add up", () => {
    const cause = (id: string, probability: number, minutes = 1) => ({ id, probability, minutes });
    expect(fault(() => orderChecks({ causes: [] }))).toEqual(["missing", "causes"]);
    expect(fault(() => orderChecks({ causes: [cause("a", 0.5), cause("a", 0.5)] }))).toEqual(["bad-value", "causes"]);
    expect(fault(() => orderChecks({ causes: [cause("a", 0.5), cause("b", 0.6)] }))).toEqual([
      "out-of-range",
      "causes",
    ]);
    expect(fault(() => orderChecks({ causes: [cause("a", 1.5), cause("b", -0.5)] }))).toEqual([
      "bad-number",
      "causes[1].probability",
    ]);
    expect(fault(() => orderChecks({ causes: [cause("a", 1, -1)] }))).toEqual(["bad-number", "causes[0].minutes"]);
    // What costs nothing comes first, two of them in the order given.
    expect(orderChecks({ causes: [cause("a", 0.8), cause("b", 0.1, 0), cause("c", 0.1, 0)] })).toEqual({
      order: ["b", "c", "a"],
      expectedMinutes: 0.8,
    });
  });

  it("bolts: at least two, whole ones", () => {
    expect(fault(() => tighteningOrder(1))).toEqual(["out-of-range", "bolts"]);
    expect(fault(() => tighteningOrder(4.5))).toEqual(["bad-number", "bolts"]);
    expect(tighteningOrder(2)).toEqual([1, 2]);
    expect(tighteningOrder(3)).toEqual([1, 2, 3]);
    expect(tighteningOrder(6)).toEqual([1, 4, 2, 5, 3, 6]);
    expect(tighteningOrder(5)).toEqual([1, 3, 5, 2, 4]);
  });
});
