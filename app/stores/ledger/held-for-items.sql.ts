/** Statements of what is held for open items that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Joins, in the order in which a piece is taken: own van, depot, another van. */
export function placesWithPiece(
  values: { itemId: string; ownerId: string | null; piece: number },
  tx: Transaction,
): Promise<{ placeId: string }[]> {
  return getDb().select(
    `SELECT k.place_id AS placeId FROM stock k JOIN places p ON p.id = k.place_id AND p.active = 1 AND p.kind <> 'shelf'
     WHERE k.item_id = :itemId AND k.on_hand - k.reserved >= :piece
     ORDER BY p.kind = 'van' AND p.person_id <=> :ownerId DESC, p.kind = 'depot' DESC, p.name, p.id`,
    values,
    tx,
  );
}

/** Asks for absence. */
export function waitingFor(
  values: { itemIds: readonly string[] },
  tx: Transaction,
): Promise<{ id: string; item: string; ownerId: string | null; machineId: string }[]> {
  return getDb().select(
    `SELECT o.id, o.item, o.owner_id AS ownerId, o.machine_id AS machineId FROM open_items o
     WHERE o.closed_at IS NULL AND o.item IN (:itemIds)
       AND NOT EXISTS (SELECT 1 FROM reservations r WHERE r.open_item_id = o.id AND r.ended_at IS NULL)
     ORDER BY o.wanted_by, o.id`,
    values,
    tx,
  );
}

/** Joins. */
export function heldForMachines(
  values: { itemId: string; from: string; machineIds: string[] },
  tx: Transaction,
): Promise<{ id: string; openItemId: string }[]> {
  return getDb().select(
    `SELECT r.id, r.open_item_id AS openItemId FROM reservations r JOIN open_items o ON o.id = r.open_item_id
     WHERE r.ended_at IS NULL AND r.item_id = :itemId AND r.place_id = :from AND o.machine_id IN (:machineIds) ORDER BY o.wanted_by, r.id`,
    values,
    tx,
  );
}

/** Joins. */
export function takeOffDrafts(values: { lines: readonly string[] }, tx: Transaction): Promise<number> {
  return getDb().run(
    "DELETE l FROM order_lines l JOIN orders r ON r.id = l.order_id WHERE l.id IN (:lines) AND r.status = 'draft'",
    values,
    tx,
  );
}
