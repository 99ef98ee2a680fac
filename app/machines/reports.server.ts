import { getDb, type ProblemReportRow } from "@db";

import type { Actor } from "~/kit/actor";
import { audit } from "~/kit/server/audit.server";

import * as sql from "./reports.sql";

export type ReportView = Omit<ProblemReportRow, "linkId" | "closedBy"> & {
  machineName: string;
  siteName: string;
  closedByName: string | null;
};

/** Problems that nobody has closed, machines that stand still first. */
export async function openReports(limit = 20): Promise<ReportView[]> {
  return sql.openReports(limit);
}

export async function reportsOf(machineId: string): Promise<ReportView[]> {
  return sql.reportsOfMachine({
    machineId,
  });
}

export async function closeReport(actor: Actor, machineId: string, id: string, note: string, now: Date): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    const [closed] = await db.models.ProblemReport.update(
      { closedBy: actor.id, closedAt: now, closedNote: note },
      { where: { id, machineId, closedAt: null }, transaction: tx },
    );
    if (closed === 1)
      await audit(
        { by: actor, subject: "machine", subjectId: machineId, action: "report closed", details: { id, note }, now },
        tx,
      );
  });
}

/** What operators ticked lately: the technician sees which daily duties were really done. */
export async function recentTicks(machineId: string): Promise<{ title: string; doneOn: string; name: string }[]> {
  return sql.latestTicks({ machineId });
}
