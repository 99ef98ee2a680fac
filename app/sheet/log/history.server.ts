import { foldRun, must, type Procedure, type RunEvent, runResults } from "@core";
import { getDb, type MachineSlotRow } from "@db";

import { dayInZone } from "~/kit/days/site-day";
import { contentHash } from "~/kit/server/content-hash.server";
import { addAllToChain, vouchedFor } from "~/kit/server/record-chain.server";

import { storeSheetMinutes } from "./minutes.server";

/** A signed sheet from elsewhere, with everything that its records need. */
export interface PastSheet {
  sheetId: string;
  dutyId: string;
  machineId: string;
  options: string[];
  timeZone: string;
  /** Expanded, of the version worked on. */
  procedure: Procedure;
  entries: RunEvent[];
}

const CHUNK = 100;

/**
 * Takes over signed sheets in bulk, oldest first: rows, logs, readings, completions, slots and the chain of records, each
 * chunk in one transaction. The caller assesses the machines afterwards; unsafe findings of the past hold no machine.
 *
 * @throws when a sheet is not signed
 */
export async function storePastSheets(sheets: readonly PastSheet[], now: Date): Promise<void> {
  for (let from = 0; from < sheets.length; from += CHUNK) await storeChunk(sheets.slice(from, from + CHUNK), now);
}

async function storeChunk(sheets: readonly PastSheet[], now: Date): Promise<void> {
  const db = getDb();
  const { models } = db;
  const folded = sheets.map((sheet) => {
    const state = foldRun(sheet.procedure, sheet.entries);
    const signature = state.technicianSignature;
    if (signature === null) throw new Error(`The sheet ${sheet.sheetId} is not signed.`);
    const closedAt = new Date(signature.at);
    const { id: procedureId, version: procedureVersion } = sheet.procedure;
    return {
      ...sheet,
      procedureId,
      procedureVersion,
      state,
      signature,
      closedAt,
      doneOn: dayInZone(closedAt, sheet.timeZone),
      results: runResults(sheet.procedure, state, { options: sheet.options }),
    };
  });
  await db.transact(async (tx) => {
    const options = { transaction: tx };
    await models.Sheet.bulkCreate(
      folded.map((one) => ({
        id: one.sheetId,
        dutyId: one.dutyId,
        machineId: one.machineId,
        procedureId: one.procedureId,
        procedureVersion: one.procedureVersion,
        openedBy: one.state.startedBy ?? one.signature.by,
        openedAt: new Date(one.state.startedAt ?? one.signature.at),
        heldBy: null,
        status: "signed" as const,
        closedAt: one.closedAt,
        closedBy: one.signature.by,
        doneOn: one.doneOn,
        outcome: null,
        outcomeReason: null,
      })),
      options,
    );
    await models.LogEntry.bulkCreate(
      folded.flatMap((one) =>
        one.entries.map((entry) => ({
          id: entry.id,
          sheetId: one.sheetId,
          byPerson: entry.by,
          type: entry.type,
          body: entry,
          contentHash: contentHash(entry),
          receivedAt: now,
        })),
      ),
      options,
    );
    await models.MeterReading.bulkCreate(
      folded.flatMap((one) =>
        one.results.meterReadings.map((reading) => ({
          id: reading.eventId,
          machineId: one.machineId,
          meter: reading.meter,
          value: reading.value,
          readOn: dayInZone(new Date(reading.at), one.timeZone),
          readAt: new Date(reading.at),
          byPerson: one.signature.by,
          source: "sheet" as const,
          sheetId: one.sheetId,
        })),
      ),
      options,
    );
    await models.Reading.bulkCreate(
      folded.flatMap((one) =>
        one.results.readings.map((reading) => ({
          id: reading.eventId,
          machineId: one.machineId,
          reading: reading.reading,
          value: reading.value,
          unit: reading.unit,
          readOn: dayInZone(new Date(reading.at), one.timeZone),
          readAt: new Date(reading.at),
          byPerson: one.signature.by,
          sheetId: one.sheetId,
        })),
      ),
      options,
    );
    await models.Completion.bulkCreate(
      folded.map((one) => ({
        id: one.sheetId,
        dutyId: one.dutyId,
        machineId: one.machineId,
        doneOn: one.doneOn,
        meters: one.results.meters,
        sheetId: one.sheetId,
      })),
      options,
    );
    const slots = new Map<string, MachineSlotRow>();
    for (const one of folded) {
      for (const part of one.state.parts) {
        const key = `${one.machineId} ${part.slot}`;
        const at = new Date(part.at);
        const before = slots.get(key);
        const uses = one.procedure.parts.find((candidate) => candidate.item === part.item)?.uses ?? 1;
        const fresh = {
          machineId: one.machineId,
          slot: part.slot,
          item: part.item,
          usesLeft: uses,
          lot: part.lot,
          fittedAt: at,
          changedAt: at,
          sheetId: one.sheetId,
          meters: one.results.meters,
        };
        if (part.turnedUsesLeft === null) slots.set(key, fresh);
        else
          slots.set(key, { ...(before ?? fresh), usesLeft: part.turnedUsesLeft, changedAt: at, sheetId: one.sheetId });
      }
    }
    await models.MachineSlot.bulkCreate([...slots.values()], {
      ...options,
      updateOnDuplicate: ["item", "usesLeft", "lot", "fittedAt", "changedAt", "sheetId", "meters"],
    });
    const sites = new Map(
      (
        await db.models.Machine.findAll({
          attributes: ["id", "siteId"],
          where: { id: [...new Set(folded.map((one) => one.machineId))] },
          raw: true,
          transaction: tx,
        })
      ).map((row) => [row.id, row.siteId]),
    );
    await storeSheetMinutes(
      folded.map(({ sheetId, procedureId, machineId, doneOn, signature, entries }) => ({
        sheetId,
        procedureId,
        siteId: must(sites.get(machineId)),
        personId: signature.by,
        doneOn,
        entries,
      })),
      tx,
    );
    await addAllToChain(
      folded.map((one) => ({
        kind: "record" as const,
        subjectId: one.sheetId,
        content: { events: one.entries.map((entry) => entry.id) },
        vouched: vouchedFor(
          { id: one.sheetId, procedureId: one.procedureId, procedureVersion: one.procedureVersion },
          one.entries,
        ),
        at: one.closedAt,
      })),
      tx,
    );
  });
}
