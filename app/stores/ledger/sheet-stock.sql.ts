/** Statements of sheet-stock that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Sums. */
export function stockMoves(
  values: { runId: string },
  tx?: Transaction,
): Promise<
  {
    eventId: string;
    itemId: string;
    placeId: string;
    lotId: string | null;
    qty: number;
  }[]
> {
  return getDb().select<{
    eventId: string;
    itemId: string;
    placeId: string;
    lotId: string | null;
    qty: number;
  }>(
    `SELECT event_id AS eventId, item_id AS itemId, place_id AS placeId, lot_id AS lotId, SUM(qty) AS qty FROM stock_moves
     WHERE run_id = :runId GROUP BY event_id, item_id, place_id, lot_id HAVING SUM(qty) <> 0`,
    values,
    tx,
  );
}
