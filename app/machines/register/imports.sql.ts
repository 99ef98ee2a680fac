/** Statements of imports that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Its shape varies. */
export function claimImport(values: { id: string; now: Date; stale: Date }): Promise<number> {
  return getDb().run(
    "UPDATE imports SET status = 'running', started_at = :now, rows_done = 0, message = '' WHERE id = :id AND (status IN ('checked','failed') OR (status = 'running' AND started_at < :stale))",
    values,
  );
}

/** Joins, compares in the database. */
export function moveDutiesWithMachines(values: { ids: string[] }, tx?: Transaction): Promise<number> {
  return getDb().run(
    "UPDATE duties p JOIN machines m ON m.id = p.machine_id SET p.site_id = m.site_id, p.family = m.family WHERE m.id IN (:ids) AND NOT (p.site_id <=> m.site_id AND p.family = m.family)",
    values,
    tx,
  );
}
