import { getDb, type ProblemReportRow } from "@db";

import type { Actor } from "~/kit/actor";
import { audit } from "~/kit/server/audit.server";

export type ReportView = Omit<ProblemReportRow, "linkId" | "closedBy"> & {
  machineName: string;
  siteName: string;
  closedByName: string | null;
};

export const REPORT_COLUMNS = `r.id, r.machine_id AS machineId, r.name, r.text, r.stopped, r.photo_id AS photoId, r.logged_at AS loggedAt,
  r.closed_at AS closedAt, r.closed_note AS closedNote, m.name AS machineName, s.name AS siteName, p.name AS closedByName
  FROM problem_reports r JOIN machines m ON m.id = r.machine_id JOIN sites s ON s.id = m.site_id LEFT JOIN persons p ON p.id = r.closed_by`;

/** Problems that nobody has closed, machines that stand still first. */
export async function openReports(limit = 20): Promise<ReportView[]> {
  return getDb().select<ReportView>(
    `SELECT ${REPORT_COLUMNS} WHERE r.closed_at IS NULL ORDER BY r.stopped DESC, r.logged_at DESC LIMIT ${limit}`,
  );
}

export async function reportsOf(machineId: string): Promise<ReportView[]> {
  return getDb().select<ReportView>(
    `SELECT ${REPORT_COLUMNS} WHERE r.machine_id = :machineId ORDER BY r.closed_at IS NOT NULL, r.logged_at DESC LIMIT 10`,
    {
      machineId,
    },
  );
}

export async function closeReport(actor: Actor, machineId: string, id: string, note: string, now: Date): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    const [closed] = await db.models.ProblemReport.update(
      { closedBy: actor.id, closedAt: now, closedNote: note },
      { where: { id, machineId, closedAt: null }, transaction: tx },
    );
    if (closed === 1) await audit(actor, "machine", machineId, "report closed", { id, note }, now, tx);
  });
}

/** What operators ticked lately: the technician sees which daily duties were really done. */
export async function recentTicks(machineId: string): Promise<{ title: string; doneOn: string; name: string }[]> {
  return getDb().select(
    `SELECT p.title, t.done_on AS doneOn, t.name FROM operator_ticks t JOIN plans p ON p.id = t.plan_id
     WHERE t.machine_id = :machineId ORDER BY t.logged_at DESC LIMIT 14`,
    { machineId },
  );
}
