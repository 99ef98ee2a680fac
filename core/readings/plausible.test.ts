import { TheilSenRegression } from "ml-regression-theil-sen";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { median, medianAbsoluteDeviation } from "simple-statistics";

import { addDays } from "../days/add-days";
import { must } from "../must";
import { uniform } from "../random";
import { draws } from "../testing/draws";
import { plausible, type PlausibleInput } from "./plausible";
import { possibleOf } from "./possible";

const TODAY = "2026-11-28";
/** Values a week apart, the last one a week ago. */
const weekly = (...values: number[]): PlausibleInput["history"] =>
  values.map((value, i) => ({ on: addDays(TODAY, -7 * (values.length - i)), value }));
const level = (value: number, values: number[], more: Partial<PlausibleInput> = {}) =>
  plausible({ value, unit: "bar", history: weekly(...values), on: TODAY, ...more });
const meter = (value: number, history: PlausibleInput["history"], more: Partial<PlausibleInput> = {}) =>
  plausible({ value, unit: "h", history, on: TODAY, kind: "meter", ...more });

/** Theil and Sen's line, by the library's medians. */
function line(x: number[], y: number[]): { slope: number; intercept: number } {
  const slopes = x.flatMap((at, i) => x.slice(0, i).map((before, j) => (must(y[i]) - must(y[j])) / (at - before)));
  const slope = median(slopes);
  return { slope, intercept: median(y.map((value, i) => value - slope * must(x[i]))) };
}

describe("what cannot be", () => {
  it.each<[number, string]>([
    [-400, "°C"],
    [-273.2, "°C"],
    [-460, "°F"],
    [-1, "K"],
    [-0.1, "mm"],
    [-3, "kg"],
    [-1, "prints"],
    [101, "%"],
    [100.1, "% full"],
    [-1, "ppm"],
  ])("%d %s", (value, unit) => {
    expect(level(value, [], { unit })).toMatchObject({ verdict: "impossible", usual: null });
    expect(level(value, [1, 1, 1, 1, 1], { unit }).verdict).toBe("impossible");
  });

  it.each<[number, string]>([
    [-273.15, "°C"],
    [0, "mm"],
    [100, "%"],
    [-0.8, "bar"],
    [-12, "V"],
    [-1, "made-up"],
  ])("but %d %s can", (value, unit) => {
    expect(level(value, [], { unit })).toMatchObject({ verdict: "unknown", usual: null });
  });

  it("is what the procedure says, when it says it: both ends are possible", () => {
    const possible: [number, number] = [80, 95];
    expect([79.9, 80, 95, 95.1].map((value) => level(value, [], { unit: "°C", possible }).verdict)).toEqual([
      "impossible",
      "unknown",
      "unknown",
      "impossible",
    ]);
    expect(level(120, [], { unit: "%", possible: [0, null] }).verdict).toBe("unknown");
  });

  it("more hours than there are since the last value", () => {
    const history = [{ on: "2026-11-26", value: 100 }];
    expect(meter(172, history).verdict).toBe("usual");
    expect(meter(172.1, history)).toMatchObject({
      verdict: "impossible",
      because: "172.1 h cannot be: that is 72.1 h more than the last value, in 72 h.",
    });
    expect(meter(172.1, history, { unit: "prints" }).verdict).toBe("usual");
  });
});

describe("a level", () => {
  it("is unknown before five values", () => {
    expect(level(500, [4, 4, 4, 4]).verdict).toBe("unknown");
    expect(level(500, [4, 4, 4, 4, 4]).verdict).toBe("unusual");
  });

  it("is usual within a tenth of the median, its scatter, or three of the last digit, whichever is most", () => {
    expect(level(0, [20, 20, 20, 20, 20]).usual).toEqual([17, 23]);
    expect(level(0, [50, 50, 50, 50, 50]).usual).toEqual([45, 55]);
    expect(level(0, [2.5, 2.5, 2.5, 2.5, 2.5]).usual).toEqual([2.2, 2.8]);
    expect(level(0, [2.5, 2.5, 2.5, 2.5, 2.5], { step: 1 }).usual).toEqual([-0.5, 5.5]);
    const [low, high] = must(level(0, [10, 11, 12, 13, 14]).usual);
    expect([low, high]).toEqual([12 - 5 * 1.4826, 12 + 5 * 1.4826]);
    // 2.2 and 2.8 are on the edge, however they are rounded.
    expect([2.2, 2.8].map((value) => level(value, [2.5, 2.5, 2.5, 2.5, 2.5]).verdict)).toEqual(["usual", "usual"]);
    expect([2.19, 2.81].map((value) => level(value, [2.5, 2.5, 2.5, 2.5, 2.5]).verdict)).toEqual([
      "unusual",
      "unusual",
    ]);
  });

  it("follows a trend from eight values on, and forgets what is longer ago than twelve", () => {
    const falling = [60, 58, 56, 54, 52, 50, 48, 46];
    expect(level(44, falling).usual).toEqual([39.6, 48.4]);
    expect(level(60, falling).verdict).toBe("unusual");
    expect(level(60, falling.slice(1)).verdict).toBe("usual");
    expect(level(9, [...Array<number>(5).fill(900), ...Array<number>(12).fill(9)]).verdict).toBe("usual");
  });

  it("is not led astray by a slip among the values before", () => {
    expect(level(2.5, [2.4, 2.5, 2.5, 250, 2.6, 2.5]).verdict).toBe("usual");
    expect(level(250, [2.4, 2.5, 2.5, 250, 2.6, 2.5]).verdict).toBe("unusual");
  });

  it("leaves aside what is dated after it, in whatever order the values come", () => {
    const history = weekly(10, 11, 12, 13, 14, 15, 16);
    const on = must(history[5]).on;
    const judged = plausible({ value: 12, unit: "bar", history, on });
    expect(judged.usual).toEqual(must(level(0, [10, 11, 12, 13, 14, 15]).usual));
    expect(plausible({ value: 12, unit: "bar", history: [...history].reverse(), on })).toEqual(judged);
  });

  it("has the band that general-purpose libraries give", () => {
    const random = uniform(xoroshiro128plus(4711));
    for (let i = 0; i < draws(300, 20_000); i++) {
      const n = 5 + Math.floor(random() * 8);
      const values = Array.from({ length: n }, () => Math.round(random() * 1000) / 10);
      const days = values.map((_, at) => -(n - at) * 3 - Math.floor(random() * 3));
      const history = values.map((value, at) => ({ value, on: addDays(TODAY, must(days[at])) }));
      const { slope, intercept } = n >= 8 ? line(days, values) : { slope: 0, intercept: median(values) };
      // The library takes the lower of two middles: eleven values have one, and so have their fifty-five slopes.
      if (n === 11)
        expect(new TheilSenRegression(days, values)).toMatchObject({
          slope: expect.closeTo(slope, 9),
          intercept: expect.closeTo(intercept, 9),
        });
      const off = values.map((value, at) => value - slope * must(days[at]) - intercept);
      const half = Math.max(5 * 1.4826 * median(off.map(Math.abs)), Math.abs(intercept) / 10, 0.3);
      if (n < 8) expect(median(off.map(Math.abs))).toBeCloseTo(medianAbsoluteDeviation(values), 9);
      const [low, high] = must(plausible({ value: 1, unit: "made-up", history, on: TODAY }).usual);
      expect(low).toBeCloseTo(intercept - half, 6);
      expect(high).toBeCloseTo(intercept + half, 6);
    }
  });
});

describe("a meter", () => {
  const used = [
    { on: "2026-10-01", value: 2800 },
    { on: "2026-11-23", value: 2906 },
  ];

  it("goes up, no more than three times as fast as it did", () => {
    // Two a day for five days, times three.
    expect(meter(2920, used)).toMatchObject({ verdict: "usual", usual: [2906, 2936] });
    expect(meter(2936, used).verdict).toBe("usual");
    expect(meter(2936.5, used).verdict).toBe("unusual");
    expect(meter(2.4, used)).toEqual({
      verdict: "unusual",
      usual: [2906, 2936],
      because:
        "2.4 h is not between 2906 and 2936 h: the last value was 2906, 5 days ago, and it counts about 2 a day.",
    });
  });

  it("of an unknown rate five times the last value, from zero without an end; without a value before, unknown", () => {
    expect(meter(40, [{ on: "2026-11-20", value: 10 }]).usual).toEqual([10, 50]);
    expect(meter(40, [{ on: "2026-11-20", value: 0 }]).usual).toEqual([0, null]);
    expect(meter(40, [])).toMatchObject({ verdict: "unknown", usual: null });
  });

  it("that stood still has not moved", () => {
    const still = [
      { on: "2026-11-01", value: 500 },
      { on: "2026-11-21", value: 500 },
    ];
    expect(meter(500, still).verdict).toBe("usual");
    expect(meter(504, still).verdict).toBe("unusual");
  });
});

it("takes a unit as it is written, also with words behind it, and does not know others", () => {
  expect(possibleOf(" mm ")).toEqual([0, null]);
  expect(possibleOf("% full")).toEqual([0, 100]);
  expect(possibleOf("V")).toEqual([null, null]);
  expect(possibleOf("")).toEqual([null, null]);
});
