import { type ChildProcess, spawn } from "node:child_process";
import { join } from "node:path";

import { must } from "@core";
import { getDb } from "@db";
import fc from "fast-check";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { slotsOfMachine } from "~/machines/slots.server";
import { putOnDay } from "~/round/day/put-on-day.server";
import { appendEntries } from "~/sheet/log/append-entries.server";
import { openSheet } from "~/sheet/log/sheets.server";
import { costs, costsCsv } from "~/stores/costs/costs.server";
import { getItem, itemMeant, listItems, saveItem } from "~/stores/items/catalogue.server";
import { refreshOutlook } from "~/stores/items/outlook.server";
import { itemView, storesHome } from "~/stores/items/overview.server";
import { spanNeeds } from "~/stores/items/span-needs.server";
import { fromLots, lotsAt, verifyCosts, verifyStock } from "~/stores/ledger/ledger.server";
import { addPlace, stockAt } from "~/stores/ledger/places.server";
import { countStock, moveStock, receive, release, reserve, scrap } from "~/stores/ledger/stock.server";
import { importStock, stockCsv } from "~/stores/ledger/stock-csv.server";
import { listKits, saveKit } from "~/stores/load/kits.server";
import { loadView } from "~/stores/load/load.server";
import { getOrder, listOrders, orderCsv } from "~/stores/orders/orders.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { entryOf, workAndSign } from "~/testing/sheets";

import { fetchForDay, giveBack, holdForDay, loadProgress, tickLoad } from "./load/hold-load.server";
import { addToDraft, changeLine, draftOrders } from "./orders/order-draft.server";
import { receiveOrder, takePrices } from "./orders/receive-order.server";
import { sendOrder, setOrderAside } from "./orders/send-order.server";

const NOW = new Date("2026-06-10T08:00:00Z");
const ON = "2026-06-10";
let mo: Actor;
let kim: Actor;
let lead: Actor;
let depot: string;
let van: string;
let kimsVan: string;
let shelf: string;
let supplierId: string;

const later = (minutes: number): Date => new Date(NOW.getTime() + minutes * 60_000);
const onHand = async (itemId: string, placeId: string): Promise<number> => {
  const [row] = await getDb().select<{ qty: string }>(
    "SELECT on_hand AS qty FROM stock WHERE item_id = :itemId AND place_id = :placeId",
    { itemId, placeId },
  );
  return Number(row?.qty ?? 0);
};
const asked = async (itemId: string, placeId: string): Promise<boolean> => {
  const [row] = await getDb().select<{ asked: number }>(
    "SELECT count_asked AS asked FROM stock WHERE item_id = :itemId AND place_id = :placeId",
    {
      itemId,
      placeId,
    },
  );
  return Boolean(row?.asked);
};
const put = (
  itemId: string,
  placeId: string,
  qty: number,
  lot: string | null = null,
  expiresOn: string | null = null,
): Promise<void> => receive(lead, { itemId, placeId, qty, lot, expiresOn, note: "" }, NOW);

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("all");
  mo = await addActor("Mo");
  kim = await addActor("Kim");
  lead = await addActor("Lea", "lead");
  await importLines(
    lead,
    [
      "Co,Works,,Europe/Lisbon,,06:00-20:00,Hall,S-1,Ice,flake-ice-maker,,2025-05-01",
      "Co,Works,,Europe/Lisbon,,06:00-20:00,Hall,S-2,Printer,card-printer,,2026-05-01",
      "Co,Works,,Europe/Lisbon,,06:00-20:00,Hall,S-3,Scrubber,ride-on-scrubber,,2025-05-01",
      "Co,Lab,,Europe/Lisbon,,,Hall,S-4,Stainer,slide-stainer,,2026-05-01",
      "Co,Lab,,Europe/Lisbon,,,Hall,S-5,Freezer,soft-serve-freezer,,2026-05-01",
    ],
    new Date("2026-05-01T10:00:00Z"),
  );
  await getDb().run("UPDATE machines SET model = 'SF', serial = 'SF-77' WHERE tag = 'S-5'");
  const [lab] = await getDb().select<{ id: string }>("SELECT id FROM sites WHERE name = 'Lab'");
  depot = await addPlace(lead, { kind: "depot", name: "Depot", personId: null, siteId: null }, NOW);
  van = await addPlace(lead, { kind: "van", name: "Van Mo", personId: mo.id, siteId: null }, NOW);
  kimsVan = await addPlace(lead, { kind: "van", name: "Van Kim", personId: kim.id, siteId: null }, NOW);
  shelf = await addPlace(lead, { kind: "shelf", name: "Lab shelf", personId: null, siteId: must(lab).id }, NOW);
  supplierId = uuidv7();
  await getDb().run("INSERT INTO suppliers (id, name, code, lead_days) VALUES (:supplierId, 'Trade', 'T', 4)", {
    supplierId,
  });
});
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
    expect((await listItems({ q: "clean mach", after: null })).rows.map((row) => row.id)).toEqual(["ice-cleaner"]);
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
    await put("chain-oil", depot, 500);
    await expect(
      saveItem(lead, "chain-oil", { ...(await getItem("chain-oil")), unit: "L" }, NOW),
    ).rejects.toMatchObject({ code: "unit" });
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
    const items = ["rail-oil", "rod-oil", "rail-grease"];
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

describe("a sheet", () => {
  it("takes from the van in the same transaction, by lot; what is taken back or corrected is booked back; sending again books nothing", async () => {
    await put("ice-cleaner", van, 1000, "IC1", "2027-05-01");
    const sheetId = await openSheet(mo, await dutyOf("S-1", "flake-ice-maker-clean-sanitise"), "phone", NOW);
    const used = entryOf(mo, sheetId, later(10), {
      type: "consumable-used",
      item: "ice-cleaner",
      qty: 470,
      unit: "mL",
    });
    for (let again = 0; again < 2; again++) await appendEntries(mo, sheetId, [used], later(11));
    expect(await onHand("ice-cleaner", van)).toBe(530);
    expect(await lotsAt("ice-cleaner", van, ON)).toMatchObject([{ lot: "IC1", qty: 530 }]);
    await appendEntries(
      mo,
      sheetId,
      [entryOf(mo, sheetId, later(12), { type: "corrected", ref: used.id, set: { qty: 500 }, why: "Read it again" })],
      later(12),
    );
    expect(await onHand("ice-cleaner", van)).toBe(500);
    await appendEntries(mo, sheetId, [entryOf(mo, sheetId, later(13), { type: "undone", ref: used.id })], later(13));
    expect(await onHand("ice-cleaner", van)).toBe(1000);
    // A lot that the books do not know is made known.
    await appendEntries(
      mo,
      sheetId,
      [
        entryOf(mo, sheetId, later(14), {
          type: "consumable-used",
          item: "ice-cleaner",
          qty: 10,
          unit: "mL",
          lot: "ZZ9",
        }),
      ],
      later(14),
    );
    expect(await onHand("ice-cleaner", van)).toBe(990);
    expect(await verifyStock()).toEqual([]);
    const lines = (await itemView("ice-cleaner", null, later(15))).ledger;
    expect(lines.every((line) => line.kind !== "use" || line.sheetId === sheetId)).toBe(true);
  });

  it("ends what was held for its duty", async () => {
    await put("roller-sleeve", van, 2);
    const dutyId = await dutyOf("S-2", "card-printer-ribbon");
    await reserve(mo, { itemId: "roller-sleeve", placeId: van, qty: 1, personId: mo.id, on: ON, dutyId }, NOW);
    const { sheetId } = await workAndSign(mo, "S-2", "card-printer-ribbon", later(30));
    const [row] = await getDb().select<{ reserved: string; onHand: string }>(
      "SELECT reserved, on_hand AS onHand FROM stock WHERE item_id = 'roller-sleeve' AND place_id = :van",
      { van },
    );
    expect([Number(must(row).reserved), Number(must(row).onHand)]).toEqual([0, 1]);
    expect(await verifyStock()).toEqual([]);
    const moves = await getDb().select(
      "SELECT id FROM stock_moves WHERE sheet_id = :sheetId AND item_id = 'lapping-stick'",
      { sheetId },
    );
    // Two sides of one stick: the second service turns it and takes none.
    const { sheetId: second } = await workAndSign(mo, "S-2", "card-printer-ribbon", later(300));
    const after = await getDb().select(
      "SELECT id FROM stock_moves WHERE sheet_id = :second AND item_id = 'lapping-stick'",
      { second },
    );
    expect([moves.length, after.length]).toEqual([1, 0]);
    const [machine] = await getDb().select<{ id: string }>("SELECT id FROM machines WHERE tag = 'S-2'");
    expect((await slotsOfMachine(must(machine).id)).find((slot) => slot.slot === "kit-stick")).toMatchObject({
      usesPerPiece: 2,
      fitted: { item: "lapping-stick", usesLeft: 1 },
    });
  });
});

describe("looking ahead", () => {
  it("says when an item runs out, for the firm and at each place, by the duties that come due", async () => {
    await put("o-ring-kit", depot, 5);
    await saveItem(
      lead,
      "o-ring-kit",
      {
        ...(await getItem("o-ring-kit")),
        supplierId,
        orderCode: "HT-O-RING-KIT",
        needsSerial: true,
        leadDays: 10,
        packSize: 2,
        packPriceCents: 5000,
      },
      NOW,
    );
    await refreshOutlook(NOW);
    const { outlook } = await itemView("o-ring-kit", null, NOW);
    // Every 14 days from 15 May on, two kits each: late once (today), then the 24th of June, when one is missing of the third pair.
    const days = await getDb().select<{ due: string }>(
      "SELECT due_on AS due FROM duties WHERE procedure_id = 'soft-serve-freezer-14-day'",
    );
    expect(must(days[0]).due).toBe("2026-05-15");
    expect(outlook).toMatchObject({ runsOutOn: "2026-07-08", orderBy: "2026-06-28" });
    expect(must(outlook).orderQty % 2).toBe(0);
    const span = await spanNeeds({ days: 30, dutyIds: null }, NOW);
    expect(span.rows.find((row) => row.itemId === "o-ring-kit")).toMatchObject({
      sure: 6,
      onHand: 5,
      short: 1,
      services: 3,
    });
    const chosen = await spanNeeds({ days: 30, dutyIds: [await dutyOf("S-4", "slide-stainer-weekly")] }, NOW);
    expect(new Set(chosen.rows.map((row) => row.itemId))).toEqual(new Set(["wipes-lint-free"]));
  });

  it("takes a customer's shelf for its own site, and names lots that will expire unused", async () => {
    await put("wipes-lint-free", shelf, 2);
    await put("bleach-stock", depot, 5000, "BL", "2026-07-15");
    await refreshOutlook(NOW);
    const wipes = await itemView("wipes-lint-free", null, NOW);
    expect(must(wipes.places.find((place) => place.placeId === shelf)).outlook).toMatchObject({
      runsOutOn: expect.any(String) as string,
    });
    expect((await storesHome(NOW)).expiring.map((row) => row.itemId)).toContain("bleach-stock");
  });

  it("covers as many services with a kit as its scarcest item does", async () => {
    await saveKit(
      lead,
      null,
      {
        name: "Printer kit",
        procedureId: "card-printer-ribbon",
        items: [
          { itemId: "roller-sleeve", qty: 5 },
          { itemId: "lapping-stick", qty: 2 },
        ],
      },
      NOW,
    );
    await put("lapping-stick", depot, 1);
    await put("roller-sleeve", depot, 5);
    const [kit] = await listKits();
    // One stick has two sides.
    expect(must(kit).places.find((place) => place.placeId === depot)).toMatchObject({
      cover: { services: 2, firstOut: ["lapping-stick"] },
      missing: [{ itemId: "lapping-stick", qty: 1 }],
    });
    await expect(
      saveKit(
        lead,
        null,
        { name: "Printer kit", procedureId: "card-printer-ribbon", items: [{ itemId: "roller-sleeve", qty: 1 }] },
        NOW,
      ),
    ).rejects.toMatchObject({ code: "name" });
  });
});

describe("the load list", () => {
  it("adds up what is sure, says where it lies and what is missing, and keeps ticks", async () => {
    const dutyIds = [
      await dutyOf("S-1", "flake-ice-maker-clean-sanitise"),
      await dutyOf("S-4", "slide-stainer-weekly"),
      await dutyOf("S-3", "ride-on-scrubber-brushes"),
    ];
    await putOnDay(lead, dutyIds, { on: "2026-06-12", personId: kim.id }, NOW);
    await put("ice-cleaner", kimsVan, 100);
    await put("ice-cleaner", depot, 9000);
    const view = await loadView(kim.id, "2026-06-12", NOW);
    const line = (id: string) => view.lines.find((one) => one.item.id === id && one.chance === 1);
    expect(line("ice-cleaner")).toMatchObject({
      qty: 470,
      from: [
        { placeId: kimsVan, qty: 100 },
        { placeId: depot, qty: 370 },
      ],
      short: 0,
    });
    // The stainer's wipes wait on the lab's shelf in part; the rest is nowhere.
    expect(view.onSite).toMatchObject([{ itemName: "Lint-free wipes", qty: 2, siteName: "Lab" }]);
    expect(line("wipes-lint-free")).toMatchObject({ qty: 2, short: 2 });
    // A blade with no edge known is taken along whole.
    expect(line("squeegee-blade")).toMatchObject({ qty: 1, short: 1 });
    expect(line("wear-safety-glasses")).toMatchObject({ qty: 1, carried: true, short: 0 });
    await moveStock(kim, { itemId: "ice-cleaner", from: depot, to: kimsVan, qty: 370, note: "" }, NOW);
    expect(
      must((await loadView(kim.id, "2026-06-12", NOW)).lines.find((one) => one.item.id === "ice-cleaner")).from,
    ).toEqual([{ placeId: kimsVan, qty: 470 }]);
    await tickLoad(kim, { personId: kim.id, on: "2026-06-12", line: "ice-cleaner", ticked: true }, NOW);
    await tickLoad(kim, { personId: kim.id, on: "2026-06-12", line: "ice-cleaner", ticked: true }, NOW);
    expect(await loadProgress(kim.id, "2026-06-12", NOW)).toMatchObject({ ticked: 1 });
    await tickLoad(kim, { personId: kim.id, on: "2026-06-12", line: "ice-cleaner", ticked: false }, NOW);
    expect(await loadProgress(kim.id, "2026-06-12", NOW)).toMatchObject({ ticked: 0 });
    await expect(
      tickLoad(mo, { personId: kim.id, on: "2026-06-12", line: "x", ticked: true }, NOW),
    ).rejects.toMatchObject({ status: 403 });
    // Held for the day, nobody else gets it; it is free again when the duties go elsewhere.
    expect(await holdForDay(kim, kim.id, "2026-06-12", NOW)).toMatchObject({ gone: 0 });
    expect(
      must((await loadView(kim.id, "2026-06-12", NOW)).lines.find((one) => one.item.id === "ice-cleaner")).from,
    ).toEqual([{ placeId: kimsVan, qty: 470 }]);
    await expect(
      reserve(mo, { itemId: "ice-cleaner", placeId: kimsVan, qty: 1, personId: mo.id, on: ON, dutyId: null }, NOW),
    ).rejects.toMatchObject({
      status: 409,
    });
    await putOnDay(lead, dutyIds, { on: "2026-06-13", personId: kim.id }, NOW);
    expect((await loadView(kim.id, "2026-06-13", NOW)).held).toBe(0);
    await putOnDay(lead, dutyIds, { on: "2026-06-12", personId: kim.id }, NOW);
    await holdForDay(kim, kim.id, "2026-06-12", NOW);
    await moveStock(lead, { itemId: "ice-cleaner", from: depot, to: van, qty: 1, note: "" }, NOW);
    await fetchForDay(kim, kim.id, "2026-06-12", { itemId: "ice-cleaner", from: kimsVan, to: depot, qty: 100 }, NOW);
    const moved = await loadView(kim.id, "2026-06-12", NOW);
    expect(must(moved.lines.find((one) => one.item.id === "ice-cleaner")).from).toEqual([
      { placeId: kimsVan, qty: 370 },
      { placeId: depot, qty: 100 },
    ]);
    expect(moved.held).toBeGreaterThan(1);
    await fetchForDay(kim, kim.id, "2026-06-12", { itemId: "ice-cleaner", from: depot, to: kimsVan, qty: 100 }, NOW);
    await giveBack(kim, kim.id, "2026-06-12", NOW);
    expect((await loadView(kim.id, "2026-06-12", NOW)).held).toBe(0);
    // What another holds is not there to be taken.
    await reserve(
      mo,
      { itemId: "ice-cleaner", placeId: kimsVan, qty: 470, personId: mo.id, on: "2026-06-12", dutyId: null },
      NOW,
    );
    expect(
      must((await loadView(kim.id, "2026-06-12", NOW)).lines.find((one) => one.item.id === "ice-cleaner")).from,
    ).toEqual([{ placeId: depot, qty: 470 }]);
  });
});

describe("orders", () => {
  let supplier: ChildProcess;
  const url = "http://127.0.0.1:7487";
  const behave = (mode: string): Promise<unknown> => fetch(`${url}/behave?mode=${mode}`, { method: "POST" });
  const taken = async (): Promise<{ key: string; ref: string; asked: { code: string; packs: number }[] }[]> => {
    await behave("ok");
    return (
      (await (await fetch(`${url}/orders`)).json()) as {
        orders: { key: string; ref: string; asked: { code: string; packs: number }[] }[];
      }
    ).orders;
  };

  beforeAll(async () => {
    supplier = spawn(process.execPath, [join(process.cwd(), "standins/supplier.mjs")], {
      stdio: ["ignore", "pipe", "inherit"],
      env: { ...process.env, PORT: "7487", SLOW_MS: "1500" },
    });
    await new Promise((resolve) => must(supplier.stdout).once("data", resolve));
    process.env.SUPPLIER_URL = url;
    process.env.SUPPLIER_TIMEOUT_MS = "800";
  });
  afterAll(() => {
    delete process.env.SUPPLIER_URL;
    delete process.env.SUPPLIER_TIMEOUT_MS;
    supplier.kill();
  });
  const draft = async (packs = 2): Promise<string> => {
    const id = await addToDraft(lead, { itemId: "ice-cleaner", packs, machineId: null }, NOW);
    return id;
  };

  it("are drafted from what runs out, by supplier, once, with the machine that waits", async () => {
    await refreshOutlook(NOW);
    await getDb().run(
      "UPDATE stock_outlook SET order_by = '2026-06-12' WHERE item_id = 'o-ring-kit' AND place_id = ''",
    );
    const first = await draftOrders(lead, NOW);
    expect(first.lines).toBeGreaterThan(0);
    const line = must((await getOrder(must(first.orders[0]))).lines.find((one) => one.itemId === "o-ring-kit"));
    expect(line).toMatchObject({ serial: "SF-77", needsSerial: true });
    expect((await draftOrders(lead, NOW)).lines).toBe(0);
    expect(await orderCsv(must(first.orders[0]))).toContain("HT-O-RING-KIT");
    await changeLine(lead, must(first.orders[0]), line.id, { packs: 3, tag: null }, NOW);
    await expect(sendOrder(lead, must(first.orders[0]), NOW)).rejects.toMatchObject({ code: "serial" });
    await changeLine(lead, must(first.orders[0]), line.id, { packs: 3, tag: "S-5" }, NOW);
    await expect(
      changeLine(lead, must(first.orders[0]), line.id, { packs: 3, tag: "S-99" }, NOW),
    ).rejects.toMatchObject({
      code: "tag",
    });
    await setOrderAside(lead, must(first.orders[0]), "cancelled", NOW);
  });

  it.each(["down", "lost", "late-error", "garbage", "slow"])(
    "stay one order when the supplier is %s, sent twice at once and again",
    async (mode) => {
      const before = (await taken()).length;
      const orderId = await draft();
      await behave(mode);
      const tries = await Promise.all([sendOrder(lead, orderId, NOW), sendOrder(lead, orderId, NOW)]);
      expect(tries.every((one) => one.status === "sending" && one.fault !== null)).toBe(true);
      // Until it is clear it can be neither changed nor set aside.
      const { order, lines } = await getOrder(orderId);
      if (order.status === "sending") {
        await expect(changeLine(lead, orderId, must(lines[0]).id, { packs: 9, tag: null }, NOW)).rejects.toMatchObject({
          status: 409,
        });
        await expect(setOrderAside(lead, orderId, "cancelled", NOW)).rejects.toMatchObject({ status: 409 });
      }
      await behave("ok");
      if (order.status === "sending") expect(await sendOrder(lead, orderId, NOW)).toMatchObject({ status: "sent" });
      await expect(sendOrder(lead, orderId, NOW)).rejects.toMatchObject({ status: 409 });
      const orders = await taken();
      expect(orders).toHaveLength(before + 1);
      expect(orders.filter((one) => one.key === orderId)).toHaveLength(1);
      expect((await getOrder(orderId)).order).toMatchObject({
        status: "sent",
        supplierRef: must(orders.find((one) => one.key === orderId)).ref,
      });
    },
  );

  it("that are refused say why and can be tried as another order", async () => {
    await behave("refuse");
    const orderId = await draft();
    expect(await sendOrder(lead, orderId, NOW)).toMatchObject({
      status: "refused",
      fault: expect.stringContaining("on hold") as string,
    });
    await behave("ok");
    await setOrderAside(lead, orderId, "draft", NOW);
    const [again] = (await listOrders(null)).rows;
    expect(again).toMatchObject({ status: "draft", lines: 1 });
    expect((await getOrder(orderId)).lines).toHaveLength(1);
    const unknown = await getItem("gear-oil");
    await saveItem(lead, "gear-oil", { ...unknown, supplierId, orderCode: "NOT-THERE" }, NOW);
    await addToDraft(lead, { itemId: "gear-oil", packs: 1, machineId: null }, NOW);
    expect(await sendOrder(lead, must(again).id, NOW)).toMatchObject({ status: "refused" });
    expect(must((await getOrder(must(again).id)).lines.find((line) => line.itemId === "gear-oil")).fault).toContain(
      "catalogue",
    );
    await setOrderAside(lead, must(again).id, "cancelled", NOW);
  });

  it("arrive in parts, by lot, and never more than was ordered", async () => {
    await behave("partial");
    const orderId = await draft(4);
    await sendOrder(lead, orderId, NOW);
    await behave("ok");
    const { lines } = await getOrder(orderId);
    expect(lines[0]).toMatchObject({ packs: 4, promisedPacks: 2 });
    const before = await onHand("ice-cleaner", depot);
    const arrives = (packs: number, lot: string | null = null, expiresOn: string | null = null) =>
      receiveOrder(lead, orderId, [{ lineId: must(lines[0]).id, packs, lot, expiresOn }], NOW);
    await expect(arrives(5)).rejects.toMatchObject({ code: "lines[0].packs" });
    await expect(arrives(0)).rejects.toMatchObject({ code: "nothing" });
    await expect(arrives(1, null, "2027-01-01")).rejects.toMatchObject({ code: "lines[0].lot" });
    expect(await arrives(1, "N1", "2028-01-01")).toBe("partly");
    expect(await arrives(3)).toBe("received");
    await expect(arrives(1)).rejects.toMatchObject({ status: 409 });
    expect(await onHand("ice-cleaner", depot)).toBe(before + 4 * 4700);
    expect(await verifyStock()).toEqual([]);
  });

  it("take prices over from the supplier, or say that they cannot be had", async () => {
    expect(await takePrices(lead, NOW)).toMatchObject({ changed: expect.any(Number) as number });
    expect((await getItem("ice-cleaner")).leadDays).not.toBeNull();
    await behave("down");
    expect(await takePrices(lead, NOW)).toBeNull();
  });
});

describe("files and costs", () => {
  it("take stock in all or nothing, and give it out again", async () => {
    const bad = await importStock(
      lead,
      "place,item,quantity\nDepot,way-oil,5\nNowhere,way-oil,5\nDepot,no-such,1\nDepot,way-oil,-3\n",
      NOW,
    );
    expect(bad.written).toBe(0);
    expect(bad.faults.map((fault) => [fault.line, fault.column])).toEqual([
      [3, "place"],
      [4, "item"],
      [5, "quantity"],
    ]);
    expect(await onHand("way-oil", depot)).toBe(0);
    expect(
      await importStock(lead, "place;item;lot;expires_on;quantity\r\nDepot;way-oil;W1;2030-01-01;5,5\r\n", NOW),
    ).toEqual({ faults: [], written: 1 });
    expect(await stockCsv()).toContain("Depot,way-oil,Way oil,W1,2030-01-01,5.5,mL");
    expect((await stockAt(depot, { after: null })).rows.find((row) => row.id === "way-oil")).toMatchObject({
      onHand: 5.5,
    });
  });

  it("add up what machines cost, in parts at the day's price and hours at the firm's rate", async () => {
    // Two services of the printer, one of the ice maker without a signature: parts count when used, hours when signed.
    const rows = await costs("machine", "2026-06-01", "2026-06-30");
    const printer = must(rows.find((row) => row.name.startsWith("Printer")));
    expect(printer.services).toBe(2);
    expect(printer.hours).toBeGreaterThan(0);
    // Hours are shown to a tenth.
    expect(Math.abs(printer.hoursCents - printer.hours * 6000)).toBeLessThanOrEqual(300);
    const ice = must(rows.find((row) => row.name.startsWith("Ice")));
    // 10 mL of 3,890 cents for 4,700 mL are left on the sheet: the rest was taken back.
    expect(ice.partsCents).toBe(Math.round((10 * 3890) / 4700));
    expect((await costs("family", "2026-06-01", "2026-06-30")).map((row) => row.name)).toContain("card printer");
    expect(await costs("site", "2020-01-01", "2020-12-31")).toEqual([]);
    // Whole months, parts of months and a single day come to the same as the ledger's own lines.
    expect(await verifyCosts()).toEqual([]);
    for (const [from, to] of [
      ["2026-06-01", "2026-06-30"],
      ["2026-05-20", "2026-07-03"],
      ["2026-06-02", "2026-06-20"],
      ["2026-06-10", "2026-06-10"],
      ["2026-04-01", "2026-12-31"],
    ] as const) {
      const [sum] = await getDb().select<{ cents: string | null }>(
        "SELECT SUM(cost_cents) AS cents FROM stock_moves WHERE kind = 'use' AND machine_id IS NOT NULL AND on_day BETWEEN :from AND :to",
        { from, to },
      );
      const all = (await costs("machine", from, to)).reduce((total, row) => total + row.partsCents, 0);
      expect(Math.abs(all - Number(must(sum).cents ?? 0))).toBeLessThanOrEqual(2);
    }
    expect(await costsCsv("site", "2026-06-01", "2026-06-30")).toMatch(
      /^site,services,hands_on_hours,hours_cost,parts_cost,cost\r\n/,
    );
  });
});
