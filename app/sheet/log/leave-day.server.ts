import type { RunState } from "@core";
import type { Transaction } from "@db";

import { dayInZone } from "~/kit/days/site-day";
import { audit } from "~/kit/server/audit.server";
import { endReservations } from "~/stores/ledger/end-reservations.server";

import type { SheetContext } from "./sheet-context.server";
import * as sql from "./sheets.sql";

/**
 * Takes a duty off its day when its visit ended without the work: for the day that was agreed, else for none. What was moved
 * meanwhile, and what is planned for later, stays.
 */
export async function leaveDay(
  { duty, sheet, timeZone }: SheetContext,
  { by, at, again }: NonNullable<RunState["outcome"]>,
  now: Date,
  tx: Transaction,
): Promise<void> {
  // Settled once: a correction of an ended sheet moves nothing.
  if (sheet.closedAt !== null || duty.plannedOn === null) return;
  if (duty.plannedOn > dayInZone(new Date(at), timeZone) && again === null) return;
  const moved = { on: again, personId: again === null ? null : duty.plannedFor };
  const changed = await sql.moveFrom({ dutyId: duty.id, from: duty.plannedOn, ...moved }, tx);
  if (changed === 0) return;
  await endReservations({ dutyId: duty.id }, "released", now, tx);
  await audit(
    {
      by: { id: by },
      subject: "duty",
      subjectId: duty.id,
      action: again === null ? "unplanned" : "planned",
      details: { old: { on: duty.plannedOn, personId: duty.plannedFor }, new: moved },
      now,
    },
    tx,
  );
}
