import { getDb, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";

/** The site's time zone of a machine. */
export async function zoneOf(machineId: string): Promise<string> {
  const [row] = await getDb().select<{ timeZone: string }>(
    "SELECT s.time_zone AS timeZone FROM machines m JOIN sites s ON s.id = m.site_id WHERE m.id = :machineId",
    { machineId },
  );
  if (!row) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
  return row.timeZone;
}

/** Adds a line to the log of who changed what: old and new values stay readable there. */
export async function audit(
  by: Actor | null,
  subject: string,
  subjectId: string,
  action: string,
  details: object,
  now: Date,
  tx: Transaction,
): Promise<void> {
  await getDb().models.Audit.create(
    {
      id: uuidv7(),
      at: now,
      byPerson: by?.id ?? null,
      subject,
      subjectId,
      action,
      details: details as Record<string, unknown>,
    },
    { transaction: tx },
  );
}

export interface Change {
  at: Date;
  by: string;
  action: string;
  details: Record<string, unknown>;
}

/** What was changed about a subject, newest first. */
export async function changesOf(subject: string, subjectIds: readonly string[], limit = 30): Promise<Change[]> {
  if (subjectIds.length === 0) return [];
  return getDb().select<Change>(
    `SELECT a.at, COALESCE(p.name, '') AS \`by\`, a.action, a.details FROM audit_log a LEFT JOIN persons p ON p.id = a.by_person
     WHERE a.subject = :subject AND a.subject_id IN (:subjectIds) ORDER BY a.at DESC LIMIT ${limit}`,
    { subject, subjectIds },
  );
}
