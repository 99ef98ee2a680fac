import type { Item } from "~/stores/items/catalogue.server";
import type { Place } from "~/stores/ledger/places.server";

import type { DutySql, PlacedNeed } from "./load.server";
import { takeFromShelves } from "./take-from-shelves";

const duties = [
  { dutyId: "d1", siteId: "lab", siteName: "Lab" },
  { dutyId: "d2", siteId: "works", siteName: "Works" },
] as unknown as DutySql[];
const places = [
  { id: "shelf", kind: "shelf", siteId: "lab" },
  { id: "van", kind: "van", siteId: null },
] as unknown as Place[];
const need = (item: string, qty: number, siteId = "lab"): PlacedNeed => ({
  item,
  qty,
  siteId,
  dutyId: siteId === "lab" ? "d1" : "d2",
  why: "",
});
const items = new Map([["wipes", { name: "Wipes", unit: "pc" } as Item]]);

describe("a customer's shelf", () => {
  it("serves its own site, down to nothing left to take along", () => {
    const needs = [need("wipes", 2)];
    const stock = [{ itemId: "wipes", placeId: "shelf", free: 5 }];
    expect(takeFromShelves(needs, duties, places, stock, items)).toEqual([
      { itemName: "Wipes", unit: "pc", qty: 2, siteName: "Lab" },
    ]);
    expect(needs[0]?.qty).toBe(0);
    expect(stock[0]?.free).toBe(3);
  });

  it("gives what it has and leaves the rest to be loaded", () => {
    const needs = [need("wipes", 2), need("wipes", 2)];
    const stock = [{ itemId: "wipes", placeId: "shelf", free: 3 }];
    takeFromShelves(needs, duties, places, stock, items);
    expect(needs.map((one) => one.qty)).toEqual([0, 1]);
    expect(stock[0]?.free).toBe(0);
  });

  it("serves no other site, and a van's stock is not taken for a shelf's", () => {
    const needs = [need("wipes", 2, "works"), need("soap", 1)];
    const stock = [
      { itemId: "wipes", placeId: "shelf", free: 5 },
      { itemId: "soap", placeId: "van", free: 5 },
    ];
    expect(takeFromShelves(needs, duties, places, stock, items)).toEqual([]);
    expect(needs.map((one) => one.qty)).toEqual([2, 1]);
  });

  it("is passed over when it is empty, and names an item that the catalogue does not have by its key", () => {
    const needs = [need("wipes", 1), need("soap", 0.1)];
    const stock = [
      { itemId: "wipes", placeId: "shelf", free: 0 },
      { itemId: "soap", placeId: "shelf", free: 0.3 },
    ];
    expect(takeFromShelves(needs, duties, places, stock, items)).toEqual([
      { itemName: "soap", unit: "", qty: 0.1, siteName: "Lab" },
    ]);
    expect(stock[1]?.free).toBe(0.2);
  });
});
