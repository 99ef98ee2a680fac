/** Statements of sheet-stock that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Sums. */
export function bookedForSheet(
  values: { sheetId: string },
  tx?: Transaction,
): Promise<
  {
    entryId: string;
    itemId: string;
    placeId: string;
    lotId: string | null;
    qty: number;
  }[]
> {
  return getDb().select<{
    entryId: string;
    itemId: string;
    placeId: string;
    lotId: string | null;
    qty: number;
  }>(
    `SELECT entry_id AS entryId, item_id AS itemId, place_id AS placeId, lot_id AS lotId, SUM(qty) AS qty FROM stock_moves
     WHERE sheet_id = :sheetId GROUP BY entry_id, item_id, place_id, lot_id HAVING SUM(qty) <> 0`,
    values,
    tx,
  );
}
