/** Statements of records that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { RecordRow } from "./records.server";

export const PAGE = 50;

/** Joins. */
export function closedSheets(
  values: Record<string, unknown>,
  before: { at: Date; id: string } | null,
): Promise<RecordRow[]> {
  return getDb().select<RecordRow>(
    `SELECT r.id, p.title, r.status, r.outcome, r.closed_at AS closedAt, r.done_on AS doneOn,
       m.name AS machineName, m.tag AS machineTag, s.name AS siteName, x.name AS personName
     FROM sheets r JOIN duties p ON p.id = r.duty_id JOIN machines m ON m.id = r.machine_id JOIN sites s ON s.id = m.site_id JOIN persons x ON x.id = r.closed_by
     WHERE r.closed_at IS NOT NULL ${before ? "AND (r.closed_at < :at OR (r.closed_at = :at AND r.id < :id))" : ""}
     ORDER BY r.closed_at DESC, r.id DESC LIMIT ${PAGE + 1}`,
    values,
  );
}
