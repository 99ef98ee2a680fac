/** Statements of ledger that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

import type { LotStock, MoveKind } from "./ledger.server";

/** Its shape varies. */
export function addMoves(
  values: Record<string, unknown>,
  part: {
    qty: number;
    cost: number | null;
    itemId: string;
    placeId: string;
    lotId: string | null;
    kind: MoveKind;
    at: Date;
    onDay: string;
    by: string;
    sheetId?: string | null;
    entryId?: string | null;
    machineId?: string | null;
    orderLineId?: string | null;
    pairId?: string | null;
    note?: string;
    counted?: number | null;
  }[],
  tx?: Transaction,
): Promise<number> {
  return getDb().run(
    `INSERT INTO stock_moves (id, item_id, place_id, lot_id, kind, qty, cost_cents, at, on_day, by_person, sheet_id, entry_id, machine_id, order_line_id, pair_id, note, counted)
       VALUES ${part.map((_, i) => `(:r${i})`).join(", ")}`,
    values,
    tx,
  );
}

/** Adds or brings up to date, compares in the database. */
export function addToStock(
  values: Record<string, unknown>,
  part: { itemId: string; placeId: string; qty: number; countedAt: Date | null }[],
  tx?: Transaction,
): Promise<number> {
  return getDb().run(
    `INSERT INTO stock (item_id, place_id, on_hand, count_asked, counted_at) VALUES ${part.map((_, i) => `(:r${i})`).join(", ")}
       ON DUPLICATE KEY UPDATE on_hand = on_hand + VALUES(on_hand), counted_at = COALESCE(VALUES(counted_at), counted_at),
         count_asked = IF(VALUES(counted_at) IS NULL, count_asked OR on_hand < 0, on_hand < 0)`,
    values,
    tx,
  );
}

/** Adds or brings up to date. */
export function addToLots(
  values: Record<string, unknown>,
  part: { itemId: string; placeId: string; lotId: string; qty: number }[],
  tx?: Transaction,
): Promise<number> {
  return getDb().run(
    `INSERT INTO stock_lots (item_id, place_id, lot_id, qty) VALUES ${part.map((_, i) => `(:r${i})`).join(", ")}
       ON DUPLICATE KEY UPDATE qty = qty + VALUES(qty)`,
    values,
    tx,
  );
}

/** Adds or brings up to date. */
export function addToMonths(
  values: Record<string, unknown>,
  part: [month: string, machineId: string, cents: number][],
  tx?: Transaction,
): Promise<number> {
  return getDb().run(
    `INSERT INTO cost_months (month, machine_id, cents) VALUES ${part.map((_, n) => `(:r${n})`).join(", ")}
       ON DUPLICATE KEY UPDATE cents = cents + VALUES(cents)`,
    values,
    tx,
  );
}

/** Its shape varies. */
export function pricesOf(
  values: { itemIds: readonly string[] },
  tx?: Transaction,
): Promise<{ id: string; price: number }[]> {
  return getDb().select<{ id: string; price: number }>(
    "SELECT id, pack_price_cents / pack_size AS price FROM items WHERE id IN (:itemIds) AND pack_price_cents IS NOT NULL",
    values,
    tx,
  );
}

/** Joins. */
export function lotsAt(
  values: { itemId: string; placeId: string | null },
  here: string,
  tx?: Transaction | null,
): Promise<(LotStock & { placeId: string })[]> {
  return getDb().select<LotStock & { placeId: string }>(
    `SELECT s.place_id AS placeId, l.id AS lotId, l.lot, l.expires_on AS expiresOn, s.qty FROM stock_lots s JOIN lots l ON l.id = s.lot_id
     WHERE s.item_id = :itemId ${here} AND s.qty > 0 ORDER BY l.expires_on IS NULL, l.expires_on, l.lot`,
    values,
    tx,
  );
}

/** Its shape varies. */
export function stockAt(
  values: { itemId: string; placeId: string | null },
  here: string,
  tx?: Transaction | null,
): Promise<{ placeId: string; onHand: number }[]> {
  return getDb().select<{ placeId: string; onHand: number }>(
    `SELECT s.place_id AS placeId, s.on_hand AS onHand FROM stock s WHERE s.item_id = :itemId ${here}`,
    values,
    tx,
  );
}

/** Adds or brings up to date, compares in the database. */
export function knowLot(
  values: { id: string; itemId: string; lot: string; expiresOn: string | null },
  tx?: Transaction,
): Promise<number> {
  return getDb().run(
    `INSERT INTO lots (id, item_id, lot, expires_on) VALUES (:id, :itemId, :lot, :expiresOn)
     ON DUPLICATE KEY UPDATE expires_on = COALESCE(expires_on, VALUES(expires_on))`,
    values,
    tx,
  );
}

/** Sums, puts lists together. */
export function monthsThatDiffer(): Promise<{ month: string; machineId: string }[]> {
  return getDb().select<{ month: string; machineId: string }>(`SELECT month, machine_id AS machineId FROM (
       SELECT LEFT(on_day, 7) AS month, machine_id, cost_cents AS ledger, 0 AS kept FROM stock_moves WHERE kind = 'use' AND machine_id IS NOT NULL AND cost_cents IS NOT NULL
       UNION ALL SELECT month, machine_id, 0, cents FROM cost_months) both_sides
     GROUP BY month, machine_id HAVING ABS(SUM(ledger) - SUM(kept)) > 0.001 LIMIT 100`);
}

/** Sums, puts lists together. */
export function sumsThatDiffer(): Promise<{ itemId: string; placeId: string; ledger: number; sum: number }[]> {
  return getDb().select<{
    itemId: string;
    placeId: string;
    ledger: number;
    sum: number;
  }>(`SELECT item_id AS itemId, place_id AS placeId, SUM(ledger) AS ledger, SUM(kept) AS sum FROM (
       SELECT item_id, place_id, qty AS ledger, 0 AS kept FROM stock_moves UNION ALL SELECT item_id, place_id, 0, on_hand FROM stock) both_sides
     GROUP BY item_id, place_id HAVING SUM(ledger) <> SUM(kept)
     UNION ALL
     SELECT item_id, place_id, SUM(ledger), SUM(kept) FROM (
       SELECT item_id, place_id, lot_id, qty AS ledger, 0 AS kept FROM stock_moves WHERE lot_id IS NOT NULL
       UNION ALL SELECT item_id, place_id, lot_id, 0, qty FROM stock_lots) both_lots
     GROUP BY item_id, place_id, lot_id HAVING SUM(ledger) <> SUM(kept)`);
}
