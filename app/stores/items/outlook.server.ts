import { addDays, type Lot, runOut } from "@core";
import { getDb, Op } from "@db";

import { firmDay } from "~/kit/days/firm-day.server";
import { askOnce } from "~/kit/jobs/jobs.server";
import type { JobKind } from "~/kit/jobs/run-jobs.server";
import { endReservations } from "~/stores/ledger/end-reservations.server";
import { exactQty } from "~/stores/ledger/exact-qty";

import { eachDemand, type PlacedDemand } from "./needs.server";
import * as sql from "./outlook.sql";

/** How far demand is looked ahead beyond an item's lead time, days: what is ordered now should last as long (common practice). */
export const COVER_DAYS = 90;
/** Lead time when neither item nor supplier names one. */
export const USUAL_LEAD_DAYS = 7;
/** Lots that expire within it are shown. */
const EXPIRING_DAYS = 60;
/** The firm as a whole, beside its places. */
export const EVERYWHERE = "";

export interface ItemSql {
  id: string;
  packSize: number;
  usesPerPiece: number;
  leadDays: number | null;
  supplierLeadDays: number | null;
}

export interface Outlook {
  itemId: string;
  placeId: string;
  runsOutOn: string | null;
  orderBy: string | null;
  /** In the item's unit, whole packs. */
  orderQty: number;
  /** Surely needed within the cover. */
  needed: number;
  /** Expected besides: quantity times chance. */
  likely: number;
  /** When it runs out with what is expected besides, and by when it is ordered then. */
  likelyOutOn: string | null;
  likelyOrderBy: string | null;
  expiringOn: string | null;
  expiringQty: number;
}

/**
 * Works out when items run out, for the firm and at each place, and keeps it. Demand falls on the customer's shelf where it
 * holds the item, else on the van of who will come, else on the depot. Items of several uses are counted in uses, with what is
 * left of the pieces on machines, and come out in pieces.
 *
 * @param itemIds only these; everything that is needed or expires when absent
 */
export async function refreshOutlook(now: Date, itemIds?: readonly string[]): Promise<number> {
  const db = getDb();
  const { on: today } = await firmDay(now);
  const until = addDays(today, COVER_DAYS + (await longestLead()));
  if (!itemIds) await db.transact((tx) => endReservations({ onDay: { [Op.lt]: today } }, "released", now, tx));
  const placeFor = await placeChooser(itemIds);
  const wants = new Map<string, ItemWants>();
  await eachDemand({ until, today, now, ...(itemIds ? { itemIds } : {}) }, (one) => addWant(wants, one, placeFor(one)));
  const ids = itemIds ?? [...new Set([...wants.keys(), ...(await itemsWithLots())])];
  if (ids.length === 0) return 0;
  const items = await sql.itemsToLookAhead({ ids });
  const stock = await stockOf(ids);
  const rows = items.flatMap((item) =>
    outlookOf({ ...item, packSize: item.packSize }, wants.get(item.id) ?? NO_WANTS, stock, today),
  );
  await db.transact(async (tx) => {
    await sql.dropOutlook({ ids }, itemIds, tx);
    for (let from = 0; from < rows.length; from += 500) {
      const part = rows.slice(from, from + 500);
      await sql.keepOutlook(
        Object.fromEntries(
          part.map((one, i) => [
            `r${i}`,
            [
              one.itemId,
              one.placeId,
              one.runsOutOn,
              one.orderBy,
              one.orderQty,
              one.needed,
              one.likely,
              one.likelyOutOn,
              one.likelyOrderBy,
              one.expiringOn,
              one.expiringQty,
            ],
          ]),
        ),
        part,
        tx,
      );
    }
    if (!itemIds) await sql.keepLookedAt({ at: JSON.stringify(now.toISOString()) }, tx);
  });
  return rows.length;
}

/** When everything was worked out last. */
export async function outlookAt(): Promise<Date | null> {
  const [row] = await sql.lookedAt();
  return row ? new Date(row.value) : null;
}

/** After how long everything is worked out again when somebody looks. */
const STALE_MS = 15 * 60_000;
/** Name of the kind: everything looked ahead. */
export const LOOK_AHEAD = "look-ahead";

/** One step: what is needed is summed over all machines before anything is known of an item. */
export const lookAhead: JobKind = async (job) => {
  const rows = await refreshOutlook(job.askedAt);
  return { kept: null, done: 1, total: 1, finished: true, message: `${rows.toLocaleString("en")} items and places` };
};

/** The first of all, of this process: whoever comes meanwhile waits for the same. */
let first: Promise<unknown> | null = null;

/** Has everything worked out that is older than a quarter of an hour: the first time before answering, later by whichever process. */
export async function freshOutlook(now: Date): Promise<Date | null> {
  const at = await outlookAt();
  // One by a server whose clock was ahead is no fresher for it.
  if (at !== null && Math.abs(now.getTime() - at.getTime()) < STALE_MS) return at;
  if (at === null) {
    first ??= refreshOutlook(now).finally(() => (first = null));
    await first;
    return now;
  }
  await askOnce({ kind: LOOK_AHEAD, title: "What is needed of every item, looked ahead", what: {} }, now);
  return at;
}

/** Of one item: by place, what is surely needed on each day, and what is expected besides. */
type ItemWants = Map<string, DayWants>;
type DayWants = Map<string, { sure: number; likely: number }>;
const NO_WANTS: ItemWants = new Map<string, DayWants>();

function addWant(wants: Map<string, ItemWants>, one: PlacedDemand, placeId: string | null): void {
  const item: ItemWants = wants.get(one.item) ?? new Map<string, DayWants>();
  wants.set(one.item, item);
  for (const place of placeId === null ? [EVERYWHERE] : [EVERYWHERE, placeId]) {
    const days = item.get(place) ?? new Map<string, { sure: number; likely: number }>();
    item.set(place, days);
    const day = days.get(one.on) ?? { sure: 0, likely: 0 };
    days.set(one.on, day);
    if (one.chance === 1) day.sure += one.qty;
    else day.likely += one.qty * one.chance;
  }
}

function outlookOf(item: ItemSql, wants: ItemWants, stock: StockOf, today: string): Outlook[] {
  const uses = item.usesPerPiece;
  const leadDays = item.leadDays ?? item.supplierLeadDays ?? USUAL_LEAD_DAYS;
  const until = addDays(today, COVER_DAYS + leadDays);
  const at = (placeId: string): Outlook => {
    const there = stock.at(item.id, placeId);
    const days = [...(wants.get(placeId) ?? [])].filter(([on]) => on <= until);
    const lasts = (qtyOf: (wants: { sure: number; likely: number }) => number): ReturnType<typeof runOut> =>
      runOut({
        item: item.id,
        // Parts' demand counts uses; materials have one use a unit.
        onHand: there.onHand * uses + (placeId === EVERYWHERE ? stock.onMachines(item.id) : 0),
        lots: there.lots.map((lot) => ({ ...lot, qty: lot.qty * uses })),
        demand: days.map(([on, wants]) => ({ on, qty: qtyOf(wants) })),
        leadDays,
        packSize: item.packSize * uses,
        today,
      });
    const found = lasts(({ sure }) => sure);
    const withLikely = lasts(({ sure, likely }) => sure + likely);
    const soon = found.expiring.filter((one) => one.on <= addDays(today, EXPIRING_DAYS));
    return {
      itemId: item.id,
      placeId,
      runsOutOn: found.runsOutOn,
      orderBy: found.orderBy,
      orderQty: exactQty(found.orderQty / uses),
      needed: exactQty(days.reduce((sum, [, { sure }]) => sum + sure, 0) / uses),
      likely: exactQty(days.reduce((sum, [, { likely }]) => sum + likely, 0) / uses),
      likelyOutOn: withLikely.runsOutOn,
      likelyOrderBy: withLikely.orderBy,
      expiringOn: soon[0]?.on ?? null,
      expiringQty: exactQty(soon.reduce((sum, one) => sum + one.qty, 0) / uses),
    };
  };
  const places = new Set([EVERYWHERE, ...stock.placesOf(item.id), ...wants.keys()]);
  return [...places].map(at).filter((one) => one.needed > 0 || one.likely > 0 || one.expiringQty > 0);
}

interface StockOf {
  at(itemId: string, placeId: string): { onHand: number; lots: Lot[] };
  placesOf(itemId: string): string[];
  /** Uses left of pieces that are on machines, beyond the one that is on. */
  onMachines(itemId: string): number;
}

async function stockOf(ids: readonly string[]): Promise<StockOf> {
  const db = getDb();
  const sums = await db.models.Stock.findAll({
    attributes: ["itemId", "placeId", "onHand"],
    where: { itemId: [...ids] },
    raw: true,
  });
  const lots = await sql.lotsOnHand({ ids });
  const fitted = await sql.mixedOnHand({ ids });
  const onMachines = new Map(fitted.map((row) => [row.itemId, row.uses]));
  const byKey = new Map<string, { onHand: number; lots: Lot[] }>();
  const entry = (itemId: string, placeId: string): { onHand: number; lots: Lot[] } => {
    const key = `${itemId} ${placeId}`;
    let found = byKey.get(key);
    if (!found) byKey.set(key, (found = { onHand: 0, lots: [] }));
    return found;
  };
  const places = new Map<string, string[]>();
  for (const { itemId, placeId, onHand } of sums) {
    // The firm has what is there; a place that is below nothing by the books takes nothing from another.
    entry(itemId, placeId).onHand += onHand;
    entry(itemId, EVERYWHERE).onHand += Math.max(0, onHand);
    places.set(itemId, [...(places.get(itemId) ?? []), placeId]);
  }
  for (const { itemId, placeId, qty, expires } of lots) {
    const lot = { qty: qty, ...(expires === null ? {} : { expires }) };
    for (const key of [placeId, EVERYWHERE]) entry(itemId, key).lots.push(lot);
  }
  return {
    at: (itemId, placeId) => byKey.get(`${itemId} ${placeId}`) ?? { onHand: 0, lots: [] },
    placesOf: (itemId) => places.get(itemId) ?? [],
    onMachines: (itemId) => onMachines.get(itemId) ?? 0,
  };
}

/** Which place a duty's demand falls on. */
async function placeChooser(itemIds: readonly string[] | undefined): Promise<(one: PlacedDemand) => string | null> {
  const db = getDb();
  const places = await db.models.Place.findAll({
    attributes: ["id", "kind", "personId", "siteId"],
    where: { active: true },
    order: ["name"],
    raw: true,
  });
  const van = new Map(
    places.flatMap((place): [string, string][] =>
      place.kind === "van" && place.personId ? [[place.personId, place.id]] : [],
    ),
  );
  const shelf = new Map(
    places.flatMap((place): [string, string][] =>
      place.kind === "shelf" && place.siteId ? [[place.siteId, place.id]] : [],
    ),
  );
  const depot = places.find((place) => place.kind === "depot")?.id ?? null;
  const shelves = [...shelf.values()];
  const onShelves = new Set(
    shelves.length === 0
      ? []
      : (await sql.stockHeldAt({ shelves, itemIds }, itemIds)).map((row) => `${row.placeId} ${row.itemId}`),
  );
  return (one) => {
    const onSite = shelf.get(one.siteId);
    if (onSite !== undefined && onShelves.has(`${onSite} ${one.item}`)) return onSite;
    return (one.personId !== null ? van.get(one.personId) : undefined) ?? depot;
  };
}

async function itemsWithLots(): Promise<string[]> {
  const rows = await sql.itemsWithLots();
  return rows.map((row) => row.id);
}

async function longestLead(): Promise<number> {
  const [row] = await sql.longestLead();
  return Math.max(USUAL_LEAD_DAYS, row?.days ?? 0);
}
