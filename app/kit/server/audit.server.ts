import { getDb, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";

import * as sql from "./audit.sql";

/** The site's time zone of a machine. */
export async function zoneOf(machineId: string, tx?: Transaction): Promise<string> {
  const [row] = await sql.zoneOfMachine({ machineId }, tx);
  if (!row) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
  return row.timeZone;
}

/** Adds a line to the log of who changed what: old and new values stay readable there. */
export async function audit(
  what: {
    by: Pick<Actor, "id"> | null;
    subject: string;
    subjectId: string;
    action: string;
    details: object;
    now: Date;
  },
  tx: Transaction,
): Promise<void> {
  const { by, subject, subjectId, action, details, now } = what;
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
  return sql.changesOf({ subject, subjectIds }, limit);
}
