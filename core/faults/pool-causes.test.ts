import { must } from "../must";
import { poolCauses } from "./pool-causes";

const typical = { a: 0.6, b: 0.3, c: 0.1 };
const times = (cause: string, n: number) => new Map([[cause, n]]);

it("is the typical chance until something is found", () => {
  const pooled = poolCauses({ typical, others: new Map(), own: new Map() });
  expect(must(pooled["a"])).toMatchObject({ n: 0 });
  expect(must(pooled["a"]).weight).toBeCloseTo(0.6, 12);
});
it("what the family's machines show moves it; what this one shows moves it more", () => {
  const family = must(poolCauses({ typical, others: times("c", 10), own: new Map() })["c"]);
  // (0.1 × 10 + 10) ÷ 20
  expect(family.weight).toBeCloseTo(0.55, 12);
  expect(family.n).toBe(10);
  const own = must(poolCauses({ typical, others: times("a", 10), own: times("c", 10) })["c"]);
  expect(own.weight).toBeGreaterThan(0.5);
  expect(must(poolCauses({ typical, others: times("c", 10), own: times("a", 10) })["c"]).weight).toBeLessThan(
    own.weight,
  );
});
it("causes that the guide has no more are left out", () => {
  const pooled = poolCauses({
    typical,
    others: new Map([
      ["gone", 1],
      ["a", 1],
    ]),
    own: times("gone", 1),
  });
  expect(Object.keys(pooled)).toEqual(["a", "b", "c"]);
  expect(must(pooled["a"]).n).toBe(1);
});
it("the span narrows with what is found", () => {
  const width = (n: number): number => {
    const { low, high } = must(
      poolCauses({
        typical,
        others: new Map(),
        own: new Map([
          ["a", n],
          ["b", n],
        ]),
      })["a"],
    );
    return high - low;
  };
  expect(width(20)).toBeLessThan(width(2));
});

it("a cause named like what every object has counts what was found, and nothing else", () => {
  const pooled = poolCauses({ typical: { constructor: 1, a: 1 }, others: new Map(), own: times("a", 1) });
  expect(must(pooled["constructor"]).n).toBe(0);
  expect(must(pooled["a"]).weight).toBeCloseTo((0.5 * 5 + 1) / 6, 12);
});
