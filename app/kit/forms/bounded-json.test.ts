import { boundedJson } from "./bounded-json";

const refused = (value: unknown, most = 100, deepest?: number): boolean => {
  try {
    boundedJson(value, most, deepest);
    return false;
  } catch (error) {
    expect(error).toMatchObject({ status: 413, code: "too-much" });
    return true;
  }
};

it("takes what has as many values as are meant, and no more", () => {
  // The list itself is one.
  expect(refused(Array.from({ length: 99 }, () => 1))).toBe(false);
  expect(refused(Array.from({ length: 100 }, () => 1))).toBe(true);
  const rows = (n: number) => Array.from({ length: n }, () => ({ a: 1, b: { c: null } }));
  expect(refused(rows(24))).toBe(false);
  expect(refused(rows(25))).toBe(true);
});

it("takes what goes as deep as is meant, and no deeper", () => {
  const nested = (depth: number): unknown => (depth === 1 ? "end" : { in: nested(depth - 1) });
  expect(refused(nested(16))).toBe(false);
  expect(refused(nested(17))).toBe(true);
  expect(refused(nested(3), 100, 2)).toBe(true);
});

it.each([["text"], [null], [7], [undefined]])("takes %j for what it is", (value) => {
  expect(refused(value)).toBe(false);
});
