import { getDb, type ProblemReportRow, type Transaction } from "@db";

import { callOut } from "~/duties/emergency.server";
import type { Actor } from "~/kit/actor";
import { clipped } from "~/kit/clipped";
import { firmDay } from "~/kit/days/firm-day.server";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";

import * as sql from "./reports.sql";

export type ReportView = Omit<ProblemReportRow, "linkId" | "closedBy" | "seenBy"> & {
  machineName: string;
  siteName: string;
  closedByName: string | null;
  seenByName: string | null;
  /** When and with whom the work that it became is planned. */
  plannedOn: string | null;
  plannedForName: string | null;
};

/** Minutes of a call before anybody has looked; common practice. */
const CALL_MINUTES = 45;
const TITLE_LENGTH = 150;

/** Makes work of a report: an emergency call on a person's day. Its operator is told, and it closes with the call's sheet. */
export async function makeWork(
  actor: Actor,
  input: { machineId: string; reportId: string; personId: string; on: string | null; answer: string },
  now: Date,
): Promise<string> {
  const { machineId, reportId, personId, answer } = input;
  if (personId !== actor.id && actor.role !== "lead")
    throw new Refusal(403, "not-yours", "A lead puts work on another person's day. Take it yourself, or ask one.");
  const { on: today } = await firmDay(now);
  const on = input.on ?? today;
  if (on < today) throw new Refusal(422, "on", "Choose today or a later day.");
  const db = getDb();
  return db.transact(async (tx) => {
    const report = await lockedReport(machineId, reportId, tx);
    if (report.workDutyId !== null)
      throw new Refusal(409, "work-already", "Somebody has made work of it meanwhile. Load the page again.");
    if (!(await db.models.Person.findOne({ where: { id: personId, active: true }, raw: true, transaction: tx })))
      throw new Refusal(422, "personId", "This colleague does not exist or is not active any more.");
    const title = `Emergency: ${clipped(report.text, TITLE_LENGTH)}`;
    const dutyId = await callOut(actor, machineId, { title, minutes: CALL_MINUTES, place: { on, personId } }, now, tx);
    await db.models.ProblemReport.update(
      { workDutyId: dutyId, answer, ...(report.seenAt ? {} : { seenBy: actor.id, seenAt: now }) },
      { where: { id: reportId }, transaction: tx },
    );
    return dutyId;
  });
}

async function lockedReport(machineId: string, id: string, tx: Transaction): Promise<ProblemReportRow> {
  const row = await getDb().models.ProblemReport.findOne({
    where: { id, machineId },
    raw: true,
    transaction: tx,
    lock: tx.LOCK.UPDATE,
  });
  if (!row) throw new Refusal(404, "no-such-report", "This report is not there any more.");
  if (row.closedAt !== null) throw new Refusal(409, "closed", "This report was closed meanwhile. Load the page again.");
  return row;
}

/** Tells the operator that a report was read, and what comes of it. */
export async function answerReport(
  actor: Actor,
  { machineId, reportId, answer }: { machineId: string; reportId: string; answer: string },
  now: Date,
): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    const report = await lockedReport(machineId, reportId, tx);
    const seen = report.seenAt ? {} : { seenBy: actor.id, seenAt: now };
    await db.models.ProblemReport.update({ answer, ...seen }, { where: { id: reportId }, transaction: tx });
  });
}

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
