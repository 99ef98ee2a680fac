import { must } from "@core";
import { getDb } from "@db";

import { runJobs } from "~/kit/jobs/run-jobs.server";
import { slotsOfMachine } from "~/machines/slots.server";
import { putOnDay } from "~/round/day/put-on-day.server";
import { appendEntries } from "~/sheet/log/append-entries.server";
import { openSheet } from "~/sheet/log/sheets.server";
import { getItem, saveItem } from "~/stores/items/catalogue.server";
import { LOOK_AHEAD, lookAhead, refreshOutlook } from "~/stores/items/outlook.server";
import { itemView, storesHome } from "~/stores/items/overview.server";
import { spanNeeds } from "~/stores/items/span-needs.server";
import { lotsAt, verifyStock } from "~/stores/ledger/ledger.server";
import { moveStock, reserve } from "~/stores/ledger/stock.server";
import { listKits, saveKit } from "~/stores/load/kits.server";
import { loadView } from "~/stores/load/load.server";
import { closeDatabase, dutyOf } from "~/testing/database";
import { entryOf, workAndSign } from "~/testing/sheets";
import {
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
  shelf,
  supplierId,
  van,
} from "~/testing/stores";

import { costs, costsCsv } from "./costs/costs.server";
import { verifyCosts } from "./ledger/ledger.server";
import { stockAt } from "./ledger/places.server";
import { importStock, stockCsv } from "./ledger/stock-csv.server";
import { fetchForDay, giveBack, holdForDay, loadProgress, tickLoad } from "./load/hold-load.server";

beforeAll(async () => {
  await beginStores();
  await saveItem(lead, "ice-cleaner", { ...(await getItem("ice-cleaner")), packSize: 4700, packPriceCents: 3890 }, NOW);
});
afterAll(closeDatabase);

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
    await put("alcohol-card", van, 2);
    const dutyId = await dutyOf("S-2", "card-printer-ribbon");
    await putOnDay(mo, [dutyId], { on: ON, personId: mo.id }, NOW);
    await reserve(mo, { itemId: "alcohol-card", placeId: van, qty: 1, personId: mo.id, on: ON, dutyId }, NOW);
    const { sheetId } = await workAndSign(mo, "S-2", "card-printer-ribbon", later(30));
    const [row] = await getDb().select<{ reserved: string; onHand: string }>(
      "SELECT reserved, on_hand AS onHand FROM stock WHERE item_id = 'alcohol-card' AND place_id = :van",
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
      "SELECT due_on AS due FROM duties WHERE procedure_id = 'freezer-rings'",
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
    expect(new Set(chosen.rows.map((row) => row.itemId))).toEqual(
      new Set(["distilled-water", "swab-alcohol", "towel-soft"]),
    );
  });

  it("takes a customer's shelf for its own site, and names lots that will expire unused", async () => {
    await put("towel-soft", shelf, 2);
    await put("bleach-stock", depot, 5000, "BL", "2026-07-15");
    await refreshOutlook(NOW);
    const towels = await itemView("towel-soft", null, NOW);
    expect(must(towels.places.find((place) => place.placeId === shelf)).outlook).toMatchObject({
      runsOutOn: expect.any(String) as string,
    });
    expect((await storesHome(NOW)).expiring.map((row) => row.itemId)).toContain("bleach-stock");
  });

  it("what was looked ahead long ago is shown as it is, and looked ahead again by whichever process", async () => {
    await refreshOutlook(NOW);
    const muchLater = new Date(NOW.getTime() + 16 * 60_000);
    const jobs = (): Promise<number> => getDb().models.Job.count({ where: { kind: LOOK_AHEAD } });
    expect((await storesHome(new Date(NOW.getTime() + 60_000))).workedOutAt).toEqual(NOW);
    expect(await jobs()).toBe(0);
    const views = await Promise.all([1, 2, 3].map(() => storesHome(muchLater)));
    expect(views.map((view) => view.workedOutAt)).toEqual([NOW, NOW, NOW]);
    expect(await jobs()).toBe(1);
    expect(await runJobs({ [LOOK_AHEAD]: lookAhead }, "another")).toBe(1);
    expect((await storesHome(muchLater)).workedOutAt).toEqual(muchLater);
    expect(await jobs()).toBe(1);
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
      qty: 235,
      from: [
        { placeId: kimsVan, qty: 100 },
        { placeId: depot, qty: 135 },
      ],
      short: 0,
    });
    // The stainer's towels wait on the lab's shelf in part; the rest is nowhere.
    expect(view.onSite).toMatchObject([{ itemName: "Soft paper towel", qty: 2, siteName: "Lab" }]);
    expect(line("towel-soft")).toMatchObject({ qty: 6, short: 6 });
    // A blade with no edge known is taken along whole.
    expect(line("squeegee-blade")).toMatchObject({ qty: 1, short: 1 });
    expect(line("wear-safety-glasses")).toMatchObject({ qty: 1, carried: true, short: 0 });
    await moveStock(kim, { itemId: "ice-cleaner", from: depot, to: kimsVan, qty: 135, note: "" }, NOW);
    expect(
      must((await loadView(kim.id, "2026-06-12", NOW)).lines.find((one) => one.item.id === "ice-cleaner")).from,
    ).toEqual([{ placeId: kimsVan, qty: 235 }]);
    await tickLoad(kim, { personId: kim.id, on: "2026-06-12", lines: ["ice-cleaner"], ticked: true }, NOW);
    await tickLoad(kim, { personId: kim.id, on: "2026-06-12", lines: ["ice-cleaner"], ticked: true }, NOW);
    expect(await loadProgress(kim.id, "2026-06-12", NOW)).toMatchObject({ ticked: 1 });
    await tickLoad(kim, { personId: kim.id, on: "2026-06-12", lines: ["ice-cleaner"], ticked: false }, NOW);
    expect(await loadProgress(kim.id, "2026-06-12", NOW)).toMatchObject({ ticked: 0 });
    // What stays in the van is looked at once a week; unticked, it was not, whenever that was.
    const glasses = { personId: kim.id, lines: ["wear-safety-glasses", "ice-cleaner"] };
    await tickLoad(kim, { ...glasses, on: "2026-06-08", ticked: true }, NOW);
    const ticked = async () =>
      (await loadView(kim.id, "2026-06-12", NOW)).lines.filter((one) => one.ticked).map((one) => one.key);
    expect(await ticked()).toEqual(["wear-safety-glasses"]);
    await tickLoad(kim, { ...glasses, on: "2026-06-12", ticked: false }, NOW);
    expect(await ticked()).toEqual([]);
    await tickLoad(kim, { ...glasses, on: "2026-06-05", ticked: true }, NOW);
    expect(await ticked()).toEqual([]);
    await expect(
      tickLoad(mo, { personId: kim.id, on: "2026-06-12", lines: ["x"], ticked: true }, NOW),
    ).rejects.toMatchObject({ status: 403 });
    // Held for the day, nobody else gets it; it is free again when the duties go elsewhere.
    expect(await holdForDay(kim, kim.id, "2026-06-12", NOW)).toMatchObject({ gone: 0 });
    expect(
      must((await loadView(kim.id, "2026-06-12", NOW)).lines.find((one) => one.item.id === "ice-cleaner")).from,
    ).toEqual([{ placeId: kimsVan, qty: 235 }]);
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
      { placeId: kimsVan, qty: 135 },
      { placeId: depot, qty: 100 },
    ]);
    expect(moved.held).toBeGreaterThan(1);
    await fetchForDay(kim, kim.id, "2026-06-12", { itemId: "ice-cleaner", from: depot, to: kimsVan, qty: 100 }, NOW);
    await giveBack(kim, kim.id, "2026-06-12", NOW);
    expect((await loadView(kim.id, "2026-06-12", NOW)).held).toBe(0);
    // What another holds is not there to be taken.
    await reserve(
      mo,
      { itemId: "ice-cleaner", placeId: kimsVan, qty: 235, personId: mo.id, on: "2026-06-12", dutyId: null },
      NOW,
    );
    expect(
      must((await loadView(kim.id, "2026-06-12", NOW)).lines.find((one) => one.item.id === "ice-cleaner")).from,
    ).toEqual([{ placeId: depot, qty: 235 }]);
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
