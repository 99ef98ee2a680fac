import { faultOf, sent } from "~/testing/sent";

import {
  addLineSchema,
  arrivedSchema,
  countSchema,
  itemSchema,
  kitSchema,
  moveSchema,
  placeSchema,
  rateSchema,
  receiveSchema,
  scrapSchema,
  supplierSchema,
} from "./stores-schemas";

const PLACE = "0198f0aa-1111-7222-8333-444455556666";
const LOT = "0198f0aa-1111-7222-8333-444455557777";

describe("what is received, moved and thrown away", () => {
  const received = { place: PLACE, qty: "2,5", lot: " L-7 ", expiresOn: "2027-02-28" };

  it("is taken as typed, a comma for a point, spaces cut off", () => {
    expect(sent(receiveSchema, received).value).toEqual({
      place: PLACE,
      qty: 2.5,
      lot: "L-7",
      expiresOn: "2027-02-28",
    });
    expect(sent(receiveSchema, { place: PLACE, qty: "1", lot: "", expiresOn: "" }).value).toEqual({
      place: PLACE,
      qty: 1,
    });
  });

  it.each([
    ["qty", "0", "More than nothing."],
    ["qty", "-3", "More than nothing."],
    ["qty", "10000001", "That is more than the books can hold."],
    ["qty", "ten", "Type a number."],
    ["qty", "1e9", "Type a number."],
    ["qty", "", "Type how much."],
    ["place", "", "Choose a place."],
    ["place", "depot", "This choice is not valid any more. Load the page again."],
    ["expiresOn", "2027-02-29", "Choose a day that exists, written YYYY-MM-DD."],
    ["expiresOn", "28.02.2027", "Choose a day that exists, written YYYY-MM-DD."],
    ["lot", "x".repeat(61), "Keep it under 60 characters."],
    ["lot", "a\u0000b", "It has signs in it that cannot be kept. Type it again."],
  ])("%s %j: %s", (field, value, words) => {
    expect(faultOf(receiveSchema, received, field, value)).toBe(words);
  });

  it("goes from a place to a place, and is thrown away for a reason", () => {
    expect(Object.keys(sent(moveSchema, { qty: "1" }).faults).sort()).toEqual(["from", "to"]);
    expect(sent(scrapSchema, { place: PLACE, qty: "1" }).faults).toEqual({ note: "Say why it is thrown away." });
    expect(sent(scrapSchema, { place: PLACE, qty: "1", note: "Leaks", lot: LOT }).value).toMatchObject({ lot: LOT });
  });
});

describe("a count", () => {
  it("has a row a lot, nothing found included, and one without a lot", () => {
    const { value } = sent(countSchema, {
      itemId: "chain-oil",
      "found[0].lot": LOT,
      "found[0].qty": "0",
      "found[1].qty": "12.5",
      note: "Shelf 3",
    });
    expect(value).toEqual({ itemId: "chain-oil", found: [{ lot: LOT, qty: 0 }, { qty: 12.5 }], note: "Shelf 3" });
  });

  it("below nothing is no count", () => {
    expect(sent(countSchema, { itemId: "x", "found[0].qty": "-1" }).faults).toEqual({
      "found[0].qty": "Type what is there, 0 for nothing.",
    });
    expect(sent(countSchema, { itemId: "x" }).faults).toEqual({ found: "Type what is there." });
  });
});

describe("an item of the catalogue", () => {
  const item = { name: "Chain oil", kind: "consumable", unit: "mL", packSize: "500", usesPerPiece: "1" };

  it("needs a name, a kind, a unit and a pack; what is left empty stays open", () => {
    expect(sent(itemSchema, item).value).toEqual({
      name: "Chain oil",
      kind: "consumable",
      unit: "mL",
      packSize: 500,
      usesPerPiece: 1,
      hazards: [],
      needsSerial: false,
    });
    expect(Object.keys(sent(itemSchema, {}).faults).sort()).toEqual([
      "kind",
      "name",
      "packSize",
      "unit",
      "usesPerPiece",
    ]);
  });

  it("has several hazards, one of them as well as many", () => {
    expect(sent(itemSchema, { ...item, hazards: "acid" }).value).toMatchObject({ hazards: ["acid"] });
    expect(sent(itemSchema, { ...item, hazards: ["acid", "corrosive"] }).value).toMatchObject({
      hazards: ["acid", "corrosive"],
    });
    const many = Array.from({ length: 41 }, (_, i) => `h${i}`);
    expect(faultOf(itemSchema, item, "hazards", many)).toBe("At most 40 in one go.");
  });

  it.each([
    ["kind", "gift", "Choose what it is."],
    ["packSize", "0", "More than nothing."],
    ["usesPerPiece", "0", "At least 1."],
    ["usesPerPiece", "1.5", "Whole numbers only."],
    ["shelfLifeDays", "0", "At least 1."],
    ["leadDays", "1001", "At most 1,000."],
    ["price", "-1", "Not below nothing."],
    ["scanCode", "two words", "Letters, digits and signs without spaces."],
    ["unit", "x".repeat(17), "Keep it under 16 characters."],
  ])("%s %j: %s", (field, value, words) => {
    expect(faultOf(itemSchema, item, field, value)).toBe(words);
  });

  it("ticks a serial number only when it is ticked", () => {
    expect(sent(itemSchema, { ...item, needsSerial: "on" }).value).toMatchObject({ needsSerial: true });
    expect(sent(itemSchema, { ...item, needsSerial: "off" }).value).toMatchObject({ needsSerial: false });
  });
});

describe("orders, places, kits and rates", () => {
  it("order whole packs of something", () => {
    expect(sent(addLineSchema, { item: "oil", packs: "3", tag: "hh-1" }).value).toEqual({
      item: "oil",
      packs: 3,
      tag: "HH-1",
    });
    expect(sent(addLineSchema, { packs: "0" }).faults).toEqual({
      item: "Scan or type an item.",
      packs: "At least 1.",
    });
  });

  it("take in what arrived line by line, nothing where nothing is typed", () => {
    const { value } = sent(arrivedSchema, {
      "lines[0].line": PLACE,
      "lines[0].packs": "2",
      "lines[0].lot": "L",
      "lines[0].expiresOn": "2027-01-31",
      "lines[1].line": LOT,
      "lines[1].packs": "",
    });
    expect(value).toEqual({
      lines: [
        { line: PLACE, packs: 2, lot: "L", expiresOn: "2027-01-31" },
        { line: LOT, packs: 0 },
      ],
    });
    expect(sent(arrivedSchema, { "lines[0].line": PLACE, "lines[0].packs": "-1" }).faults).toEqual({
      "lines[0].packs": "At least 0.",
    });
    expect(sent(arrivedSchema, { "lines[0].packs": "1" }).faults["lines[0].line"]).toMatch(/Load the page again/);
  });

  it("know three kinds of place, and say what is missing in a kit", () => {
    expect(sent(placeSchema, { kind: "van", name: "Van 1" }).value).toEqual({ kind: "van", name: "Van 1" });
    expect(sent(placeSchema, { kind: "garage", name: "" }).faults).toEqual({
      kind: "Choose what it is.",
      name: "Give it a name.",
    });
    expect(sent(kitSchema, { name: "Kit" }).faults).toEqual({
      procedureId: "Choose the procedure it is for.",
      contents: "One item a line: quantity, then the item.",
    });
  });

  it("have suppliers that can be written to, and an hour that costs something", () => {
    expect(sent(supplierSchema, { name: "Trade", leadDays: "0", email: "orders@trade.example" }).value).toEqual({
      name: "Trade",
      leadDays: 0,
      email: "orders@trade.example",
      online: false,
    });
    expect(sent(supplierSchema, { name: "Trade", leadDays: "4", email: "orders" }).faults).toEqual({
      email: "Write an e-mail address.",
    });
    expect(sent(rateSchema, { rate: "62,50" }).value).toEqual({ rate: 62.5 });
    for (const rate of ["-1", "10001", ""])
      expect(sent(rateSchema, { rate }).faults).toEqual({ rate: "Type euros for an hour, such as 60." });
  });
});
