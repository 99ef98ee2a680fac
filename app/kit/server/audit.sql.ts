/** Statements of audit that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

import type { Change } from "./audit.server";

/** Joins. */
export function zoneOfMachine(values: { machineId: string }, tx?: Transaction): Promise<{ timeZone: string }[]> {
  return getDb().select<{ timeZone: string }>(
    "SELECT s.time_zone AS timeZone FROM machines m JOIN sites s ON s.id = m.site_id WHERE m.id = :machineId",
    values,
    tx,
  );
}

/** Joins, compares in the database. */
export function changesOf(
  values: { subject: string; subjectIds: readonly string[] },
  limit: number,
): Promise<Change[]> {
  return getDb().select<Change>(
    `SELECT a.at, COALESCE(p.name, '') AS \`by\`, a.action, a.details FROM audit_log a LEFT JOIN persons p ON p.id = a.by_person
     WHERE a.subject = :subject AND a.subject_id IN (:subjectIds) ORDER BY a.at DESC LIMIT ${limit}`,
    values,
  );
}
