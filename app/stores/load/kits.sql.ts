/** Statements of kits that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Joins. */
export function kitsWithCounts(values: { ids: string[] }): Promise<
  {
    kitId: string;
    itemId: string;
    name: string;
    unit: string;
    usesPerPiece: number;
    full: number;
  }[]
> {
  return getDb().select<{
    kitId: string;
    itemId: string;
    name: string;
    unit: string;
    usesPerPiece: number;
    full: number;
  }>(
    `SELECT k.kit_id AS kitId, k.item_id AS itemId, i.name, i.unit, i.uses_per_piece AS usesPerPiece, k.qty AS full
     FROM kit_items k JOIN items i ON i.id = k.item_id WHERE k.kit_id IN (:ids) ORDER BY i.name`,
    values,
  );
}

/** Joins. */
export function stockOfKits(values: {
  ids: string[];
}): Promise<{ itemId: string; placeId: string; placeName: string; onHand: number }[]> {
  return getDb().select<{ itemId: string; placeId: string; placeName: string; onHand: number }>(
    `SELECT k.item_id AS itemId, p.id AS placeId, p.name AS placeName, k.on_hand AS onHand
           FROM stock k JOIN places p ON p.id = k.place_id AND p.active = 1 AND p.kind <> 'shelf' WHERE k.item_id IN (:ids) ORDER BY p.kind, p.name`,
    values,
  );
}

/** Adds or brings up to date. */
export function keepKit(values: Record<string, unknown>, tx?: Transaction): Promise<number> {
  return getDb().run(
    "INSERT INTO kits (id, name, procedure_id) VALUES (:id, :name, :procedureId) ON DUPLICATE KEY UPDATE name = VALUES(name), procedure_id = VALUES(procedure_id)",
    values,
    tx,
  );
}

/** Adds or brings up to date. */
export function keepKitItems(values: { id: string; itemId: string; qty: number }, tx?: Transaction): Promise<number> {
  return getDb().run(
    "INSERT INTO kit_items (kit_id, item_id, qty) VALUES (:id, :itemId, :qty) ON DUPLICATE KEY UPDATE qty = qty + VALUES(qty)",
    values,
    tx,
  );
}
