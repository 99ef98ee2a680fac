/** The demo firm's stores: catalogue, places, a year of movements, counts, kits and an order. Part of loading the demo. */
import { v7 as uuidv7 } from "uuid";

import { takenBy } from "~/stores/ledger/taken-by";
import { addToDraft } from "~/stores/orders/order-draft.server";
import { receiveOrder } from "~/stores/orders/receive-order.server";
import { sendOrder } from "~/stores/orders/send-order.server";

import type { Actor } from "../app/kit/actor";
import { firmDay } from "../app/kit/days/firm-day.server";
import { dayInZone } from "../app/kit/days/site-day";
import type { PastSheet } from "../app/sheet/log/history.server";
import { getItem, saveItem } from "../app/stores/items/catalogue.server";
import { refreshOutlook } from "../app/stores/items/outlook.server";
import { postMoves } from "../app/stores/ledger/ledger.server";
import { addPlace } from "../app/stores/ledger/places.server";
import { countStock, moveStock, receive } from "../app/stores/ledger/stock.server";
import { saveKit } from "../app/stores/load/kits.server";
import { getOrder } from "../app/stores/orders/orders.server";
import { addDays, foldRun } from "../core/index";
import { must } from "../core/must";
import { stockYear, type YearUse } from "../db/demo/stock-year";
import { COUNTS, ITEMS, KITS, LOW, orderCode, PLACES, SUPPLIERS } from "../db/demo/stores-story";
import { getDb } from "../db/index";

const DAY_MS = 86_400_000;
const now = new Date();
const daysAgo = (days: number): Date =>
  new Date(Math.floor(now.getTime() / DAY_MS) * DAY_MS - days * DAY_MS + 10.5 * 3_600_000);

export interface DemoStores {
  /** Ids by name. */
  places: Map<string, string>;
  /** Van by person id. */
  vans: Map<string, string>;
  depot: string;
}

/** Suppliers, what the catalogue says of each item, and where things lie. */
export async function setUpStores(actors: ReadonlyMap<string, Actor>): Promise<DemoStores> {
  const db = getDb();
  const lead = must(actors.get("jonas"));
  const suppliers = new Map<string, string>();
  for (const { key, name, code, email, leadDays } of SUPPLIERS) {
    const id = uuidv7();
    await db.run(
      "INSERT INTO suppliers (id, name, code, email, lead_days) VALUES (:id, :name, :code, :email, :leadDays)",
      { id, name, code, email, leadDays },
    );
    suppliers.set(key, id);
  }
  let number = 1000;
  for (const { id, supplier, ofKit, ...more } of ITEMS) {
    const { id: _, ...known } = await getItem(ofKit?.like ?? id);
    const settings = {
      ...known,
      ...(ofKit ? { name: ofKit.name } : {}),
      ...more,
      supplierId: must(suppliers.get(supplier)),
      orderCode: orderCode(id),
      scanCode: `HHS${++number}`,
    };
    await saveItem(lead, ofKit ? null : id, settings, daysAgo(380));
  }
  const places = new Map<string, string>();
  const vans = new Map<string, string>();
  let depot = "";
  for (const place of PLACES) {
    const personId = "person" in place ? must(actors.get(place.person)).id : null;
    const [site] =
      "site" in place
        ? await db.select<{ id: string }>("SELECT id FROM sites WHERE name = :name", { name: place.site })
        : [];
    const id = await addPlace(
      lead,
      { kind: place.kind, name: place.name, personId, siteId: site?.id ?? null },
      daysAgo(384),
    );
    places.set(place.name, id);
    if (personId !== null) vans.set(personId, id);
    if (place.kind === "depot") depot = id;
  }
  return { places, vans, depot };
}

/** What the year's sheets used, with the deliveries and refills behind it. */
export async function stockTheYear(stores: DemoStores, lead: Actor, sheets: readonly PastSheet[]): Promise<void> {
  const uses = sheets.flatMap((sheet): YearUse[] =>
    takenBy(foldRun(sheet.procedure, sheet.entries), sheet.entries).map((one) => ({
      place: stores.vans.get(one.by) ?? stores.depot,
      item: one.item,
      qty: one.qty,
      on: dayInZone(new Date(one.at), sheet.timeZone),
      at: new Date(one.at),
      by: one.by,
      sheetId: sheet.sheetId,
      entryId: one.entryId,
      machineId: sheet.machineId,
    })),
  );
  const { moves, lots } = stockYear({
    uses,
    items: ITEMS.map(({ id, packSize, shelfLifeDays }) => ({ id, packSize, shelfLifeDays: shelfLifeDays ?? null })),
    vans: [...stores.vans.values()],
    depot: stores.depot,
    first: dayInZone(daysAgo(384), "UTC"),
    today: dayInZone(now, "UTC"),
  });
  const db = getDb();
  const lotIds = new Map<string, string>();
  for (const { item, lot, expires } of lots) {
    const id = uuidv7();
    await db.run("INSERT INTO lots (id, item_id, lot, expires_on) VALUES (:id, :item, :lot, :expires)", {
      id,
      item,
      lot,
      expires,
    });
    lotIds.set(`${item} ${lot}`, id);
  }
  await db.transact((tx) =>
    postMoves(
      moves.map(({ item, place, lot, kind, qty, on, use, note }) => ({
        itemId: item,
        placeId: place,
        lotId: lot === null ? null : must(lotIds.get(`${item} ${lot}`)),
        kind,
        qty,
        at: use?.at ?? new Date(`${on}T07:30:00Z`),
        onDay: on,
        by: use?.by ?? lead.id,
        sheetId: use?.sheetId ?? null,
        entryId: use?.entryId ?? null,
        machineId: use?.machineId ?? null,
        ...(note ? { note } : {}),
      })),
      tx,
    ),
  );
}

/** Before the story begins. */
const STORY_STOCKED = 370;

/** What the story's sheets take from the vans beside the year's: it was in them. */
export async function stockTheStory(
  stores: DemoStores,
  lead: Actor,
  brooms: readonly { personId: string; item: string; qty: number }[],
): Promise<void> {
  for (const { personId, item, qty } of brooms) {
    const placeId = must(stores.vans.get(personId));
    await receive(
      lead,
      { itemId: item, placeId, qty, lot: null, expiresOn: null, note: "for the sweepers" },
      daysAgo(STORY_STOCKED),
    );
  }
}

/** What stands low, what was counted, what waits on a customer's shelf, a kit, an order that came in part. */
export async function runTheStores(stores: DemoStores, lead: Actor): Promise<void> {
  const db = getDb();
  const onHand = async (item: string, place: string): Promise<number> => {
    const [row] = await db.select<{ qty: string }>(
      "SELECT on_hand AS qty FROM stock WHERE item_id = :item AND place_id = :place",
      { item, place },
    );
    return Number(row?.qty ?? 0);
  };
  for (const { place, item, left } of LOW) {
    const from = must(stores.places.get(place));
    const there = await onHand(item, from);
    const to = place === "Van 2" ? stores.depot : must(stores.places.get("Van 2"));
    if (there > left)
      await moveStock(lead, { itemId: item, from, to, qty: there - left, note: "lent to a colleague" }, daysAgo(2));
  }
  for (const { place, item, difference, note, daysAgo: days } of COUNTS) {
    const placeId = must(stores.places.get(place));
    await countAll(lead, { itemId: item, placeId, difference, note }, daysAgo(days));
  }
  const shelf = must(stores.places.get("Clinic shelf"));
  await receive(
    lead,
    {
      itemId: "bleach-stock",
      placeId: shelf,
      qty: 2000,
      lot: "CL0001",
      expiresOn: addDays((await firmDay(now)).on, 25),
      note: "the clinic's own",
    },
    daysAgo(20),
  );
  for (const { name, procedureId, items } of KITS)
    await saveKit(
      lead,
      null,
      { name, procedureId, items: Object.entries(items).map(([itemId, qty]) => ({ itemId, qty })) },
      daysAgo(300),
    );
  const orderId = await addToDraft(lead, { itemId: "methanol", packs: 2, machineId: null }, daysAgo(6));
  await addToDraft(lead, { itemId: "pump-tubing", packs: 4, machineId: null }, daysAgo(6));
  await sendOrder(lead, orderId, daysAgo(6));
  const [first] = (await getOrder(orderId)).lines;
  await receiveOrder(lead, orderId, [{ lineId: must(first).id, packs: 1, lot: null, expiresOn: null }], daysAgo(1));
  await refreshOutlook(now);
}

/** Counts every lot as the books have it, what has none by a difference. */
async function countAll(
  lead: Actor,
  { itemId, placeId, difference, note }: { itemId: string; placeId: string; difference: number; note: string },
  at: Date,
): Promise<void> {
  const db = getDb();
  const lots = await db.select<{ lotId: string; qty: string }>(
    "SELECT lot_id AS lotId, qty FROM stock_lots WHERE item_id = :itemId AND place_id = :placeId AND qty > 0",
    { itemId, placeId },
  );
  const [sum] = await db.select<{ qty: string }>(
    "SELECT on_hand AS qty FROM stock WHERE item_id = :itemId AND place_id = :placeId",
    { itemId, placeId },
  );
  const inLots = lots.reduce((total, lot) => total + Number(lot.qty), 0);
  const found = [
    ...lots.map((lot) => ({ lotId: lot.lotId, qty: Number(lot.qty) })),
    { lotId: null, qty: Math.max(0, Number(sum?.qty ?? 0) - inLots) },
  ];
  const changed = found.find((one) => one.qty + difference >= 0) ?? must(found[0]);
  changed.qty += difference;
  await countStock(lead, { itemId, placeId, found, note }, at);
}
