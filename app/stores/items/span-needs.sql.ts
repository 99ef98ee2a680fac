/** Statements of span-needs that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** Sums, reckons in place. */
export function onHandAt(values: { ids: string[] }): Promise<{ itemId: string; onHand: number }[]> {
  return getDb().select<{ itemId: string; onHand: number }>(
    "SELECT item_id AS itemId, SUM(GREATEST(0, on_hand)) AS onHand FROM stock WHERE item_id IN (:ids) GROUP BY item_id",
    values,
  );
}
