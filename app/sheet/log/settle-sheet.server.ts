import { foldRun, must, type Procedure, runResults, type RunState } from "@core";
import { getDb, type SheetRow, type Transaction } from "@db";
import { v5 as uuidv5 } from "uuid";

import { assessMachine } from "~/duties/assess.server";
import { dayInZone } from "~/kit/days/site-day";
import { settleFound } from "~/wear/intervals/settle-found.server";
import { settleWear } from "~/wear/settle-wear.server";

import { settleFault } from "../find/settle-fault.server";
import { creditedDuties } from "./credits.server";
import { endCall } from "./end-call.server";
import { leaveDay } from "./leave-day.server";
import { storeSheetMinutes } from "./minutes.server";
import { usedResults } from "./park-values.server";
import { settleItems } from "./settle-items.server";
import { lastMeters, procedureOf, readEntries, type SheetContext } from "./sheet-context.server";
import * as sql from "./sheets.sql";

const OLD_METER = "Last value of the old meter";

/** Brings everything that follows from a closed sheet up to date: its row, completion, readings, and the machine's due days. */
export async function settleSheet(context: SheetContext, now: Date, tx: Transaction): Promise<void> {
  const db = getDb();
  const { sheet, duty, timeZone, options } = context;
  const procedure = await procedureOf(sheet, tx);
  const entries = await readEntries(sheet.id, tx);
  const state = foldRun(procedure, entries);
  if (state.status !== "signed" && state.status !== "ended") return;
  const closing = state.technicianSignature ?? must(state.outcome);
  const closedAt = new Date(closing.at);
  const doneOn = dayInZone(closedAt, timeZone);
  const closed = {
    status: state.status,
    openDutyId: null,
    closedAt,
    closedBy: closing.by,
    doneOn: state.status === "signed" ? doneOn : null,
    outcome: state.outcome?.outcome ?? null,
    outcomeReason: state.outcome?.reason ?? null,
    wearKept: true,
  };
  await db.models.Sheet.update(closed, { where: { id: sheet.id }, transaction: tx });
  sheet.status = state.status;
  const results = await usedResults(
    runResults(procedure, state, { options }),
    { sheet, procedure, timeZone, by: closing.by, now },
    tx,
  );
  const common = { machineId: sheet.machineId, byPerson: closing.by, sheetId: sheet.id };
  // A reading's id is its entry's id: settling again adds what came later, and takes over what was corrected. The value as
  // it was first logged stays in the log.
  await db.models.MeterReading.bulkCreate(
    results.meterReadings.flatMap((one) => {
      const row = {
        ...common,
        meter: one.meter,
        readOn: dayInZone(new Date(one.at), timeZone),
        source: "sheet" as const,
      };
      const { asked, value } = one;
      const replaced = asked?.answer === "replaced";
      const reading = { ...row, id: one.eventId, value, readAt: new Date(one.at), replaced };
      if (!replaced || asked.oldValue === undefined) return [reading];
      // What the old meter ended with is a reading of its own, just before.
      const old = { value: asked.oldValue, readAt: new Date(reading.readAt.getTime() - 1), note: OLD_METER };
      return [{ ...row, id: uuidv5(OLD_METER, one.eventId), ...old, replaced: false }, reading];
    }),
    { transaction: tx, updateOnDuplicate: ["value"] },
  );
  await db.models.Reading.bulkCreate(
    results.readings.map((one) => ({
      ...common,
      id: one.eventId,
      reading: one.reading,
      value: one.value,
      unit: one.unit,
      readOn: dayInZone(new Date(one.at), timeZone),
      readAt: new Date(one.at),
    })),
    { transaction: tx, updateOnDuplicate: ["value"] },
  );
  if (state.status === "signed") {
    await fillSlots(sheet, procedure, state, results.meters, tx);
    await storeSheetMinutes(
      [
        {
          sheetId: sheet.id,
          procedureId: sheet.procedureId,
          siteId: duty.siteId,
          personId: closing.by,
          doneOn,
          entries,
        },
      ],
      tx,
    );
    const credits = await creditedDuties(context, procedure, { entries, state }, tx);
    if (credits.length === 0) await db.models.Completion.destroy({ where: { id: sheet.id }, transaction: tx });
    else
      await db.models.Completion.bulkCreate(
        [
          {
            id: sheet.id,
            dutyId: duty.id,
            machineId: sheet.machineId,
            doneOn,
            meters: results.meters,
            sheetId: sheet.id,
            credits,
          },
        ],
        {
          transaction: tx,
          updateOnDuplicate: ["meters", "credits"],
        },
      );
  }
  if (state.status === "signed") {
    await settleFault(sheet, { procedure, state, siteId: duty.siteId, timeZone }, tx);
    await endCall(context, { procedure, state }, { by: closing.by, at: closedAt }, tx);
  } else await leaveDay(context, must(state.outcome), now, tx);
  await settleItems(context, { sheet, at: closedAt, by: closing.by, procedure, entries, state }, now, tx);
  await settleWear({ sheet, procedure, state, options, timeZone }, now, tx);
  await settleFound({ sheet, duty, procedure, state, options, timeZone }, now, tx);
  await assessMachine(sheet.machineId, now, tx);
  // What comes after in the same transaction sees the row as it is; what came before, whether it closed now or was closed.
  Object.assign(sheet, closed);
}

/** Brings the machine's slots up to what the sheet fitted and turned. */
async function fillSlots(
  sheet: SheetRow,
  procedure: Procedure,
  state: RunState,
  read: Record<string, number>,
  tx: Transaction,
): Promise<void> {
  const meters = JSON.stringify(
    state.parts.some((part) => part.turnedUsesLeft === null)
      ? { ...(await lastMeters(sheet.machineId, tx)), ...read }
      : {},
  );
  const uses = await usesOf(procedure, state, tx);
  for (const one of state.parts) {
    const row = { machineId: sheet.machineId, slot: one.slot, item: one.item, sheetId: sheet.id, at: new Date(one.at) };
    if (one.turnedUsesLeft === null) {
      await sql.fillSlots({ ...row, meters, usesLeft: uses.get(one.item) ?? 1, lot: one.lot }, tx);
    } else {
      await getDb().models.MachineSlot.update(
        { usesLeft: one.turnedUsesLeft, changedAt: row.at, sheetId: row.sheetId },
        { where: { machineId: row.machineId, slot: row.slot }, transaction: tx },
      );
    }
  }
}

/** Edges or sides of what was fitted: as the procedure says, of what it does not name by the catalogue. */
async function usesOf(procedure: Procedure, state: RunState, tx: Transaction): Promise<Map<string, number>> {
  const named = new Map(procedure.parts.map((part) => [part.item, part.uses ?? 1]));
  const others = [...new Set(state.parts.flatMap((part) => (named.has(part.item) ? [] : [part.item])))];
  if (others.length === 0) return named;
  const rows = await getDb().models.Item.findAll({
    attributes: ["id", "usesPerPiece"],
    where: { id: others },
    raw: true,
    transaction: tx,
  });
  return new Map([...named, ...rows.map((row) => [row.id, row.usesPerPiece] as const)]);
}
