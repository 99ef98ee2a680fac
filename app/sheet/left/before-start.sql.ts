/** Statements of what is known before a machine is worked on that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** Joins. */
export function lastVisit(values: {
  machineId: string;
  sheetId: string;
}): Promise<{ id: string; closedAt: Date; by: string; outcome: string | null; reason: string | null }[]> {
  return getDb().select(
    `SELECT r.id, r.closed_at AS closedAt, p.name AS \`by\`, r.outcome, r.outcome_reason AS reason
     FROM sheets r JOIN persons p ON p.id = r.closed_by
     WHERE r.machine_id = :machineId AND r.status <> 'open' AND r.id <> :sheetId ORDER BY r.opened_at DESC LIMIT 1`,
    values,
  );
}
