/** Statements of outlook that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

import type { ItemSql, Outlook } from "./outlook.server";

/** Joins. */
export function itemsToLookAhead(values: { ids: readonly string[] }): Promise<ItemSql[]> {
  return getDb().select<ItemSql>(
    `SELECT i.id, i.pack_size + 0 AS packSize, i.uses_per_piece AS usesPerPiece, i.lead_days AS leadDays, s.lead_days AS supplierLeadDays
     FROM items i LEFT JOIN suppliers s ON s.id = i.supplier_id WHERE i.id IN (:ids)`,
    values,
  );
}

/** Its shape varies. */
export function dropOutlook(
  values: { ids: readonly string[] },
  itemIds: readonly string[] | undefined,
  tx?: Transaction,
): Promise<number> {
  return getDb().run(`DELETE FROM stock_outlook ${itemIds ? "WHERE item_id IN (:ids)" : ""}`, values, tx);
}

/** Its shape varies. */
export function keepOutlook(values: Record<string, unknown>, part: Outlook[], tx?: Transaction): Promise<number> {
  return getDb().run(
    `INSERT INTO stock_outlook (item_id, place_id, runs_out_on, order_by, order_qty, needed, likely, likely_out_on, likely_order_by, expiring_on, expiring_qty) VALUES ${part.map((_, i) => `(:r${i})`).join(", ")}`,
    values,
    tx,
  );
}

/** Adds or brings up to date. */
export function keepLookedAt(values: { at: string }, tx?: Transaction): Promise<number> {
  return getDb().run(
    "INSERT INTO settings (name, value) VALUES ('outlook-at', :at) ON DUPLICATE KEY UPDATE value = VALUES(value)",
    values,
    tx,
  );
}

/** Reads inside JSON. */
export function lookedAt(): Promise<{ value: string }[]> {
  return getDb().select<{ value: string }>(
    "SELECT JSON_VALUE(value, '$') AS value FROM settings WHERE name = 'outlook-at'",
  );
}

/** Joins. */
export function lotsOnHand(values: {
  ids: readonly string[];
}): Promise<{ itemId: string; placeId: string; qty: number; expires: string | null }[]> {
  return getDb().select<{ itemId: string; placeId: string; qty: number; expires: string | null }>(
    "SELECT s.item_id AS itemId, s.place_id AS placeId, s.qty, l.expires_on AS expires FROM stock_lots s JOIN lots l ON l.id = s.lot_id WHERE s.item_id IN (:ids) AND s.qty > 0",
    values,
  );
}

/** Sums, reckons in place. */
export function mixedOnHand(values: { ids: readonly string[] }): Promise<{ itemId: string; uses: number }[]> {
  return getDb().select<{ itemId: string; uses: number }>(
    "SELECT item AS itemId, SUM(GREATEST(0, uses_left - 1)) AS uses FROM machine_slots WHERE item IN (:ids) GROUP BY item",
    values,
  );
}

/** Its shape varies. */
export function stockHeldAt(
  values: { shelves: string[]; itemIds: readonly string[] | undefined },
  itemIds: readonly string[] | undefined,
): Promise<{ itemId: string; placeId: string }[]> {
  return getDb().select<{ itemId: string; placeId: string }>(
    `SELECT item_id AS itemId, place_id AS placeId FROM stock WHERE place_id IN (:shelves) ${itemIds ? "AND item_id IN (:itemIds)" : ""}`,
    values,
  );
}

/** Joins, each once. */
export function itemsWithLots(): Promise<{ id: string }[]> {
  return getDb().select<{ id: string }>(
    "SELECT DISTINCT s.item_id AS id FROM stock_lots s JOIN lots l ON l.id = s.lot_id WHERE s.qty > 0 AND l.expires_on IS NOT NULL",
  );
}

/** Sums, reckons in place, compares in the database. */
export function longestLead(): Promise<{ days: number | null }[]> {
  return getDb().select<{ days: number | null }>(
    "SELECT GREATEST(COALESCE((SELECT MAX(lead_days) FROM items), 0), COALESCE((SELECT MAX(lead_days) FROM suppliers), 0)) AS days",
  );
}
