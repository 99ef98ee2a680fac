/** Statements of put-on-day that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Joins: what is foreseen of parts until a visit is worked out anew when somebody looks. */
export function markWearStale(values: { dutyIds: readonly string[] }, tx: Transaction): Promise<number> {
  return getDb().run(
    `UPDATE wear_lines w JOIN duties d ON d.machine_id = w.machine_id SET w.stale = 1 WHERE d.id IN (:dutyIds) AND w.current = 1`,
    values,
    tx,
  );
}

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
