import { must } from "../must";
import { expectedRange } from "./expected-range";

const read = (...pairs: [string, number][]) => pairs.map(([on, value]) => ({ on, value }));
const asks = (readings: ReturnType<typeof read>, today: string, value: number): boolean => {
  const range = must(expectedRange(readings, today));
  return value < range.low || value > range.high;
};
const used = read(["2026-01-01", 1200], ["2026-01-12", 1233]); // 3 a day

it("gives the last value and three times the usual use", () => {
  expect(expectedRange(used, "2026-01-15")).toEqual({
    last: 1233,
    lastOn: "2026-01-12",
    perDay: 3,
    low: 1233,
    high: 1260,
  });
});

it.each([
  [1240, false],
  [1260, false],
  [1261, true],
  [12340, true],
  [123, true],
  [1232, true],
])("%d after 1,233 asks: %s", (value, expected) => expect(asks(used, "2026-01-15", value)).toBe(expected));

it("counts the same day as one, and goes by the value itself while the rate is unknown", () => {
  expect(must(expectedRange(used, "2026-01-12")).high).toBe(1242);
  expect(expectedRange(read(["2026-01-01", 200]), "2026-01-12")).toMatchObject({ perDay: null, low: 200, high: 1000 });
  expect(must(expectedRange(read(["2026-01-01", 0]), "2026-01-12")).high).toBe(Infinity);
  expect(expectedRange([], "2026-01-12")).toBeNull();
});

it("measures the rate across a replaced meter", () => {
  expect(
    expectedRange(read(["2026-01-01", 900], ["2026-01-11", 1000], ["2026-01-12", 0], ["2026-01-21", 90]), "2026-01-22"),
  ).toMatchObject({
    last: 90,
    perDay: 9.5,
  });
});
