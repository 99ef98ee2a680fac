import { getDb, type ReservationRow, type Transaction, type WhereAttributeHash } from "@db";

import * as sql from "./stock.sql";

/** Ends reservations that are still held and match; what they held is free again. */
export async function endReservations(
  which: WhereAttributeHash<ReservationRow>,
  why: "used" | "released",
  now: Date,
  tx: Transaction,
): Promise<void> {
  const db = getDb();
  const rows = await db.models.Reservation.findAll({
    attributes: ["id", "itemId", "placeId", "qty"],
    where: { ...which, endedAt: null },
    order: ["itemId", "placeId", "id"],
    lock: tx.LOCK.UPDATE,
    raw: true,
    transaction: tx,
  });
  for (const { id, itemId, placeId, qty } of rows) {
    await db.models.Reservation.update({ endedAt: now, endedWhy: why }, { where: { id }, transaction: tx });
    await sql.giveBack({ itemId, placeId, qty: qty }, tx);
  }
}
