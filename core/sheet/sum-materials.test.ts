import { sumMaterials } from "@core";

describe("sumMaterials", () => {
  it("sums an item's amounts of one unit, and keeps its lots, each once", () => {
    expect(
      sumMaterials([
        { item: "descaler", qty: 0.1, unit: "L", lot: "A1" },
        { item: "gloves", qty: 1, unit: "pair", lot: null },
        { item: "descaler", qty: 0.2, unit: "L", lot: "A1" },
        { item: "descaler", qty: 0.2, unit: "L", lot: "B7" },
      ]),
    ).toEqual([
      { item: "descaler", qty: 0.5, unit: "L", lots: ["A1", "B7"] },
      { item: "gloves", qty: 1, unit: "pair", lots: [] },
    ]);
  });

  it("keeps different units of one item apart", () => {
    const used = [
      { item: "paste", qty: 1, unit: "tube" },
      { item: "paste", qty: 30, unit: "g" },
    ];
    expect(sumMaterials(used).map(({ qty, unit }) => `${qty} ${unit}`)).toEqual(["1 tube", "30 g"]);
  });

  it("names the amount that is none", () => {
    expect(() => sumMaterials([{ item: "paste", qty: NaN, unit: "g" }])).toThrow("used[0].qty");
  });
});
