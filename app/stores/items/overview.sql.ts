/** Statements of overview that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { Item } from "./catalogue.server";
import { ITEM_COLUMNS } from "./catalogue.sql";
import type { ItemView, LedgerLine, OutlookRow, StoresHome } from "./overview.server";

export const EACH = 12;

export const OUTLOOK = `o.item_id AS itemId, i.name, i.unit, i.pack_size AS packSize, i.pack_name AS packName, s.name AS supplierName,
  (SELECT COALESCE(SUM(GREATEST(0, k.on_hand)), 0) FROM stock k WHERE k.item_id = o.item_id) AS onHand,
  (SELECT SUM((COALESCE(l.promised_packs, l.packs) - l.received_packs) * l.pack_size) FROM order_lines l JOIN orders r ON r.id = l.order_id
    WHERE l.item_id = o.item_id AND r.status IN ('sending','sent','partly')) AS onOrder,
  o.runs_out_on AS runsOutOn, o.order_by AS orderBy, o.order_qty AS orderQty, o.needed, o.likely, o.likely_out_on AS likelyOutOn, o.likely_order_by AS likelyOrderBy, o.expiring_on AS expiringOn, o.expiring_qty AS expiringQty
  FROM stock_outlook o JOIN items i ON i.id = o.item_id LEFT JOIN suppliers s ON s.id = i.supplier_id`;

export const LEDGER_PAGE = 25;

/** Its shape varies. */
export function itemsRunningOut(values: { everywhere: string }, where: string, order: string): Promise<OutlookRow[]> {
  return getDb().select<OutlookRow>(
    `SELECT ${OUTLOOK} WHERE o.place_id = :everywhere AND ${where} ORDER BY ${order} LIMIT ${EACH}`,
    values,
  );
}

/** Counts. */
export function countOrders(): Promise<{ total: number }[]> {
  return getDb().select<{ total: number }>(
    "SELECT COUNT(*) AS total FROM orders WHERE status IN ('draft','sending','sent','partly','refused')",
  );
}

/** Joins. */
export function belowNothing(): Promise<StoresHome["counts"][number][]> {
  return getDb().select<
    StoresHome["counts"][number]
  >(`SELECT k.item_id AS itemId, i.name, i.unit, p.id AS placeId, p.name AS placeName, k.on_hand AS onHand
         FROM stock k JOIN items i ON i.id = k.item_id JOIN places p ON p.id = k.place_id WHERE k.count_asked = 1 ORDER BY k.place_id, k.item_id LIMIT ${EACH}`);
}

/** Joins, compares in the database. */
export function stockByPlace(values: { itemId: string }): Promise<
  {
    placeId: string;
    placeName: string;
    onHand: number;
    reserved: number;
    countAsked: boolean;
    countedAt: Date | null;
  }[]
> {
  return getDb().select<{
    placeId: string;
    placeName: string;
    onHand: number;
    reserved: number;
    countAsked: boolean;
    countedAt: Date | null;
  }>(
    `SELECT p.id AS placeId, p.name AS placeName, k.on_hand AS onHand, k.reserved, k.count_asked AS countAsked, k.counted_at AS countedAt
     FROM stock k JOIN places p ON p.id = k.place_id WHERE k.item_id = :itemId ORDER BY FIELD(p.kind, 'van', 'depot', 'shelf'), p.name`,
    values,
  );
}

/** Joins. */
export function newestLines(values: Record<string, unknown>, newest: string): Promise<LedgerLine[]> {
  return getDb().select<LedgerLine>(
    `SELECT x.seq, x.kind, x.qty, x.on_day AS onDay, w.name AS \`by\`, p.name AS placeName, l.lot, x.note, x.counted, x.sheet_id AS sheetId, m.name AS machineName, ol.order_id AS orderId
     FROM (${newest}) t JOIN stock_moves x ON x.seq = t.seq JOIN persons w ON w.id = x.by_person JOIN places p ON p.id = x.place_id LEFT JOIN lots l ON l.id = x.lot_id
       LEFT JOIN machines m ON m.id = x.machine_id LEFT JOIN order_lines ol ON ol.id = x.order_line_id
     ORDER BY x.seq DESC LIMIT ${LEDGER_PAGE + 1}`,
    values,
  );
}

/** Sums. */
export function itemsOnHand(values: {
  ids: string[];
}): Promise<{ id: string; name: string; unit: string; onHand: number }[]> {
  return getDb().select<{ id: string; name: string; unit: string; onHand: number }>(
    "SELECT i.id, i.name, i.unit, (SELECT COALESCE(SUM(k.on_hand), 0) FROM stock k WHERE k.item_id = i.id) AS onHand FROM items i WHERE i.id IN (:ids) ORDER BY i.name",
    values,
  );
}

/** Joins. */
export function whereFitted(values: { itemId: string }): Promise<ItemView["fitted"]> {
  return getDb().select<ItemView["fitted"][number]>(
    `SELECT m.id AS machineId, m.name AS machineName, m.tag, s.slot, s.uses_left AS usesLeft, DATE_FORMAT(s.fitted_at, '%Y-%m-%d') AS fittedOn
       FROM machine_slots s JOIN machines m ON m.id = s.machine_id WHERE s.item = :itemId ORDER BY s.fitted_at LIMIT 50`,
    values,
  );
}

/** Its shape varies. */
export function itemNames(values: { ids: string[] }): Promise<Item[]> {
  return getDb().select<Item>(`SELECT ${ITEM_COLUMNS} FROM items i WHERE i.id IN (:ids)`, values);
}
