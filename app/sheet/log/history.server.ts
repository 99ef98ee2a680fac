import { foldRun, must, type Procedure, type RunEvent, runResults } from "@core";
import { getDb, type MachineSlotRow, type Transaction } from "@db";

import { dayInZone } from "~/kit/days/site-day";
import { contentHash } from "~/kit/server/content-hash.server";
import { addAllToChain, vouchedFor } from "~/kit/server/record-chain.server";
import { sheetTitle } from "~/sheet/sheet-title";
import { type ClosedSheet, storeSummaries } from "~/sheet/summaries/summaries.server";
import { fitMachines } from "~/wear/fit-lines.server";
import { foreseeMachines } from "~/wear/foresee.server";
import { keepWear } from "~/wear/settle-wear.server";

import { storeSheetMinutes } from "./minutes.server";
import { itemsOfPast } from "./settle-items.server";

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
 * chunk in one transaction; then what they leave open. The caller assesses the machines afterwards; unsafe findings of the past hold no machine.
 *
 * @throws when a sheet is not signed
 */
export async function storePastSheets(sheets: readonly PastSheet[], now: Date): Promise<void> {
  const worn = new Set<string>();
  for (let from = 0; from < sheets.length; from += CHUNK) await storeChunk(sheets.slice(from, from + CHUNK), worn, now);
  await fitMachines([...worn], now);
  await foreseeMachines([...worn], now);
  await itemsOfPast([...new Set(sheets.map((one) => one.machineId))], now);
}

/** A signed sheet folded, with what follows from it. */
function folded(sheet: PastSheet) {
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
}

type Folded = ReturnType<typeof folded>;

/** @param worn machines are added of whose parts something is said */
async function storeChunk(sheets: readonly PastSheet[], worn: Set<string>, now: Date): Promise<void> {
  const all = sheets.map(folded);
  await getDb().transact(async (tx) => {
    await storeLogs(all, now, tx);
    await storeResults(all, tx);
    await storeParts(all, tx);
    await storeMinutes(all, tx);
    await storeSummaries(await closedSheets(all, tx), tx);
    const sheets = all.map(({ sheetId: id, machineId, ...one }) => ({ ...one, sheet: { id, machineId } }));
    for (const id of await keepWear(sheets, tx)) worn.add(id);
    await addAllToChain(
      all.map((one) => ({
        kind: "record" as const,
        subjectId: one.sheetId,
        content: { events: one.entries.map((entry) => entry.id) },
        vouched: vouchedFor({ id: one.sheetId, ...one }, one.entries),
        at: one.closedAt,
      })),
      tx,
    );
  });
}

async function storeLogs(all: readonly Folded[], now: Date, transaction: Transaction): Promise<void> {
  const { models } = getDb();
  await models.Sheet.bulkCreate(
    all.map((one) => ({
      id: one.sheetId,
      dutyId: one.dutyId,
      machineId: one.machineId,
      procedureId: one.procedureId,
      procedureVersion: one.procedureVersion,
      openedBy: one.state.startedBy ?? one.signature.by,
      openedAt: new Date(one.state.startedAt ?? one.signature.at),
      heldBy: null,
      openDutyId: null,
      status: "signed" as const,
      closedAt: one.closedAt,
      closedBy: one.signature.by,
      doneOn: one.doneOn,
      outcome: null,
      outcomeReason: null,
      wearKept: true,
    })),
    { transaction },
  );
  await models.LogEntry.bulkCreate(
    all.flatMap((one) =>
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
    { transaction },
  );
}

async function storeResults(all: readonly Folded[], transaction: Transaction): Promise<void> {
  const { models } = getDb();
  const readAt = (one: Folded, at: string) => ({
    readOn: dayInZone(new Date(at), one.timeZone),
    readAt: new Date(at),
    byPerson: one.signature.by,
    sheetId: one.sheetId,
    machineId: one.machineId,
  });
  await models.MeterReading.bulkCreate(
    all.flatMap((one) =>
      one.results.meterReadings.map(({ eventId, meter, value, at }) => ({
        id: eventId,
        meter,
        value,
        source: "sheet" as const,
        ...readAt(one, at),
      })),
    ),
    { transaction },
  );
  await models.Reading.bulkCreate(
    all.flatMap((one) =>
      one.results.readings.map(({ eventId, reading, value, unit, at }) => ({
        id: eventId,
        reading,
        value,
        unit,
        ...readAt(one, at),
      })),
    ),
    { transaction },
  );
  await models.Completion.bulkCreate(
    all.map((one) => ({
      id: one.sheetId,
      dutyId: one.dutyId,
      machineId: one.machineId,
      doneOn: one.doneOn,
      meters: one.results.meters,
      sheetId: one.sheetId,
    })),
    { transaction },
  );
}

/** What sits in the machines' slots after all of it: the piece fitted last, with the uses it has left. */
async function storeParts(all: readonly Folded[], transaction: Transaction): Promise<void> {
  const slots = new Map<string, MachineSlotRow>();
  for (const one of all) {
    for (const part of one.state.parts) {
      const key = `${one.machineId} ${part.slot}`;
      const at = new Date(part.at);
      const fresh = {
        machineId: one.machineId,
        slot: part.slot,
        item: part.item,
        usesLeft: one.procedure.parts.find((candidate) => candidate.item === part.item)?.uses ?? 1,
        lot: part.lot,
        fittedAt: at,
        changedAt: at,
        sheetId: one.sheetId,
        meters: one.results.meters,
      };
      const turned = { usesLeft: part.turnedUsesLeft ?? 0, changedAt: at, sheetId: one.sheetId };
      slots.set(key, part.turnedUsesLeft === null ? fresh : { ...(slots.get(key) ?? fresh), ...turned });
    }
  }
  await getDb().models.MachineSlot.bulkCreate([...slots.values()], {
    transaction,
    updateOnDuplicate: ["item", "usesLeft", "lot", "fittedAt", "changedAt", "sheetId", "meters"],
  });
}

async function closedSheets(all: readonly Folded[], tx: Transaction): Promise<ClosedSheet[]> {
  const duties = await getDb().models.Duty.findAll({
    attributes: ["id", "title"],
    where: { id: [...new Set(all.map((one) => one.dutyId))] },
    raw: true,
    transaction: tx,
  });
  const titles = new Map(duties.map((row) => [row.id, row]));
  return all.map((one) => ({
    sheet: {
      id: one.sheetId,
      machineId: one.machineId,
      outcome: null,
      closedAt: one.closedAt,
      closedBy: one.signature.by,
    },
    procedure: one.procedure,
    title: sheetTitle(one.procedure, must(titles.get(one.dutyId))),
    options: one.options,
    timeZone: one.timeZone,
    entries: one.entries,
    late: [],
  }));
}

async function storeMinutes(all: readonly Folded[], tx: Transaction): Promise<void> {
  const machines = await getDb().models.Machine.findAll({
    attributes: ["id", "siteId"],
    where: { id: [...new Set(all.map((one) => one.machineId))] },
    raw: true,
    transaction: tx,
  });
  const sites = new Map(machines.map((row) => [row.id, row.siteId]));
  await storeSheetMinutes(
    all.map(({ sheetId, procedureId, machineId, doneOn, signature, entries }) => ({
      sheetId,
      procedureId,
      siteId: must(sites.get(machineId)),
      personId: signature.by,
      doneOn,
      entries,
    })),
    tx,
  );
}
