import fc from "fast-check";

import { must } from "../must";
import { draws } from "../testing/draws";
import { type FaceValue, increase, inLeastUse } from "./least-use";

const useOf = (points: readonly { value: number }[]): number => {
  let total = 0;
  points.slice(1).forEach(({ value }, i) => {
    total += increase(must(points[i]).value, value);
  });
  return total;
};

/** Every order of the values of each day. */
function allOrders(days: readonly FaceValue[][]): FaceValue[][] {
  const permutations = (list: readonly FaceValue[]): FaceValue[][] =>
    list.length === 0
      ? [[]]
      : list.flatMap((one, i) => permutations(list.filter((_, at) => at !== i)).map((rest) => [one, ...rest]));
  return days.reduce<FaceValue[][]>(
    (before, day) => before.flatMap((line) => permutations(day).map((order) => [...line, ...order])),
    [[]],
  );
}

it("counts no more than any other order of each day's values would", () => {
  const day = fc.array(fc.integer({ min: 0, max: 12 }), { minLength: 1, maxLength: 4 });
  fc.assert(
    fc.property(fc.array(day, { minLength: 1, maxLength: 3 }), (values) => {
      const days = values.map((list, on) => list.map((value): FaceValue => ({ on, value, at: null })));
      const least = Math.min(...allOrders(days).map(useOf));
      expect(useOf(inLeastUse(days.flat()))).toBe(least);
    }),
    { numRuns: draws(300, 5000) },
  );
});

it("keeps to instants where there are any, whatever order the values come in", () => {
  const value = fc.record({ value: fc.integer({ min: 0, max: 12 }), at: fc.option(fc.integer({ min: 0, max: 5 })) });
  fc.assert(
    fc.property(
      fc.uniqueArray(value, { minLength: 2, maxLength: 5, selector: (one) => one.at ?? `${one.value}` }),
      (list) => {
        const points = list.map((one): FaceValue => ({ on: 1, ...one }));
        const found = inLeastUse(points);
        const timed = found.flatMap((one) => one.at ?? []);
        expect(timed).toEqual([...timed].sort((a, b) => a - b));
        expect(found).toHaveLength(points.length);
        expect(useOf(inLeastUse([...points].reverse()))).toBe(useOf(found));
      },
    ),
    { numRuns: draws(200, 3000) },
  );
});

it("takes thousands of values of one day in a moment", () => {
  const many = Array.from({ length: 10_007 }, (_, i): FaceValue => ({ on: 1, value: (i * 7919) % 10_007, at: null }));
  const found = inLeastUse(many);
  expect(found).toHaveLength(many.length);
  expect(useOf(found)).toBe(10_005);
  // One meter replaced by another on that day: the step between the two is nobody's use.
  const replaced = many.map((point) => ({ ...point, value: point.value < 5000 ? point.value : point.value + 90_000 }));
  expect(useOf(inLeastUse(replaced))).toBe(100_006 - 95_000 + 4999);
});
