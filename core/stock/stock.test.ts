import fc from "fast-check";

import { must } from "../must";
import { earlier, shipped, whole } from "../sheet/testing/shipped";
import { explodeDemand, kitCover, loadList, procedureNeeds, useShare } from "./index";
import { serveFrom } from "./testing/day-by-day";

describe("demand", () => {
  it("is one line for each item of each service, what is likely not multiplied away", () => {
    const uses = {
      weekly: [
        { item: "soap", qty: 20 },
        { item: "filter", qty: 2, chance: 0.3 },
      ],
      daily: [],
    };
    const occurrences = [
      { on: "2026-03-02", planId: "weekly" },
      { on: "2026-03-03", planId: "daily" },
      { on: "2026-03-09", planId: "weekly" },
      { on: "2026-03-09", planId: "constructor" },
    ];
    expect(explodeDemand({ occurrences, uses })).toEqual([
      { on: "2026-03-02", item: "soap", qty: 20, chance: 1 },
      { on: "2026-03-02", item: "filter", qty: 2, chance: 0.3 },
      { on: "2026-03-09", item: "soap", qty: 20, chance: 1 },
      { on: "2026-03-09", item: "filter", qty: 2, chance: 0.3 },
    ]);
  });

  it("refuses days that are none, chances beyond one and quantities below nothing", () => {
    const one = (on: string, qty: number, chance?: number) => () =>
      explodeDemand({
        occurrences: [{ on, planId: "p" }],
        uses: { p: [{ item: "x", qty, ...(chance === undefined ? {} : { chance }) }] },
      });
    expect(one("2026-13-01", 1)).toThrow(expect.objectContaining({ path: "occurrences[0].on" }) as Error);
    expect(one("2026-03-01", -1)).toThrow(expect.objectContaining({ path: "uses.p[0].qty" }) as Error);
    expect(one("2026-03-01", 1, 1.2)).toThrow(expect.objectContaining({ path: "uses.p[0].chance" }) as Error);
    expect(one("2026-03-01", 1, NaN)).toThrow(expect.objectContaining({ path: "uses.p[0].chance" }) as Error);
  });
});

describe("a kit", () => {
  it("covers as many services as its scarcest item; a two-sided stick counts twice", () => {
    const kit = { "alcohol-card": 10, "adhesive-card": 5, swab: 5, sleeve: 5, gloves: 12, stick: 2 * 2 };
    // Of each ribbon's own pack comes the sleeve; adhesive cards are for another clean.
    const perService = { "alcohol-card": 1, "adhesive-card": 0, swab: 1, sleeve: 0, gloves: 1, stick: 1 };
    expect(kitCover({ kit, perService })).toEqual({
      services: 4,
      firstOut: ["stick"],
      leftover: { "alcohol-card": 6, "adhesive-card": 5, swab: 1, sleeve: 5, gloves: 8, stick: 0 },
    });
    expect(kitCover({ kit: { a: 4, b: 9 }, perService: { a: 2, b: 4, c: 0 } })).toMatchObject({
      services: 2,
      firstOut: ["a", "b"],
    });
    expect(kitCover({ kit: { a: 4 }, perService: { a: 1, missing: 1 } })).toEqual({
      services: 0,
      firstOut: ["missing"],
      leftover: { a: 4 },
    });
    // 0.3 ÷ 0.1 is three.
    expect(kitCover({ kit: { oil: 0.3 }, perService: { oil: 0.1 } })).toMatchObject({
      services: 3,
      leftover: { oil: 0 },
    });
  });

  it("refuses a service that takes nothing, and quantities below nothing", () => {
    expect(() => kitCover({ kit: { a: 1 }, perService: { a: 0 } })).toThrow(
      expect.objectContaining({ code: "missing", path: "perService" }) as Error,
    );
    expect(() => kitCover({ kit: { a: -1 }, perService: { a: 1 } })).toThrow(
      expect.objectContaining({ path: "kit.a" }) as Error,
    );
    expect(() => kitCover({ kit: { a: 1 }, perService: { a: NaN } })).toThrow(
      expect.objectContaining({ path: "perService.a" }) as Error,
    );
  });

  it("agrees with serving from it until something lacks", () => {
    const items = ["a", "b", "c", "d"];
    const quantities = (min: number) =>
      fc.dictionary(fc.constantFrom(...items), fc.integer({ min, max: 9 }), { minKeys: 1 });
    fc.assert(
      fc.property(quantities(0), quantities(1), (kit, perService) => {
        const lived = serveFrom(kit, perService);
        const found = kitCover({ kit, perService });
        expect(found.services).toBe(lived.services);
        expect(new Set(found.firstOut)).toEqual(new Set(lived.lacking));
        expect(found.leftover).toEqual(lived.left);
      }),
      { numRuns: 500, seed: 7 },
    );
  });
});

describe("what to load", () => {
  const visits = [
    {
      id: "café",
      needs: [
        { item: "glasses", qty: 1, why: "Oven", reusable: true },
        { item: "soap", qty: 30, why: "Oven" },
      ],
    },
    {
      id: "yard",
      needs: [
        { item: "glasses", qty: 2, why: "Sweeper", reusable: true },
        { item: "soap", qty: 15, why: "Sweeper" },
        { item: "filter", qty: 1, why: "Sweeper" },
      ],
    },
  ];
  it("adds up what is used, counts what is carried once, and takes from the own van first", () => {
    const lines = loadList({
      visits,
      stockByPlace: { van: { soap: 40, glasses: 2, filter: -1 }, depot: { soap: 500 } },
    });
    expect(lines).toEqual([
      {
        item: "glasses",
        qty: 2,
        why: ["Oven", "Sweeper"],
        have: 2,
        from: [{ place: "van", qty: 2 }],
        short: 0,
        chance: 1,
      },
      {
        item: "soap",
        qty: 45,
        why: ["Oven", "Sweeper"],
        have: 45,
        from: [
          { place: "van", qty: 40 },
          { place: "depot", qty: 5 },
        ],
        short: 0,
        chance: 1,
      },
      { item: "filter", qty: 1, why: ["Sweeper"], have: 0, from: [], short: 1, chance: 1 },
    ]);
  });

  it("keeps likely parts apart, serves them from what is left, with the chance that any service needs them", () => {
    const likely = [
      { item: "soap", qty: 5, why: "Spill", chance: 0.5 },
      { item: "broom", qty: 1, why: "Sweeper 1", chance: 0.2 },
      { item: "broom", qty: 1, why: "Sweeper 2", chance: 0.5 },
    ];
    const lines = loadList({ visits, stockByPlace: { van: { soap: 47, broom: 1 } }, likely });
    expect(lines.filter((line) => line.chance < 1)).toEqual([
      { item: "soap", qty: 5, why: ["Spill"], have: 2, from: [{ place: "van", qty: 2 }], short: 3, chance: 0.5 },
      {
        item: "broom",
        qty: 2,
        why: ["Sweeper 1", "Sweeper 2"],
        have: 1,
        from: [{ place: "van", qty: 1 }],
        short: 1,
        chance: 0.6,
      },
    ]);
    expect(() =>
      loadList({ visits: [], stockByPlace: {}, likely: [{ item: "x", qty: 1, why: "", chance: 2 }] }),
    ).toThrow(/between 0 and 1/);
  });
});

describe("the share of services that needed a part", () => {
  // R. G. Newcombe, Statistics in Medicine 17 (1998), table I, Wilson's method at 95 %; from memory.
  it.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])("%i of %i", (used, services, low, high) => {
    const found = useShare(used, services, 1.959963984540054);
    expect(found.share).toBeCloseTo(used / services, 12);
    expect(found.low).toBeCloseTo(low, 4);
    expect(found.high).toBeCloseTo(high, 4);
  });

  it("is never outside 0 to 1, and needs services", () => {
    expect(useShare(5, 5)).toMatchObject({ share: 1, high: 1 });
    expect(() => useShare(0, 0)).toThrow(expect.objectContaining({ path: "services" }) as Error);
    expect(() => useShare(6, 5)).toThrow(expect.objectContaining({ path: "used" }) as Error);
  });
});

describe("what a procedure takes", () => {
  it("is sure for what every service uses, and possible for what only findings take", () => {
    expect(procedureNeeds(earlier("flake-ice-maker-clean-sanitise"), { options: [] })).toEqual({
      sure: expect.arrayContaining([{ item: "ice-cleaner", qty: 470, kind: "material" }]),
      possible: [{ item: "auger-bearing", qty: 2, kind: "part" }],
    });
    // Turned to its next edge: one use of four.
    expect(procedureNeeds(shipped("ride-on-scrubber-brushes"), { options: [] })).toEqual({
      sure: [{ item: "squeegee-blade", qty: 1, kind: "part" }],
      possible: [{ item: "scrub-brush", qty: 2, kind: "part" }],
    });
    // Renewed at each service whatever is found; a fan where one was silent, one at a time.
    expect(procedureNeeds(whole(shipped("cnc-lathe-400h")), { options: [] })).toEqual({
      sure: [
        { item: "way-oil", qty: 500, kind: "material" },
        { item: "hydraulic-oil", qty: 500, kind: "material" },
        { item: "way-wiper", qty: 4, kind: "part" },
        { item: "wafer-filter", qty: 1, kind: "part" },
        { item: "hydraulic-element", qty: 1, kind: "part" },
      ],
      possible: [{ item: "cabinet-fan", qty: 1, kind: "part" }],
    });
  });

  it("leaves out what only options need that are not fitted", () => {
    const procedure = earlier("flake-ice-maker-clean-sanitise");
    const step = must(procedure.steps.find((one) => one.uses?.some((use) => use.item === "ice-cleaner")));
    step.when = [{ option: "second-reservoir", fitted: true }];
    const quantity = (options: string[]): number =>
      procedureNeeds(procedure, { options }).sure.find((one) => one.item === "ice-cleaner")?.qty ?? 0;
    const used = must(must(step.uses).find((use) => use.item === "ice-cleaner")).qty;
    expect(quantity(["second-reservoir"]) - quantity([])).toBe(used);
  });
});
