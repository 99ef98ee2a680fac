import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { must } from "../must";
import { uniform } from "../random";
import { draws } from "../testing/draws";
import { fitWear, lineChance, lineCrossing, lineValue, pieceLine, pieceSums, poolPieces, poolSlopes } from "./index";

const values = (list: readonly (readonly [use: number, value: number, confirmed?: boolean])[]) =>
  list.map(([use, value, confirmed = false]) => ({ use, value, confirmed }));
const worn = values([
  [0, 4.02],
  [30, 3.61],
  [55, 3.33],
  [90, 2.84],
  [120, 2.49],
]);
const sumsOf = (list: Parameters<typeof pieceSums>[0]) => must(pieceSums(list));

describe("the line of one piece", () => {
  it("is the least squares one, with its crossing and its chance", () => {
    const line = must(pieceLine(sumsOf(worn), null, "down"));
    const fit = fitWear({ points: worn.map(({ use: at, value }) => ({ at, value })), limit: 2, worse: "down" });
    expect(line.slope).toBeCloseTo(fit.slope, 12);
    expect(line.sd).toBeCloseTo(fit.residualSd, 12);
    expect(line.slopeSe).toBeCloseTo(fit.slopeSe, 12);
    expect(line.level - line.slope * line.meanAt).toBeCloseTo(fit.intercept, 12);
    expect(lineCrossing(line, 2)).toEqual(fit.crossing);
    expect(line).toMatchObject({ degrees: 3, ownWeight: 1 });
    // A band for a single value is wider than the line's, and the chance is a half where the line crosses.
    expect(lineChance(line, 2, must(fit.crossing).at)).toBeCloseTo(0.5, 9);
    const { low, value, high } = lineValue(line, 150);
    expect(value - low).toBeCloseTo(high - value, 12);
  });

  it("needs three values without fellows, of which one will do; none is none", () => {
    expect(pieceSums([])).toBeNull();
    expect(pieceLine(sumsOf(worn.slice(0, 2)), null, "down")).toBeNull();
    expect(
      pieceLine(
        sumsOf(
          values([
            [5, 1],
            [5, 2],
            [5, 3],
          ]),
        ),
        null,
        "down",
      ),
    ).toBeNull();
  });

  it("values on a line are as good as their last digit: rounding spreads them evenly over it", () => {
    const exact = sumsOf(
      values([
        [0, 3.4],
        [7, 3.35],
        [14, 3.3],
        [21, 3.25],
      ]),
    );
    // The variance of what is rounded to hundredths: 0.01² / 12 (common practice of measurement).
    expect(exact.residual).toBeCloseTo((2 * 0.01 ** 2) / 12, 12);
    expect(must(pieceLine(exact, null, "down")).sd).toBeCloseTo(0.01 / Math.sqrt(12), 9);
    const fine = sumsOf(
      values([
        [0, 3e-7],
        [7, 2e-7],
        [14, 1e-7],
      ]),
    );
    expect(fine.residual).toBeCloseTo(1e-7 ** 2 / 12, 24);
  });
});

describe("a value that looked wrong and was confirmed", () => {
  const off = values([
    [0, 4],
    [30, 3.62],
    [60, 3.18],
    [90, 2.81],
    [105, 1.2, true],
  ]);

  it("is kept and weighs less, by Huber's weight against the line through the others", () => {
    const others = off.filter((one) => !one.confirmed).map(({ use: at, value }) => ({ at, value }));
    const fit = fitWear({ points: others, limit: 2 });
    const away = Math.abs(1.2 - fit.intercept - fit.slope * 105);
    const { weights, n, slope } = sumsOf(off);
    expect(n).toBe(5);
    expect(weights).toEqual([1, 1, 1, 1, expect.closeTo((1.345 * fit.residualSd) / away, 12)]);
    // Weighted least squares by the other implementation.
    const points = off.map(({ use: at, value }, i) => ({ at, value, weight: must(weights[i]) }));
    expect(slope).toBeCloseTo(fitWear({ points, limit: 2 }).slope, 12);
    expect(Math.abs(must(slope) - fit.slope)).toBeLessThan(0.003);
  });

  it("counts whole where it lies on the line after all, and where there are too few to hold it against", () => {
    const onLine = values([
      [0, 4],
      [30, 3.62],
      [60, 3.18],
      [90, 2.81],
      [120, 2.4, true],
    ]);
    expect(sumsOf(onLine).weights).toEqual([1, 1, 1, 1, 1]);
    expect(sumsOf(off.slice(1)).weights).toEqual([1, 1, 1, 1]);
  });
});

describe("pieces that are pooled", () => {
  const family = Array.from({ length: 6 }, (_, i) =>
    sumsOf(
      values([
        [0, 4 + 0.02 * (i % 3)],
        [40, 3.5 - 0.03 * (i % 2)],
        [80, 3.02 + 0.01 * i],
        [120, 2.5 - 0.03 * i],
      ]),
    ),
  );

  it("are five at least, and share their scatter", () => {
    expect(poolPieces(family.slice(0, 4))).toBeNull();
    const pool = must(poolPieces(family));
    const residual = family.reduce((all, one) => all + one.residual, 0);
    expect(pool.sd).toBeCloseTo(Math.sqrt(residual / 12), 12);
    expect(pool).toMatchObject({ degrees: 12, of: 6 });
    // Values that say nothing of a slope change nothing.
    expect(poolPieces([...family, sumsOf(values([[0, 9]]))])).toEqual(pool);
  });

  it("are drawn together as random effects are", () => {
    const pool = must(poolPieces(family));
    const { mean, groups } = poolSlopes([
      ...family.map(({ slope, sumSquares }, i) => ({
        id: String(i),
        slope: must(slope),
        slopeSe: pool.sd / Math.sqrt(sumSquares),
      })),
      { id: "new", slope: 0, slopeSe: null },
    ]);
    family.forEach((sums, i) => {
      const line = must(pieceLine(sums, pool, "down"));
      expect(line.slope).toBeCloseTo(must(groups[i]).slope, 12);
      expect(line.slopeSe).toBeCloseTo(must(groups[i]).se, 12);
    });
    const first = must(pieceLine(sumsOf(values([[10, 3.9]])), pool, "down"));
    expect(first.slope).toBeCloseTo(mean, 12);
    expect(first).toMatchObject({ ownWeight: 0, level: 3.9, levelSe: pool.sd });
    expect(first.slopeSe).toBeCloseTo(must(groups.at(-1)).se, 12);
  });

  it("hold their crossing in nine of ten cases from the second value on", () => {
    const random = uniform(xoroshiro128plus(90_210));
    const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    const families = draws(150, 2000);
    let [held, told] = [0, 0];
    for (let f = 0; f < families; f++) {
      const truth = Array.from({ length: 14 }, () => -0.0125 + 0.002 * normal());
      const pieces = truth.map((slope, i) =>
        sumsOf(
          Array.from({ length: i % 2 === 0 ? 8 : 2 }, (_, k) => {
            const use = 15 * k + 4 * random();
            return { use, value: 4 + slope * use + 0.04 * normal(), confirmed: false };
          }),
        ),
      );
      const pool = must(poolPieces(pieces));
      truth.forEach((slope, i) => {
        const crossing = lineCrossing(must(pieceLine(must(pieces[i]), pool, "down")), 2);
        if (!crossing) return;
        const at = (2 - 4) / slope;
        told++;
        if (crossing.low <= at && at <= (crossing.high ?? Infinity)) held++;
      });
    }
    expect(told).toBe(families * 14);
    expect(held / told).toBeGreaterThan(0.86);
    expect(held / told).toBeLessThan(0.94);
  });
});
