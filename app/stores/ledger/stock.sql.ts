/** Statements of stock that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Reckons in place. */
export function reserveIfFree(values: Record<string, unknown>, tx?: Transaction): Promise<number> {
  return getDb().run(
    "UPDATE stock SET reserved = reserved + :qty WHERE item_id = :itemId AND place_id = :placeId AND on_hand - reserved >= :qty",
    values,
    tx,
  );
}

/** Reckons in place. */
export function giveBack(values: { itemId: string; placeId: string; qty: number }, tx?: Transaction): Promise<number> {
  return getDb().run(
    "UPDATE stock SET reserved = GREATEST(0, reserved - :qty) WHERE item_id = :itemId AND place_id = :placeId",
    values,
    tx,
  );
}
