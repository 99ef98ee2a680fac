import { addDays, must } from "@core";
import { getDb } from "@db";

import { firmDay } from "~/kit/days/firm-day.server";
import { lotsByPlace, type LotStock } from "~/stores/ledger/ledger.server";

import { asItem, getItem, type Item } from "./catalogue.server";
import { COVER_DAYS, EVERYWHERE, freshOutlook, type Outlook, USUAL_LEAD_DAYS } from "./outlook.server";
import * as sql from "./overview.sql";
import { LEDGER_PAGE } from "./overview.sql";

export interface OutlookRow {
  itemId: string;
  name: string;
  unit: string;
  packSize: number;
  packName: string;
  supplierName: string | null;
  onHand: number;
  onOrder: number;
  runsOutOn: string | null;
  orderBy: string | null;
  orderQty: number;
  needed: number;
  likely: number;
  likelyOutOn: string | null;
  likelyOrderBy: string | null;
  expiringOn: string | null;
  expiringQty: number;
}

export interface StoresHome {
  today: string;
  workedOutAt: Date | null;
  order: OutlookRow[];
  expiring: OutlookRow[];
  likely: OutlookRow[];
  counts: { itemId: string; name: string; unit: string; placeId: string; placeName: string; onHand: number }[];
  openOrders: number;
}

const asRow = (row: OutlookRow): OutlookRow => ({
  ...row,
  packSize: row.packSize,
  orderQty: row.orderQty,
  needed: row.needed,
  likely: row.likely,
  expiringQty: row.expiringQty,
});

/** What the stores ask for today: a few rows of each list, by index. */
export async function storesHome(now: Date): Promise<StoresHome> {
  const workedOutAt = await freshOutlook(now);
  const { on: today } = await firmDay(now);
  const rows = async (where: string, order: string): Promise<OutlookRow[]> =>
    (await sql.itemsRunningOut({ everywhere: EVERYWHERE }, where, order)).map(asRow);
  const [open] = await sql.countOrders();
  return {
    today,
    workedOutAt,
    order: await rows("o.order_by IS NOT NULL", "o.order_by, o.item_id"),
    expiring: await rows("o.expiring_on IS NOT NULL", "o.expiring_on, o.item_id"),
    likely: (await rows("o.likely > 0 AND o.order_by IS NULL", "o.likely DESC, o.item_id")).filter(
      (row) => row.onHand + row.onOrder < row.needed + row.likely,
    ),
    counts: (await sql.belowNothing()).map((row) => ({ ...row, onHand: row.onHand })),
    openOrders: must(open).total,
  };
}

export interface LedgerLine {
  seq: number;
  kind: string;
  qty: number;
  onDay: string;
  by: string;
  placeName: string;
  lot: string | null;
  note: string;
  counted: number | null;
  sheetId: string | null;
  machineName: string | null;
  orderId: string | null;
}

export interface ItemView {
  item: Item;
  supplierName: string | null;
  leadDays: number;
  /** Day until which the outlook looks. */
  seenUntil: string;
  places: {
    placeId: string;
    placeName: string;
    onHand: number;
    reserved: number;
    countAsked: boolean;
    countedAt: Date | null;
    lots: LotStock[];
    outlook: Outlook | null;
  }[];
  outlook: Outlook | null;
  alternatives: { id: string; name: string; onHand: number; unit: string }[];
  ledger: LedgerLine[];
  next: number | null;
  fitted: { machineId: string; machineName: string; tag: string; slot: string; usesLeft: number; fittedOn: string }[];
  today: string;
}

/** One item with what is where, when it runs out, and its ledger from the newest line back. */
export async function itemView(itemId: string, before: number | null, now: Date): Promise<ItemView> {
  const db = getDb();
  const item = await getItem(itemId);
  const { on: today } = await firmDay(now);
  const supplier =
    item.supplierId === null
      ? null
      : await db.models.Supplier.findByPk(item.supplierId, { attributes: ["name", "leadDays"], raw: true });
  const outlook = (
    await db.models.StockOutlook.findAll({
      attributes: [
        "itemId",
        "placeId",
        "runsOutOn",
        "orderBy",
        "orderQty",
        "needed",
        "likely",
        "likelyOutOn",
        "likelyOrderBy",
        "expiringOn",
        "expiringQty",
      ],
      where: { itemId },
      raw: true,
    })
  ).map((row) => ({
    ...row,
    orderQty: row.orderQty,
    needed: row.needed,
    likely: row.likely,
    expiringQty: row.expiringQty,
  }));
  const rows = await sql.stockByPlace({ itemId });
  const lots = await lotsByPlace(itemId, today, null);
  const places: ItemView["places"] = rows.map((row) => ({
    ...row,
    onHand: row.onHand,
    reserved: row.reserved,
    countAsked: row.countAsked,
    lots: lots.get(row.placeId) ?? [],
    outlook: outlook.find((one) => one.placeId === row.placeId) ?? null,
  }));
  // The newest lines of each place by its own index, so that a million of them do not matter.
  const newest = rows
    .map(
      (_, i) =>
        `(SELECT seq FROM stock_moves WHERE item_id = :itemId AND place_id = :p${i} ${before === null ? "" : "AND seq < :before"} ORDER BY seq DESC LIMIT ${LEDGER_PAGE + 1})`,
    )
    .join(" UNION ALL ");
  const ledger =
    rows.length === 0
      ? []
      : await sql.newestLines(
          { itemId, before, ...Object.fromEntries(rows.map((row, i) => [`p${i}`, row.placeId])) },
          newest,
        );
  const page = ledger
    .slice(0, LEDGER_PAGE)
    .map((row) => ({ ...row, qty: row.qty, counted: row.counted === null ? null : row.counted }));
  const leadDays = item.leadDays ?? supplier?.leadDays ?? USUAL_LEAD_DAYS;
  return {
    item,
    supplierName: supplier?.name ?? null,
    leadDays,
    seenUntil: addDays(today, COVER_DAYS + leadDays),
    places,
    outlook: outlook.find((one) => one.placeId === EVERYWHERE) ?? null,
    alternatives:
      item.alternatives.length === 0
        ? []
        : (await sql.itemsOnHand({ ids: item.alternatives })).map((row) => ({
            ...row,
          })),
    ledger: page,
    next: ledger.length > LEDGER_PAGE ? must(page.at(-1)).seq : null,
    fitted: await sql.whereFitted({ itemId }),
    today,
  };
}

/** Active items by key, for names beside quantities. */
export async function itemsById(ids: readonly string[]): Promise<Map<string, Item>> {
  if (ids.length === 0) return new Map();
  const rows = await sql.itemNames({
    ids: [...new Set(ids)],
  });
  return new Map(rows.map((row) => [row.id, asItem(row)]));
}
