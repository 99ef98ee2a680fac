import { measurable, takeAlong } from "./take-along";

it("rounds amounts up to what a jug shows, and never below what is needed", () => {
  expect([0.2, 3.2, 7.2, 20, 49, 235, 1000, 3510].map((qty) => measurable(qty, "mL"))).toEqual([
    0.5, 3.5, 8, 20, 50, 240, 1000, 3600,
  ]);
  expect(measurable(100.00000001, "g")).toBe(100);
  for (let qty = 0.1; qty < 5000; qty += 7.3) expect(measurable(qty, "mL")).toBeGreaterThanOrEqual(qty - 1e-6);
  expect(measurable(3, "pc")).toBe(3);
  expect(measurable(0, "mL")).toBe(0);
});

it("tells what is renewed in pairs as pairs", () => {
  expect(takeAlong(3510, "mL", false)).toBe("3.6 L");
  expect(takeAlong(2, "pc", true)).toBe("1 pair");
  expect(takeAlong(4, "pc", true)).toBe("2 pairs");
  expect(takeAlong(3, "pc", true)).toBe("1 pair and 1 pc");
  expect(takeAlong(1, "pc", true)).toBe("1 pc");
  expect(takeAlong(2, "pc", false)).toBe("2 pc");
});
