import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { must } from "../must";
import { uniform } from "../random";
import { draws } from "../testing/draws";
import { chanceBeyond, fitWear, nowOrNext, poolSlopes, predictWear, tuneInterval } from "./index";
import { studentQuantile } from "./student";

const pairs = (xs: readonly number[], ys: readonly number[]) => xs.map((at, i) => ({ at, value: must(ys[i]) }));

describe("Student's t", () => {
  it.each([0.75, 0.9, 0.95, 0.975, 0.995, 0.9995, 0.05])("at %d is what its closed forms are", (p) => {
    // Of one and two degrees of freedom: the tangent, and a root (any textbook).
    expect(studentQuantile(p, 1)).toBeCloseTo(Math.tan(Math.PI * (p - 0.5)), 9);
    expect(studentQuantile(p, 2)).toBeCloseTo(((2 * p - 1) * Math.SQRT2) / Math.sqrt(4 * p * (1 - p)), 9);
  });

  it("is what the tables have", () => {
    // Four decimals as in every table of it (NIST/SEMATECH e-Handbook, 1.3.6.7.2).
    expect(studentQuantile(0.95, 3)).toBeCloseTo(2.3534, 4);
    expect(studentQuantile(0.975, 10)).toBeCloseTo(2.2281, 4);
    expect(studentQuantile(0.99, 30)).toBeCloseTo(2.4573, 4);
  });
});

describe("a line of wear", () => {
  // NIST StRD "Norris" (J. Norris, calibration of ozone monitors), certified values.
  const norris = pairs(
    [
      0.2, 337.4, 118.2, 884.6, 10.1, 226.5, 666.3, 996.3, 448.6, 777.0, 558.2, 0.4, 0.6, 775.5, 666.9, 338.0, 447.5,
      11.6, 556.0, 228.1, 995.8, 887.6, 120.2, 0.3, 0.3, 556.8, 339.1, 887.2, 999.0, 779.0, 11.1, 118.3, 229.2, 669.1,
      448.9, 0.5,
    ],
    [
      0.1, 338.8, 118.1, 888.0, 9.2, 228.1, 668.5, 998.5, 449.1, 778.9, 559.2, 0.3, 0.1, 778.1, 668.8, 339.3, 448.9,
      10.8, 557.7, 228.3, 998.0, 888.8, 119.6, 0.3, 0.6, 557.6, 339.3, 888.0, 998.5, 778.9, 10.2, 117.6, 228.9, 668.4,
      449.2, 0.2,
    ],
  );

  it("is the certified one", () => {
    const fit = fitWear({ points: norris, limit: 2000 });
    expect(fit.intercept).toBeCloseTo(-0.262323073774029, 10);
    expect(fit.slope).toBeCloseTo(1.00211681802045, 12);
    expect(fit.residualSd).toBeCloseTo(0.884796396144373, 11);
    expect(fit.r2).toBeCloseTo(0.999993745883712, 12);
    expect(fit.interceptSe).toBeCloseTo(0.232818234301152, 11);
    expect(fit.slopeSe).toBeCloseTo(0.429796848199937e-3, 14);
  });

  it("foretells a reading as published for stopping distances", () => {
    // M. Ezekiel (1930), the 50 cars of R's datasets; its predict.lm at a level of 95 %, as printed, from memory.
    const cars = pairs(
      [
        4, 4, 7, 7, 8, 9, 10, 10, 10, 11, 11, 12, 12, 12, 12, 13, 13, 13, 13, 14, 14, 14, 14, 15, 15, 15, 16, 16, 17,
        17, 17, 18, 18, 18, 18, 19, 19, 19, 20, 20, 20, 20, 20, 22, 23, 24, 24, 24, 24, 25,
      ],
      [
        2, 10, 4, 22, 16, 10, 18, 26, 34, 17, 28, 14, 20, 24, 28, 26, 34, 34, 46, 26, 36, 60, 80, 20, 26, 54, 32, 40,
        32, 40, 50, 42, 56, 76, 84, 36, 46, 68, 32, 48, 52, 56, 64, 66, 54, 70, 92, 93, 120, 85,
      ],
    );
    const fit = fitWear({ points: cars, limit: 200 });
    for (const [at, value, low, high] of [
      [5, 2.082949, -30.33359, 34.49948],
      [12, 29.60981, -1.749529, 60.96915],
      [19, 57.13667, 25.76176, 88.51159],
    ] as const) {
      const said = predictWear(fit, at, 0.95);
      expect(said.value).toBeCloseTo(value, 4);
      expect(said.low).toBeCloseTo(low, 4);
      expect(said.high).toBeCloseTo(high, 4);
    }
  });

  const worn = [
    { at: 0, value: 4.02 },
    { at: 30, value: 3.71 },
    { at: 62, value: 3.35 },
    { at: 90, value: 3.12 },
    { at: 121, value: 2.74 },
  ];

  it("is within its limit's band wherever the line can be at the limit, and nowhere else", () => {
    const fit = fitWear({ points: worn, limit: 2, level: 0.9 });
    const { at, low, high } = must(fit.crossing);
    const t = studentQuantile(0.95, 3);
    const isIn = (x: number): boolean =>
      (fit.intercept + fit.slope * x - 2) ** 2 <=
      t ** 2 * fit.residualSd ** 2 * (1 / fit.n + (x - fit.meanAt) ** 2 / fit.sumSquares);
    for (let x = 100; x < 300; x += 0.25) expect([x, isIn(x)]).toEqual([x, x >= low && x <= must(high)]);
    expect(fit.intercept + fit.slope * at).toBeCloseTo(2, 12);
    // The chance that the line is past its limit is 5 % and 95 % where the band of 90 % ends.
    expect(chanceBeyond(fit, 2, low)).toBeCloseTo(0.05, 9);
    expect(chanceBeyond(fit, 2, must(high))).toBeCloseTo(0.95, 9);
    expect(chanceBeyond(fit, 2, at)).toBeCloseTo(0.5, 9);
  });

  it("has no last place where its slope is not sure, and no place where it goes the other way", () => {
    const shaky = [3, 2.6, 3.1, 2.5].map((value, at) => ({ at, value }));
    const fit = fitWear({ points: shaky, limit: -2 });
    expect(fit.crossing).toMatchObject({ high: null });
    expect(Number.isFinite(must(fit.crossing).low)).toBe(true);
    expect(fitWear({ points: worn, limit: 5, worse: "up" }).crossing).toBeNull();
    expect(fitWear({ points: [3, 3, 3].map((value, at) => ({ at, value })), limit: 2 })).toMatchObject({
      slope: 0,
      r2: 0,
      crossing: null,
    });
  });

  it("a line without scatter crosses at one place, and is past it or not", () => {
    const fit = fitWear({ points: [0, 1, 2].map((at) => ({ at, value: 8 - 2 * at })), limit: 1 });
    expect(fit.crossing).toEqual({ at: 3.5, low: 3.5, high: 3.5 });
    expect([3, 3.5, 4].map((at) => chanceBeyond(fit, 1, at))).toEqual([0, 0.5, 1]);
  });

  it("weights are told against each other; a point of double weight is as two", () => {
    const light = fitWear({ points: worn.map((one) => ({ ...one, weight: 0.25 })), limit: 2 });
    const plain = fitWear({ points: worn, limit: 2 });
    expect(light.slope).toBeCloseTo(plain.slope, 14);
    expect(light.slopeSe).toBeCloseTo(plain.slopeSe, 14);
    const [first, ...rest] = worn;
    const twice = fitWear({ points: [must(first), ...worn], limit: 2 });
    expect(fitWear({ points: [{ ...must(first), weight: 2 }, ...rest], limit: 2 }).slope).toBeCloseTo(twice.slope, 12);
  });

  it("the band of the crossing holds as often as it says, over two thousand invented pieces", () => {
    const random = uniform(xoroshiro128plus(20_261_130));
    const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    const pieces = draws(2000, 20_000);
    let held = 0;
    for (let i = 0; i < pieces; i++) {
      const slope = -(0.01 + 0.02 * random());
      const visits = 4 + Math.floor(5 * random());
      const points = Array.from({ length: visits }, (_, k) => {
        const at = k * 30 + 8 * random();
        return { at, value: 4 + slope * at + 0.15 * normal() };
      });
      const { crossing } = fitWear({ points, limit: 2, worse: "down" });
      const truth = -2 / slope;
      if (crossing && crossing.low <= truth && truth <= (crossing.high ?? Infinity)) held++;
    }
    expect(held / pieces).toBeGreaterThan(0.88);
    expect(held / pieces).toBeLessThan(0.92);
  });

  it.each([
    [{ points: worn.slice(0, 2), limit: 2 }, /three measured/],
    [{ points: [1, 2, 3].map((value) => ({ at: 5, value })), limit: 2 }, /one place/],
    [{ points: [...worn, { at: 130, value: NaN }], limit: 2 }, /points\[5\].value/],
    [{ points: worn, limit: 2, level: 1 }, /between 0 and 1/],
    [{ points: [...worn, { at: 1, value: 1, weight: 0 }], limit: 2 }, /weight/],
  ])("refuses what is none (%#)", (input, says) => {
    expect(() => fitWear(input)).toThrow(says);
  });
});

describe("pooled slopes", () => {
  // Thirteen trials of the BCG vaccine (G. A. Colditz et al., JAMA 271, 1994), log risk ratios; DerSimonian and Laird's
  // estimate as published with the data in metafor's documentation, from memory.
  const bcg = [
    [4, 119, 11, 128],
    [6, 300, 29, 274],
    [3, 228, 11, 209],
    [62, 13536, 248, 12619],
    [33, 5036, 47, 5761],
    [180, 1361, 372, 1079],
    [8, 2537, 10, 619],
    [505, 87886, 499, 87892],
    [29, 7470, 45, 7232],
    [17, 1699, 65, 1600],
    [186, 50448, 141, 27197],
    [5, 2493, 3, 2338],
    [27, 16886, 29, 17825],
  ].map(([a = 0, b = 0, c = 0, d = 0], i) => ({
    id: `trial ${i + 1}`,
    slope: Math.log(a / (a + b) / (c / (c + d))),
    slopeSe: Math.sqrt(1 / a - 1 / (a + b) + 1 / c - 1 / (c + d)),
  }));

  it("are the published ones", () => {
    const { mean, between } = poolSlopes(bcg);
    expect(between).toBeCloseTo(0.3088, 4);
    expect(mean).toBeCloseTo(-0.7141, 4);
  });

  it("are drawn to the mean, the less is known of them the more; without an own slope they are it", () => {
    const { mean, between, groups } = poolSlopes([...bcg, { id: "new", slope: 0, slopeSe: null }]);
    groups.slice(0, -1).forEach((one, i) => {
      const own = must(bcg[i]);
      expect(one.weight).toBeCloseTo(between / (between + own.slopeSe ** 2), 12);
      expect((one.slope - mean) / (own.slope - mean)).toBeCloseTo(one.weight, 9);
    });
    const spread = bcg.reduce((all, { slopeSe }) => all + 1 / (between + slopeSe ** 2), 0);
    expect(must(groups.at(-1))).toMatchObject({ slope: mean, weight: 0 });
    expect(must(groups.at(-1)).se).toBeCloseTo(Math.sqrt(between + 1 / spread), 12);
  });

  it("one alone is what it is; alike ones are one", () => {
    expect(poolSlopes([{ id: "a", slope: 2, slopeSe: 0.5 }])).toEqual({
      mean: 2,
      between: 0,
      groups: [{ id: "a", slope: 2, se: 0.5, weight: 1 }],
    });
    const alike = poolSlopes([1, 1.01, 0.99].map((slope, i) => ({ id: String(i), slope, slopeSe: 0.5 })));
    expect(alike.between).toBe(0);
    for (const one of alike.groups) expect(one.slope).toBeCloseTo(1, 9);
    expect(() => poolSlopes([{ id: "a", slope: 1, slopeSe: null }])).toThrow(/slope of its own/);
    expect(() => poolSlopes([{ id: "a", slope: 1, slopeSe: 0 }])).toThrow(/groups\[0\].slopeSe/);
  });
});

describe("slopes pooled over a family of six machines", () => {
  /** Mean squared errors of own and of pooled slopes, over invented families whose true slopes lie so far apart. */
  function errors(apart: number): { own: number; pooled: number } {
    const random = uniform(xoroshiro128plus(7_113 + Math.round(apart * 1e6)));
    const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    const families = draws(400, 5000);
    let [own, pooled] = [0, 0];
    for (let f = 0; f < families; f++) {
      const truth = Array.from({ length: 6 }, () => -0.02 + apart * normal());
      const fits = truth.map((slope) => {
        const points = Array.from({ length: 3 + Math.floor(3 * random()) }, (_, k) => {
          const at = k * 30 + 8 * random();
          return { at, value: 4 + slope * at + 0.15 * normal() };
        });
        return fitWear({ points, limit: 2 });
      });
      // Three rounded readings on a line have no spread of their own: the family's is taken.
      const squares = fits.reduce((all, { residualSd, n }) => all + residualSd ** 2 * (n - 2), 0);
      const spread = Math.sqrt(squares / fits.reduce((all, { n }) => all + n - 2, 0));
      const { groups } = poolSlopes(
        fits.map(({ slope, sumSquares }, i) => ({ id: String(i), slope, slopeSe: spread / Math.sqrt(sumSquares) })),
      );
      truth.forEach((slope, i) => {
        own += (must(fits[i]).slope - slope) ** 2;
        pooled += (must(groups[i]).slope - slope) ** 2;
      });
    }
    return { own, pooled };
  }

  it("are better than own ones where machines are alike, and no worse than by a twentieth where they are not", () => {
    const alike = errors(0.0005);
    expect(alike.pooled).toBeLessThan(0.6 * alike.own);
    for (const apart of [0.004, 0.01, 0.05]) {
      const { own, pooled } = errors(apart);
      expect([apart, pooled <= 1.05 * own]).toEqual([apart, true]);
    }
  });
});

describe("now or next", () => {
  it("is the cheaper one, by arithmetic that can be followed", () => {
    const costs = { plannedCost: 60, failureCost: 300, extraVisitCost: 80, lostUseCost: 12 };
    const said = nowOrNext({ ...costs, chanceBeforeNext: 0.83 });
    expect(said).toMatchObject({ advice: "now", costNow: 72, breakEvenChance: 12 / 320 });
    expect(said.costNext).toBeCloseTo(0.83 * 380 + 0.17 * 60, 12);
    expect(said.because).toContain("83 % × 380 failed");
    expect(nowOrNext({ ...costs, chanceBeforeNext: 0.005 }).advice).toBe("next");
    expect(nowOrNext({ ...costs, chanceBeforeNext: 12 / 320 }).advice).toBe("either");
  });

  it("what costs no more to fail is never renewed before; the share is held in what can be", () => {
    const cheap = { plannedCost: 60, failureCost: 50, lostUseCost: 5, chanceBeforeNext: 1 };
    expect(nowOrNext(cheap)).toMatchObject({ advice: "next", breakEvenChance: 1 });
    expect(nowOrNext({ ...cheap, failureCost: 61, lostUseCost: 50 }).breakEvenChance).toBe(1);
    expect(() => nowOrNext({ ...cheap, chanceBeforeNext: 1.1 })).toThrow(/chanceBeforeNext/);
    expect(() => nowOrNext({ ...cheap, lostUseCost: -1 })).toThrow(/lostUseCost/);
  });
});

describe("an interval", () => {
  // By hand: three clean in a row since the last change grow it by a fifth, rounded down, by a day at least.
  it.each([
    [10, [], 10],
    [10, ["clean", "clean"], 10],
    [10, ["clean", "clean", "clean"], 12],
    [10, ["clean", "clean", "clean", "clean"], 10],
    [12, ["clean", "clean", "clean", "clean", "clean", "clean"], 14],
    [10, ["clean", "clean", "fair", "clean"], 10],
    [10, ["poor", "clean", "clean", "clean"], 12],
    [10, ["clean", "clean", "poor"], 7],
    [10, ["failed"], 5],
    [3, ["clean", "clean", "clean"], 4],
    [1, ["failed"], 1],
    [5, ["clean", "clean", "clean"], 6],
  ] as const)("of %d days, found %j, is %d days", (interval, asFound, expected) => {
    expect(tuneInterval({ interval, asFound }).interval).toBe(expected);
  });

  it("stays within its bounds, says why, and refuses what is none", () => {
    const grown = { interval: 28, asFound: ["clean", "clean", "clean"] as const };
    expect(tuneInterval({ ...grown, max: 30 })).toEqual({
      interval: 30,
      because: "Clean, 3 times in a row: 28 × 1.2 = 33 days, held at 30.",
    });
    expect(tuneInterval({ interval: 8, asFound: ["failed"], min: 7 }).interval).toBe(7);
    expect(() => tuneInterval({ interval: 8, asFound: [], min: 9, max: 5 })).toThrow(/below/);
    expect(() => tuneInterval({ interval: 8, asFound: ["toString" as "poor"] })).toThrow(/asFound\[0\]/);
    expect(() => tuneInterval({ interval: 0, asFound: [] })).toThrow(/interval/);
  });
});
