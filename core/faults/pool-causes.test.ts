import { must } from "../must";
import { poolCauses } from "./pool-causes";

const typical = { a: 0.6, b: 0.3, c: 0.1 };
const times = (cause: string, n: number): string[] => Array.from({ length: n }, () => cause);

it("is the typical chance until something is found", () => {
  const pooled = poolCauses({ typical, others: [], own: [] });
  expect(must(pooled["a"])).toMatchObject({ n: 0 });
  expect(must(pooled["a"]).weight).toBeCloseTo(0.6, 12);
});
it("what the family's machines show moves it; what this one shows moves it more", () => {
  const family = must(poolCauses({ typical, others: times("c", 10), own: [] })["c"]);
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
  const pooled = poolCauses({ typical, others: ["gone", "a"], own: ["gone"] });
  expect(Object.keys(pooled)).toEqual(["a", "b", "c"]);
  expect(must(pooled["a"]).n).toBe(1);
});
it("the span narrows with what is found", () => {
  const width = (n: number): number => {
    const { low, high } = must(poolCauses({ typical, others: [], own: [...times("a", n), ...times("b", n)] })["a"]);
    return high - low;
  };
  expect(width(20)).toBeLessThan(width(2));
});
