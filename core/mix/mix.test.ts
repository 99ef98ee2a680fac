import fc from "fast-check";

import { CoreError } from "../errors";
import { additive } from "./additive";
import { byParts } from "./by-parts";
import { checkMix, chemicalClasses } from "./check-mix";
import { dilute } from "./dilute";
import { jugMl } from "./jug-ml";
import { recipeAmounts } from "./recipe-amounts";
import { toMl, type VolumeUnit } from "./to-ml";

const code = (work: () => unknown): string => {
  try {
    work();
  } catch (error) {
    if (error instanceof CoreError) return `${error.code} ${error.path}`;
    throw error;
  }
  return "no error";
};

describe("dilution", () => {
  /**
   * CDC, Guideline for Disinfection and Sterilization in Healthcare Facilities (2008), household bleach of 5.25 % to 6.15 %:
   * 1:10 gives about 5,250–6,150 ppm, 1:100 gives 525–615 ppm (from memory of the table).
   */
  it.each([
    [5.25, 5250, 100],
    [6.15, 6150, 100],
    [5.25, 525, 10],
    [6.15, 615, 10],
  ])(
    "a stock of %d %% for %d ppm takes %d mL a litre, as in the health authority's table",
    (stockPercent, ppm, stockMl) => {
      expect(dilute({ stockPercent, target: { ppm }, finalMl: 1000 }).stockMl).toBeCloseTo(stockMl, 9);
    },
  );

  /** WHO/CDC "how to make chlorine solutions": parts of water per part of bleach = (% bleach ÷ % wanted) − 1 (from memory). */
  it.each([
    [5, 0.5, 9],
    [5, 0.05, 99],
    [3.5, 0.5, 6],
    [2.6, 0.5, 4.2],
  ])("a stock of %d %% for %d %% takes %d parts of water", (stockPercent, percent, parts) => {
    const { stockMl, waterMl } = dilute({ stockPercent, target: { percent }, finalMl: 10_000 });
    expect(waterMl / stockMl).toBeCloseTo(parts, 9);
  });

  it("adds up, keeps the amount of the active substance, and treats 1 % as 10,000 ppm", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 60, noNaN: true }),
        fc.double({ min: 0.001, max: 1, noNaN: true }),
        fc.double({ min: 1, max: 1e6, noNaN: true }),
        (stockPercent, share, finalMl) => {
          const percent = stockPercent * share;
          const { stockMl, waterMl } = dilute({ stockPercent, target: { percent }, finalMl });
          expect(stockMl + waterMl).toBeCloseTo(finalMl, 6);
          expect((stockMl * stockPercent) / (finalMl * percent)).toBeCloseTo(1, 9);
          expect(dilute({ stockPercent, target: { ppm: percent * 10_000 }, finalMl }).stockMl / stockMl).toBeCloseTo(
            1,
            9,
          );
        },
      ),
    );
  });

  it("uses the stock as it is when the target is just as strong", () => {
    expect(dilute({ stockPercent: 2, target: { ppm: 20_000 }, finalMl: 500 })).toEqual({ stockMl: 500, waterMl: 0 });
  });

  it.each([
    [
      "a target stronger than the stock",
      { stockPercent: 1, target: { ppm: 10_001 }, finalMl: 1 },
      "out-of-range target",
    ],
    ["no stock", { stockPercent: 0, target: { ppm: 1 }, finalMl: 1 }, "bad-number stockPercent"],
    ["a target of nothing", { stockPercent: 1, target: { percent: 0 }, finalMl: 1 }, "bad-number target.percent"],
    ["no volume", { stockPercent: 1, target: { percent: 1 }, finalMl: NaN }, "bad-number finalMl"],
    ["two targets", { stockPercent: 1, target: { percent: 1, ppm: 1 } as never, finalMl: 1 }, "bad-value target"],
    ["no target", { stockPercent: 1, target: {} as never, finalMl: 1 }, "bad-value target"],
  ])("%s is refused", (_name, input, expected) => expect(code(() => dilute(input))).toBe(expected));
});

describe("parts and additives", () => {
  it("splits by parts", () => {
    expect(byParts({ parts: { acetonitrile: 1, water: 1 }, finalMl: 250 })).toEqual({ acetonitrile: 125, water: 125 });
    expect(byParts({ parts: { cleaner: 1, water: 3, dye: 0 }, finalMl: 1000 })).toEqual({
      cleaner: 250,
      water: 750,
      dye: 0,
    });
  });
  it("fills the rest with water", () =>
    expect(additive({ tankMl: 3000, additiveMl: 75 })).toEqual({ additiveMl: 75, waterMl: 2925 }));
  it("refuses what makes no mixture", () => {
    expect(code(() => byParts({ parts: {}, finalMl: 1 }))).toBe("missing parts");
    expect(code(() => byParts({ parts: { a: -1 }, finalMl: 1 }))).toBe("bad-number parts.a");
    expect(code(() => additive({ tankMl: 50, additiveMl: 75 }))).toBe("out-of-range additiveMl");
  });
});

describe("chemical compatibility", () => {
  it("knows the pairs of the health authorities, in both orders", () => {
    for (const other of ["acid", "ammonia", "alcohol", "peroxide", "quaternary"]) {
      for (const [a, b] of [
        ["hypochlorite", other],
        [other, "hypochlorite"],
      ] as const) {
        expect(checkMix(a, b)).toMatchObject({
          safe: false,
          hazard: expect.any(String) as string,
          source: expect.any(String) as string,
        });
      }
    }
    expect(checkMix("acid", "caustic").safe).toBe(false);
    expect(checkMix("oxidising-acid", "alcohol").safe).toBe(false);
  });
  // NOAA/EPA reactive groups, from memory: oxidising agents and acids with phenols, aldehydes and iodine compounds.
  it.each([
    ["oxidising-acid", "phenolic"],
    ["peroxide", "phenolic"],
    ["peroxide", "aldehyde"],
    ["peroxide", "iodophor"],
    ["quaternary", "anionic"],
  ])("keeps %s and %s apart", (a, b) => {
    expect(checkMix(a, b).safe).toBe(false);
    expect(checkMix(b, a)).toEqual(checkMix(a, b));
  });
  it("lets pass what is known to be no hazard", () => {
    for (const one of chemicalClasses)
      expect([checkMix(one, one), checkMix(one, "water")]).toEqual([{ safe: true }, { safe: true }]);
    expect(checkMix("detergent", "alcohol")).toEqual({ safe: true });
  });
  it("never calls an unknown class safe", () => {
    expect(code(() => checkMix("mystery", "water"))).toBe("bad-value a");
    expect(code(() => checkMix("water", "toString"))).toBe("bad-value b");
  });
});

/** NIST Handbook 44, Appendix C, General Tables of Units of Measurement (from memory; exact by definition). */
it.each<[number, VolumeUnit, number]>([
  [1, "us-gal", 3785.411784],
  [4, "us-quart", 3785.411784],
  [16, "us-cup", 3785.411784],
  [128, "us-floz", 3785.411784],
  [1, "imp-gal", 4546.09],
  [2.5, "L", 2500],
  [0, "mL", 0],
])("%d %s are %d mL", (value, unit, ml) => expect(toMl(value, unit)).toBeCloseTo(ml, 9));

it("refuses a volume that is none", () => {
  expect(code(() => toMl(-1, "L"))).toBe("bad-number value");
  expect(code(() => toMl(1, "pint" as VolumeUnit))).toBe("bad-value unit");
});

describe("what a recipe takes", () => {
  it("a dilution goes by the stock's strength today, in percent or ppm", () => {
    const recipe = { by: "dilution", stock: "bleach", target: { ppm: 200 }, finalMl: 5000 } as const;
    expect(recipeAmounts(recipe, 5000, 5)).toEqual([
      { item: "bleach", ml: 20 },
      { item: "water", ml: 4980 },
    ]);
    // Half as strong, twice as much; for another volume in proportion.
    expect(recipeAmounts(recipe, 10_000, 2.5)).toEqual([
      { item: "bleach", ml: 80 },
      { item: "water", ml: 9920 },
    ]);
    expect(recipeAmounts({ ...recipe, target: { percent: 0.02 } }, 5000, 5)).toEqual([
      { item: "bleach", ml: 20 },
      { item: "water", ml: 4980 },
    ]);
    for (const strength of [undefined, null])
      expect(code(() => recipeAmounts(recipe, 5000, strength))).toBe("missing stockPercent");
    expect(code(() => recipeAmounts(recipe, 5000, 0.01))).toBe("out-of-range target");
  });

  it("parts share the volume out, an additive goes into what the tank holds; neither needs a strength", () => {
    const parts = [
      { item: "acid", parts: 1 },
      { item: "water", parts: 3 },
    ];
    expect(recipeAmounts({ by: "parts", parts, finalMl: 1 }, 1000)).toEqual([
      { item: "acid", ml: 250 },
      { item: "water", ml: 750 },
    ]);
    const amounts = recipeAmounts({ by: "additive", item: "dye", additiveMl: 30, tankMl: 1 }, 1000);
    expect(amounts.map((one) => one.item)).toEqual(["dye", "water"]);
    expect(amounts[0]?.ml).toBe(30);
  });
});

it.each([
  [0, 0],
  [0.33814, 0.338],
  [12.345, 12.3],
  [19.96, 20],
  [48.780488, 49],
  [999.6, 1000],
  [4951.2, 4951],
])("%d mL are measured out as %d mL", (ml, shown) => expect(jugMl(ml)).toBe(shown));

describe("what cannot be mixed", () => {
  it("is named: a target in both ways or none, a class that nobody knows", () => {
    const target = (given: unknown) =>
      code(() => dilute({ stockPercent: 5, target: given as { ppm: number }, finalMl: 1000 }));
    for (const wrong of [null, "200 ppm", {}, { ppm: 1, percent: 1 }]) expect(target(wrong)).toBe("bad-value target");
    expect(target({ ppm: 0 })).toBe("bad-number target.ppm");
    expect(target({ percent: -1 })).toBe("bad-number target.percent");
    expect(target({ ppm: 50_000 })).toBe("no error");
    expect(() => checkMix("acid", "holy water")).toThrow(
      `"holy water" is no product class this table knows. Do not mix; read the labels. Known: ${chemicalClasses.join(", ")}.`,
    );
    expect(code(() => checkMix("x", "acid"))).toBe("bad-value a");
    expect(code(() => checkMix("acid", "x"))).toBe("bad-value b");
  });
});
