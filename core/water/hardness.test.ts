import { hardnessClass, hardnessFactor } from "./hardness";

/** U.S. Geological Survey, Water Science School, "Hardness of Water" (table quoted from memory). */
it.each([
  [0, "soft"],
  [60, "soft"],
  [61, "moderately hard"],
  [120, "moderately hard"],
  [121, "hard"],
  [180, "hard"],
  [180.5, "very hard"],
  [400, "very hard"],
])("%d mg/L is %s", (mg, name) => expect(hardnessClass(mg)).toBe(name));

it("never lengthens an interval, and leaves untested water alone", () => {
  const factors = [30, 100, 150, 300].map(hardnessFactor);
  expect([...factors].sort((a, b) => b - a)).toEqual(factors);
  expect(factors[0]).toBe(1);
  expect(hardnessFactor(null)).toBe(1);
});

it("refuses what is no hardness", () => expect(() => hardnessClass(-1)).toThrow(/negative/));

it("shrinks by class, and refuses water softer than pure", () => {
  expect([0, 60, 120, 121, 180, 181].map(hardnessFactor)).toEqual([1, 1, 1, 0.75, 0.75, 0.5]);
  expect(() => hardnessFactor(-1)).toThrow(/mgPerLitre/);
});
