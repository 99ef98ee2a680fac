/** Statements of catalogue that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

import type { Item, ItemRow } from "./catalogue.server";

export const ITEM_COLUMNS = `i.id, i.name, i.kind, i.unit, i.pack_size + 0 AS packSize, i.pack_name AS packName, i.uses_per_piece AS usesPerPiece, i.shelf_life_days AS shelfLifeDays,
  i.hazards, i.storage, i.alternatives, i.pack_price_cents AS packPriceCents, i.supplier_id AS supplierId, i.order_code AS orderCode, i.lead_days AS leadDays,
  i.needs_serial AS needsSerial, i.scan_code AS scanCode, i.active`;

/** Its shape varies. */
export function oneItem(values: { itemId: string }, tx?: Transaction | null): Promise<Item[]> {
  return getDb().select<Item>(`SELECT ${ITEM_COLUMNS} FROM items i WHERE i.id = :itemId`, values, tx);
}

/** Puts lists together. */
export function itemsMeant(values: { said: string; key: string }): Promise<Item[]> {
  return getDb().select<Item>(
    `SELECT ${ITEM_COLUMNS} FROM items i WHERE i.scan_code = :said UNION SELECT ${ITEM_COLUMNS} FROM items i WHERE i.id = :key
     UNION (SELECT ${ITEM_COLUMNS} FROM items i WHERE i.active = 1 AND i.name = :said LIMIT 2)`,
    values,
  );
}

/** Joins, sums. */
export function itemsPage(
  values: { words: string; like: string; afterName: string; afterId: string },
  found: string,
  after: string,
  limit: number,
): Promise<ItemRow[]> {
  return getDb().select<ItemRow>(
    `SELECT ${ITEM_COLUMNS}, s.name AS supplierName,
       (SELECT COALESCE(SUM(k.on_hand), 0) FROM stock k WHERE k.item_id = i.id) AS onHand, EXISTS (SELECT 1 FROM stock k WHERE k.item_id = i.id AND k.count_asked = 1) AS countAsked
     FROM items i LEFT JOIN suppliers s ON s.id = i.supplier_id WHERE i.active = 1 ${found} ${after} ORDER BY i.name, i.id LIMIT ${limit + 1}`,
    values,
  );
}

/** Its shape varies. */
export function lockItem(values: { id: string }, tx?: Transaction): Promise<Item[]> {
  return getDb().select<Item>(`SELECT ${ITEM_COLUMNS} FROM items i WHERE i.id = :id FOR UPDATE`, values, tx);
}

/** Adds or brings up to date. */
export function keepItem(values: Record<string, unknown>, tx?: Transaction): Promise<number> {
  return getDb().run(
    `INSERT INTO items (id, name, kind, unit, pack_size, pack_name, uses_per_piece, shelf_life_days, hazards, storage, alternatives, pack_price_cents, supplier_id, order_code,
         lead_days, needs_serial, scan_code, active)
       VALUES (:id, :name, :kind, :unit, :packSize, :packName, :usesPerPiece, :shelfLifeDays, :hazards, :storage, :alternatives, :packPriceCents, :supplierId, :orderCode, :leadDays,
         :needsSerial, :scanCode, :active)
       ON DUPLICATE KEY UPDATE name = VALUES(name), kind = VALUES(kind), unit = VALUES(unit), pack_size = VALUES(pack_size), pack_name = VALUES(pack_name),
         uses_per_piece = VALUES(uses_per_piece), shelf_life_days = VALUES(shelf_life_days), hazards = VALUES(hazards), storage = VALUES(storage),
         alternatives = VALUES(alternatives), pack_price_cents = VALUES(pack_price_cents), supplier_id = VALUES(supplier_id), order_code = VALUES(order_code),
         lead_days = VALUES(lead_days), needs_serial = VALUES(needs_serial), scan_code = VALUES(scan_code), active = VALUES(active)`,
    values,
    tx,
  );
}
