import { addDays } from "@core";
import { getDb } from "@db";

import { firmDay } from "~/kit/days/firm-day.server";
import { lotsByPlace, type LotStock } from "~/stores/ledger/ledger.server";

import { asItem, getItem, type Item, ITEM_COLUMNS } from "./catalogue.server";
import { COVER_DAYS, EVERYWHERE, freshOutlook, type Outlook, USUAL_LEAD_DAYS } from "./outlook.server";

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

const EACH = 12;
const OUTLOOK = `o.item_id AS itemId, i.name, i.unit, i.pack_size AS packSize, i.pack_name AS packName, s.name AS supplierName,
  (SELECT SUM(GREATEST(0, k.on_hand)) FROM stock k WHERE k.item_id = o.item_id) AS onHand,
  (SELECT SUM((COALESCE(l.promised_packs, l.packs) - l.received_packs) * l.pack_size) FROM order_lines l JOIN orders r ON r.id = l.order_id
    WHERE l.item_id = o.item_id AND r.status IN ('sending','sent','partly')) AS onOrder,
  o.runs_out_on AS runsOutOn, o.order_by AS orderBy, o.order_qty AS orderQty, o.needed, o.likely, o.expiring_on AS expiringOn, o.expiring_qty AS expiringQty
  FROM stock_outlook o JOIN items i ON i.id = o.item_id LEFT JOIN suppliers s ON s.id = i.supplier_id`;

const asRow = (row: OutlookRow): OutlookRow => ({
  ...row,
  packSize: Number(row.packSize),
  onHand: Number(row.onHand ?? 0),
  onOrder: Number(row.onOrder ?? 0),
  orderQty: Number(row.orderQty),
  needed: Number(row.needed),
  likely: Number(row.likely),
  expiringQty: Number(row.expiringQty),
});

/** What the stores ask for today: a few rows of each list, by index. */
export async function storesHome(now: Date): Promise<StoresHome> {
  const db = getDb();
  const workedOutAt = await freshOutlook(now);
  const { on: today } = await firmDay(now);
  const rows = async (where: string, order: string): Promise<OutlookRow[]> =>
    (
      await db.select<OutlookRow>(
        `SELECT ${OUTLOOK} WHERE o.place_id = :everywhere AND ${where} ORDER BY ${order} LIMIT ${EACH}`,
        { everywhere: EVERYWHERE },
      )
    ).map(asRow);
  const [open] = await db.select<{ total: number }>(
    "SELECT COUNT(*) AS total FROM orders WHERE status IN ('draft','sending','sent','partly','refused')",
  );
  return {
    today,
    workedOutAt,
    order: await rows("o.order_by IS NOT NULL", "o.order_by, o.item_id"),
    expiring: await rows("o.expiring_on IS NOT NULL", "o.expiring_on, o.item_id"),
    likely: (await rows("o.likely > 0 AND o.order_by IS NULL", "o.likely DESC, o.item_id")).filter(
      (row) => row.onHand + row.onOrder < row.needed + row.likely,
    ),
    counts: (
      await db.select<StoresHome["counts"][number]>(
        `SELECT k.item_id AS itemId, i.name, i.unit, p.id AS placeId, p.name AS placeName, k.on_hand AS onHand
         FROM stock k JOIN items i ON i.id = k.item_id JOIN places p ON p.id = k.place_id WHERE k.count_asked = 1 ORDER BY k.place_id, k.item_id LIMIT ${EACH}`,
      )
    ).map((row) => ({ ...row, onHand: Number(row.onHand) })),
    openOrders: Number(open!.total),
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
  runId: string | null;
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

const LEDGER_PAGE = 25;

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
        "expiringOn",
        "expiringQty",
      ],
      where: { itemId },
      raw: true,
    })
  ).map((row) => ({
    ...row,
    orderQty: Number(row.orderQty),
    needed: Number(row.needed),
    likely: Number(row.likely),
    expiringQty: Number(row.expiringQty),
  }));
  const rows = await db.select<{
    placeId: string;
    placeName: string;
    onHand: string;
    reserved: string;
    countAsked: number;
    countedAt: Date | null;
  }>(
    `SELECT p.id AS placeId, p.name AS placeName, k.on_hand AS onHand, k.reserved, k.count_asked AS countAsked, k.counted_at AS countedAt
     FROM stock k JOIN places p ON p.id = k.place_id WHERE k.item_id = :itemId ORDER BY FIELD(p.kind, 'van', 'depot', 'shelf'), p.name`,
    { itemId },
  );
  const lots = await lotsByPlace(itemId, today, null);
  const places: ItemView["places"] = rows.map((row) => ({
    ...row,
    onHand: Number(row.onHand),
    reserved: Number(row.reserved),
    countAsked: Boolean(row.countAsked),
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
      : await db.select<LedgerLine>(
          `SELECT x.seq, x.kind, x.qty, x.on_day AS onDay, w.name AS \`by\`, p.name AS placeName, l.lot, x.note, x.counted, x.run_id AS runId, m.name AS machineName, ol.order_id AS orderId
     FROM (${newest}) t JOIN stock_moves x ON x.seq = t.seq JOIN persons w ON w.id = x.by_person JOIN places p ON p.id = x.place_id LEFT JOIN lots l ON l.id = x.lot_id
       LEFT JOIN machines m ON m.id = x.machine_id LEFT JOIN order_lines ol ON ol.id = x.order_line_id
     ORDER BY x.seq DESC LIMIT ${LEDGER_PAGE + 1}`,
          { itemId, before, ...Object.fromEntries(rows.map((row, i) => [`p${i}`, row.placeId])) },
        );
  const page = ledger
    .slice(0, LEDGER_PAGE)
    .map((row) => ({ ...row, qty: Number(row.qty), counted: row.counted === null ? null : Number(row.counted) }));
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
        : (
            await db.select<{ id: string; name: string; unit: string; onHand: string | null }>(
              "SELECT i.id, i.name, i.unit, (SELECT SUM(k.on_hand) FROM stock k WHERE k.item_id = i.id) AS onHand FROM items i WHERE i.id IN (:ids) ORDER BY i.name",
              { ids: item.alternatives },
            )
          ).map((row) => ({ ...row, onHand: Number(row.onHand ?? 0) })),
    ledger: page,
    next: ledger.length > LEDGER_PAGE ? page.at(-1)!.seq : null,
    fitted: await db.select(
      `SELECT m.id AS machineId, m.name AS machineName, m.tag, s.slot, s.uses_left AS usesLeft, DATE_FORMAT(s.fitted_at, '%Y-%m-%d') AS fittedOn
       FROM machine_slots s JOIN machines m ON m.id = s.machine_id WHERE s.item = :itemId ORDER BY s.fitted_at LIMIT 50`,
      { itemId },
    ),
    today,
  };
}

/** Active items by key, for names beside quantities. */
export async function itemsById(ids: readonly string[]): Promise<Map<string, Item>> {
  if (ids.length === 0) return new Map();
  const rows = await getDb().select<Item>(`SELECT ${ITEM_COLUMNS} FROM items i WHERE i.id IN (:ids)`, {
    ids: [...new Set(ids)],
  });
  return new Map(rows.map((row) => [row.id, asItem(row)]));
}
