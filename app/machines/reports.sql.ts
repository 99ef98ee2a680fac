/** Statements of reports that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { ReportView } from "./reports.server";

/** Of one machine, the open ones first. */
export const REPORTS_SHOWN = 10;

export const REPORT_COLUMNS = `r.id, r.machine_id AS machineId, r.name, r.text, r.stopped, r.photo_id AS photoId, r.logged_at AS loggedAt,
  r.closed_at AS closedAt, r.closed_note AS closedNote, m.name AS machineName, s.name AS siteName, p.name AS closedByName,
  r.work_duty_id AS workDutyId, r.seen_at AS seenAt, r.answer, v.name AS seenByName, d.planned_on AS plannedOn, f.name AS plannedForName
  FROM problem_reports r JOIN machines m ON m.id = r.machine_id JOIN sites s ON s.id = m.site_id LEFT JOIN persons p ON p.id = r.closed_by
  LEFT JOIN persons v ON v.id = r.seen_by LEFT JOIN duties d ON d.id = r.work_duty_id LEFT JOIN persons f ON f.id = d.planned_for`;

/** Its shape varies. */
export function openReports(limit: number): Promise<ReportView[]> {
  return getDb().select<ReportView>(
    `SELECT ${REPORT_COLUMNS} WHERE r.closed_at IS NULL ORDER BY r.stopped DESC, r.logged_at DESC LIMIT ${limit}`,
  );
}

/** Its shape varies. */
export function reportsOfMachine(values: { machineId: string }): Promise<ReportView[]> {
  return getDb().select<ReportView>(
    `SELECT ${REPORT_COLUMNS} WHERE r.machine_id = :machineId ORDER BY r.closed_at IS NOT NULL, r.logged_at DESC, r.id LIMIT ${REPORTS_SHOWN}`,
    values,
  );
}

/** Joins. */
export function latestTicks(values: { machineId: string }): Promise<{ title: string; doneOn: string; name: string }[]> {
  return getDb().select<{ title: string; doneOn: string; name: string }>(
    `SELECT p.title, t.done_on AS doneOn, t.name FROM operator_ticks t JOIN duties p ON p.id = t.duty_id
     WHERE t.machine_id = :machineId ORDER BY t.logged_at DESC LIMIT 14`,
    values,
  );
}
