import { must } from "@core";
import { getDb } from "@db";
import fc from "fast-check";

import { appendEntries } from "~/sheet/log/append-entries.server";
import { openSheet } from "~/sheet/log/sheets.server";
import { getItem, itemMeant, listItems, saveItem } from "~/stores/items/catalogue.server";
import { itemView, storesHome } from "~/stores/items/overview.server";
import { fromLots, lotsAt, verifyStock } from "~/stores/ledger/ledger.server";
import { countStock, moveStock, release, reserve, scrap } from "~/stores/ledger/stock.server";
import { closeDatabase, dutyOf } from "~/testing/database";
import { entryOf } from "~/testing/sheets";
import {
  asked,
  beginStores,
  depot,
  kim,
  kimsVan,
  later,
  lead,
  mo,
  NOW,
  ON,
  onHand,
  put,
  supplierId,
  van,
} from "~/testing/stores";

beforeAll(beginStores);
afterAll(closeDatabase);

describe("the catalogue", () => {
  it("knows every item that procedures name, tools apart from parts of the same word", async () => {
    expect(await getItem("squeegee-blade")).toMatchObject({
      name: "Rear squeegee blade",
      kind: "part",
      unit: "pc",
      usesPerPiece: 4,
    });
    expect(await getItem("ice-cleaner")).toMatchObject({ kind: "chemical", unit: "mL" });
    expect((await getItem("torch")).kind).toBe("part");
    expect((await getItem("tool-torch")).kind).toBe("tool");
  });

  it("is found by words, codes and scans; what is meant twice is asked back", async () => {
    const known = await getItem("ice-cleaner");
    await saveItem(
      lead,
      "ice-cleaner",
      { ...known, scanCode: "HHS7", packSize: 4700, packPriceCents: 3890, supplierId, orderCode: "HT-ICE-CLEANER" },
      NOW,
    );
    expect((await itemMeant("HHS7")).id).toBe("ice-cleaner");
    expect((await itemMeant(" Ice machine cleaner ")).id).toBe("ice-cleaner");
    expect((await itemMeant("ice-cleaner")).id).toBe("ice-cleaner");
    expect((await listItems({ q: "clean mach", after: null })).rows).toMatchObject([
      { id: "ice-cleaner", countAsked: false },
    ]);
    await expect(itemMeant("filter")).rejects.toMatchObject({
      status: 422,
      message: expect.stringContaining("more than one") as string,
    });
    await expect(itemMeant("nothing such")).rejects.toMatchObject({ status: 422 });
    const other = await getItem("mild-soap");
    await expect(saveItem(lead, "mild-soap", { ...other, scanCode: "HHS7" }, NOW)).rejects.toMatchObject({
      status: 422,
      code: "scanCode",
    });
  });

  it("has one thing of a name: another one is called differently, and a kept name stays", async () => {
    const soap = await getItem("mild-soap");
    const taken = { status: 422, code: "name" };
    await expect(saveItem(lead, "mild-soap", { ...soap, name: "ice machine CLEANER" }, NOW)).rejects.toMatchObject(
      taken,
    );
    await expect(saveItem(lead, null, { ...soap, name: "Ice machine cleaner" }, NOW)).rejects.toMatchObject(taken);
    await saveItem(lead, "mild-soap", { ...soap, storage: "Shelf 2" }, NOW);
    expect((await getItem("mild-soap")).storage).toBe("Shelf 2");
  });

  it("pages by name without losing or repeating any", async () => {
    const seen: string[] = [];
    for (let after: string | null = null, first = true; first || after; first = false) {
      const page: Awaited<ReturnType<typeof listItems>> = await listItems({ q: null, after, limit: 20 });
      seen.push(...page.rows.map((row) => row.id));
      after = page.next;
    }
    const [{ total }] = (await getDb().select<{ total: number }>(
      "SELECT COUNT(*) AS total FROM items WHERE active = 1",
    )) as [{ total: number }];
    expect(seen).toHaveLength(total);
    expect(new Set(seen).size).toBe(seen.length);
  });

  it("keeps the unit of what is booked already", async () => {
    await put("way-oil", depot, 500);
    await expect(saveItem(lead, "way-oil", { ...(await getItem("way-oil")), unit: "L" }, NOW)).rejects.toMatchObject({
      code: "unit",
    });
  });
});

describe("the ledger", () => {
  it("moves what is there, first expiry first, and no more than that", async () => {
    await put("sanitiser-chlorine", depot, 100, "B2", "2026-09-01");
    await put("sanitiser-chlorine", depot, 50, "A1", "2026-07-01");
    await put("sanitiser-chlorine", depot, 30);
    await moveStock(lead, { itemId: "sanitiser-chlorine", from: depot, to: van, qty: 120, note: "" }, NOW);
    expect(await lotsAt("sanitiser-chlorine", van, ON)).toMatchObject([
      { lot: "A1", qty: 50 },
      { lot: "B2", qty: 70 },
    ]);
    expect(await onHand("sanitiser-chlorine", depot)).toBe(60);
    await expect(
      moveStock(lead, { itemId: "sanitiser-chlorine", from: depot, to: van, qty: 61, note: "" }, NOW),
    ).rejects.toMatchObject({ status: 409 });
    await expect(
      moveStock(lead, { itemId: "sanitiser-chlorine", from: van, to: van, qty: 1, note: "" }, NOW),
    ).rejects.toMatchObject({ status: 422 });
    await expect(put("no-such-item", depot, 1)).rejects.toMatchObject({ code: "item" });
    expect(await verifyStock()).toEqual([]);
  });

  it("offers expired lots last", () => {
    const lots = [
      { lotId: "x", lot: "x", expiresOn: null, qty: 2 },
      { lotId: null, lot: null, expiresOn: null, qty: 1 },
    ];
    expect(fromLots(lots, 5)).toEqual([
      { lotId: "x", qty: 2 },
      { lotId: null, qty: 3 },
    ]);
  });

  it("explains a count's difference, lot by lot, and asks for the explanation", async () => {
    const lots = await lotsAt("sanitiser-chlorine", van, ON);
    const found = [
      { lotId: must(lots[0]).lotId, qty: 50 },
      { lotId: must(lots[1]).lotId, qty: 60 },
    ];
    const input = { itemId: "sanitiser-chlorine", placeId: van, found, note: "" };
    await expect(countStock(mo, input, NOW)).rejects.toMatchObject({ code: "note" });
    expect(await countStock(mo, { ...input, note: "Spilt" }, NOW)).toBe(-10);
    expect(await onHand("sanitiser-chlorine", van)).toBe(110);
    expect(await countStock(mo, input, NOW)).toBe(0);
    await expect(countStock(mo, { ...input, found: [{ lotId: null, qty: -1 }] }, NOW)).rejects.toMatchObject({
      status: 422,
    });
    const view = await itemView("sanitiser-chlorine", null, NOW);
    expect(
      view.ledger.filter((line) => line.kind === "count").map((line) => [line.qty, line.counted, line.note]),
    ).toEqual(expect.arrayContaining([[-10, 60, "Spilt"]]));
  });

  it("reconciles to the piece over random histories: opening + in − out = counted", async () => {
    const items = ["rail-oil", "rod-oil", "lithium-grease"];
    const places = [depot, van, kimsVan];
    const step = fc.record({
      kind: fc.constantFrom("receive", "move", "scrap", "count"),
      item: fc.integer({ min: 0, max: 2 }),
      from: fc.integer({ min: 0, max: 2 }),
      to: fc.integer({ min: 0, max: 2 }),
      qty: fc.integer({ min: 1, max: 40 }),
      lot: fc.option(fc.constantFrom("L1", "L2", "L3"), { nil: null }),
    });
    const books = new Map<string, number>();
    const key = (item: number, place: number): string => `${items[item]} ${places[place]}`;
    const at = (item: number, place: number): number => books.get(key(item, place)) ?? 0;
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 5, maxLength: 20 }), async (steps) => {
        for (const { kind, item, from, to, qty, lot } of steps) {
          const itemId = must(items[item]);
          const placeId = must(places[from]);
          if (kind === "receive") {
            await put(itemId, placeId, qty, lot, lot === null ? null : "2027-01-01");
            books.set(key(item, from), at(item, from) + qty);
          } else if (kind === "move") {
            const work = moveStock(lead, { itemId, from: placeId, to: must(places[to]), qty, note: "" }, NOW);
            if (from === to || qty > at(item, from)) await expect(work).rejects.toThrow();
            else {
              await work;
              books.set(key(item, from), at(item, from) - qty);
              books.set(key(item, to), at(item, to) + qty);
            }
          } else if (kind === "scrap") {
            await scrap(lead, { itemId, placeId, qty, lotId: null, note: "x" }, NOW);
            books.set(key(item, from), at(item, from) - qty);
          } else {
            await countStock(lead, { itemId, placeId, found: [{ lotId: null, qty }], note: "counted" }, NOW);
            books.set(key(item, from), qty);
          }
        }
        for (let item = 0; item < 3; item++)
          for (let place = 0; place < 3; place++)
            expect(await onHand(must(items[item]), must(places[place]))).toBe(at(item, place));
        expect(await verifyStock()).toEqual([]);
      }),
      { numRuns: 12, seed: 5 },
    );
  });
});

describe("two at once", () => {
  it("reserving the last piece: exactly one gets it, however often it is tried", async () => {
    await put("torch", depot, 1);
    for (let round = 0; round < 5; round++) {
      const tries = await Promise.allSettled(
        [mo, kim].map((who) =>
          reserve(who, { itemId: "torch", placeId: depot, qty: 1, personId: who.id, on: ON, dutyId: null }, NOW),
        ),
      );
      expect(tries.filter((one) => one.status === "fulfilled")).toHaveLength(1);
      expect(tries.find((one) => one.status === "rejected")).toMatchObject({ reason: { status: 409 } });
      // What is held cannot be moved away either.
      await expect(
        moveStock(lead, { itemId: "torch", from: depot, to: van, qty: 1, note: "" }, NOW),
      ).rejects.toMatchObject({ status: 409 });
      await release(
        tries.flatMap((one) => (one.status === "fulfilled" ? [one.value] : [])),
        NOW,
      );
    }
    await expect(
      reserve(mo, { itemId: "torch", placeId: depot, qty: 1, personId: kim.id, on: ON, dutyId: null }, NOW),
    ).rejects.toMatchObject({ status: 403 });
  });

  it("nothing, less than nothing, and for a duty that is not on the day, nobody holds back", async () => {
    const held = { itemId: "torch", placeId: depot, personId: mo.id, on: ON, dutyId: null };
    for (const qty of [0, -1, 1e-9, Number.NaN])
      await expect(reserve(mo, { ...held, qty }, NOW)).rejects.toMatchObject({ code: "qty" });
    const dutyId = await dutyOf("S-2", "card-printer-ribbon");
    await expect(reserve(mo, { ...held, qty: 1, dutyId }, NOW)).rejects.toMatchObject({ code: "duty" });
    const [row] = await getDb().select<{ reserved: number }>("SELECT reserved FROM stock WHERE item_id = 'torch'");
    expect(must(row).reserved).toBe(0);
  });

  it("throws away and counts lots of its own alone", async () => {
    await put("torch", depot, 2, "T-1");
    await put("way-oil", depot, 2, "C-1");
    const lots = await getDb().select<{ id: string }>("SELECT id FROM lots WHERE item_id = 'way-oil' AND lot = 'C-1'");
    const lotId = must(lots[0]).id;
    const common = { itemId: "torch", placeId: depot, note: "broken" };
    await expect(scrap(mo, { ...common, qty: 1, lotId }, NOW)).rejects.toMatchObject({ code: "lot" });
    await expect(countStock(mo, { ...common, found: [{ lotId, qty: 3 }] }, NOW)).rejects.toMatchObject({ code: "lot" });
    expect(await verifyStock()).toEqual([]);
    await scrap(mo, { itemId: "way-oil", placeId: depot, note: "leaked", qty: 1, lotId }, NOW);
  });

  it("using the last piece: both are kept, the stock shows −1 and asks for a count, the service goes on", async () => {
    await put("water-filter-ice", van, 1);
    const runs = await Promise.all([
      openSheet(mo, await dutyOf("S-1", "flake-ice-maker-clean-sanitise"), "a", NOW),
      openSheet(mo, await dutyOf("S-2", "card-printer-ribbon"), "b", NOW),
    ]);
    const results = await Promise.all(
      runs.map((sheetId, i) =>
        appendEntries(
          mo,
          sheetId,
          [entryOf(mo, sheetId, later(i), { type: "consumable-used", item: "water-filter-ice", qty: 1, unit: "pc" })],
          later(5),
        ),
      ),
    );
    expect(results.map((one) => [one.accepted.length, one.refused.length])).toEqual([
      [1, 0],
      [1, 0],
    ]);
    expect(await onHand("water-filter-ice", van)).toBe(-1);
    expect(await asked("water-filter-ice", van)).toBe(true);
    expect((await storesHome(later(6))).counts.map((row) => row.itemId)).toContain("water-filter-ice");
    await countStock(
      mo,
      { itemId: "water-filter-ice", placeId: van, found: [{ lotId: null, qty: 0 }], note: "One was never booked" },
      later(7),
    );
    expect(await asked("water-filter-ice", van)).toBe(false);
    expect(await verifyStock()).toEqual([]);
  });
});
