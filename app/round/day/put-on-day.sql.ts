/** Statements of put-on-day that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Compares in the database. */
export function putOnDay(
  values: { dutyIds: readonly string[]; on: string | null; personId: string | null },
  tx?: Transaction,
): Promise<number> {
  return getDb().run(
    `UPDATE duties SET pinned = pinned AND planned_on <=> :on,
         sequence = sequence + (NOT planned_on <=> :on OR NOT planned_for <=> :personId), planned_on = :on, planned_for = :personId
       WHERE id IN (:dutyIds)`,
    values,
    tx,
  );
}
