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

/** A join, and sums by conditions: when the person who closed a sheet came to its site before that and left it after, that day. */
export function timeOnSite(values: {
  personId: string;
  siteId: string;
  closedAt: Date;
  on: string;
}): Promise<{ arrivedAt: Date | null; leftAt: Date | null }[]> {
  return getDb().select(
    `SELECT MAX(CASE WHEN e.type = 'arrived' AND e.at <= :closedAt THEN e.at END) AS arrivedAt,
       MIN(CASE WHEN e.type = 'left' AND e.at >= :closedAt THEN e.at END) AS leftAt
     FROM day_events e JOIN days d ON d.id = e.day_id
     WHERE d.person_id = :personId AND d.on_day = :on AND e.site_id = :siteId AND e.type IN ('arrived', 'left')
       AND NOT EXISTS (SELECT 1 FROM day_events u WHERE u.day_id = e.day_id AND u.type = 'undone' AND JSON_VALUE(u.body, '$.ref') = e.id)`,
    values,
  );
}
