import { asFoundOf, daysBetween, type Procedure, type RunState } from "@core";
import { type DutyRow, getDb, type SheetRow, type Transaction } from "@db";

import { dayInZone } from "~/kit/days/site-day";

import * as sql from "./intervals.sql";
import { proposeInterval } from "./propose-interval.server";
import { isTuned } from "./tuned-duties";

/**
 * Keeps how the machine was found at a service that a sheet signs for, anew where it is kept already, and proposes another interval
 * where that asks for one.
 */
export async function settleFound(
  of: {
    sheet: Pick<SheetRow, "id" | "machineId">;
    duty: Pick<DutyRow, "id" | "siteId" | "family" | "procedureId" | "who" | "rules">;
    procedure: Procedure;
    state: RunState;
    options: string[];
    timeZone: string;
  },
  now: Date,
  tx: Transaction,
): Promise<void> {
  const { sheet, duty, procedure, state, timeZone } = of;
  const signed = state.technicianSignature;
  if (!signed || !isTuned(duty)) return;
  const { models } = getDb();
  const said = asFoundOf(procedure, state, { options: of.options });
  if (!said) {
    // Taken back afterwards: then nothing is known.
    const gone = await models.AsFound.destroy({ where: { sheetId: sheet.id }, transaction: tx });
    if (gone > 0) await proposeInterval({ id: duty.id, machineId: sheet.machineId }, now, tx);
    return;
  }
  const foundAt = new Date(signed.at);
  const onDay = dayInZone(foundAt, timeZone);
  const { machineId } = sheet;
  const [before] = await sql.doneBefore({ machineId, dutyId: duty.id, sheetId: sheet.id, on: onDay }, tx);
  const after = before?.on ? daysBetween(before.on, onDay) : 0;
  await models.AsFound.upsert(
    {
      ...{ sheetId: sheet.id, dutyId: duty.id, machineId, siteId: duty.siteId },
      ...{ family: duty.family, procedureId: duty.procedureId, ...said, foundAt, onDay },
      // Twice on one day is no interval.
      afterDays: after > 0 ? after : null,
    },
    { transaction: tx },
  );
  await proposeInterval({ id: duty.id, machineId: sheet.machineId }, now, tx);
}
