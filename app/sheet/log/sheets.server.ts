import {
  closesRun,
  type Correction,
  foldRun,
  instantMs,
  type MachineFacts,
  type MissingStep,
  missingSteps,
  must,
  type Procedure,
  type RunEvent,
  type RunEventBody,
  runResults,
  type RunState,
} from "@core";
import { type DutyRow, ER_DUP_ENTRY, errorNumber, getDb, type SheetRow, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import { assessMachine } from "~/duties/assess.server";
import { holdMachine } from "~/duties/holds.server";
import { type Actor, whyNotWork } from "~/kit/actor";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";
import { contentHash } from "~/kit/server/content-hash.server";
import { addToChain, vouchedFor } from "~/kit/server/record-chain.server";
import { personNames } from "~/people/people.server";
import { settleStock } from "~/stores/ledger/sheet-stock.server";

import { parseLogEntry } from "./log-entry-schema";
import { storeSheetMinutes } from "./minutes.server";
import * as sql from "./sheets.sql";

/** Most entries one batch may hold; a device that was away for long sends several. */
export const MAX_BATCH_ENTRIES = 200;
/** Most bytes one batch may have. */
export const MAX_BATCH_BYTES = 256 * 1024;
/** A device's clock may be this far ahead of the server's. */
const CLOCK_SLACK_MS = Number(process.env.HOUND_CLOCK_SLACK_MIN ?? 10) * 60_000;

export interface BatchResult {
  /** Ids that are in the log now, those that were there before included. */
  accepted: string[];
  refused: { id: string | null; code: string; message: string }[];
  status: SheetRow["status"];
}

interface SheetContext {
  sheet: SheetRow;
  duty: DutyRow;
  timeZone: string;
  options: string[];
}

/**
 * Adds a batch of entries to a sheet's log. Sending it again changes nothing; each entry is taken or refused by itself,
 * with the reason. A batch that begins with `started` opens the sheet.
 */
export async function appendEntries(
  actor: Actor,
  sheetId: string,
  rawEntries: unknown[],
  now: Date,
): Promise<BatchResult> {
  if (rawEntries.length > MAX_BATCH_ENTRIES) {
    throw new Refusal(
      413,
      "batch-too-big",
      `A batch holds at most ${MAX_BATCH_ENTRIES} entries, this one has ${rawEntries.length}. Send it in parts.`,
    );
  }
  const refused: BatchResult["refused"] = [];
  const entries: RunEvent[] = [];
  for (const raw of rawEntries) {
    const { entry, fault } = parseLogEntry(raw);
    const refusal = fault ? { code: "not-valid", message: fault } : whyNotTake(must(entry), actor, sheetId, now);
    if (refusal) refused.push({ id: (raw as { id?: string } | null)?.id ?? null, ...refusal });
    else entries.push(must(entry));
  }
  const result = await storeEntries(actor, sheetId, entries, now);
  return { ...result, refused: [...refused, ...result.refused] };
}

/** What can be judged from the entry alone. */
function whyNotTake(
  entry: RunEvent,
  actor: Actor,
  sheetId: string,
  now: Date,
): { code: string; message: string } | null {
  if (entry.runId !== sheetId) return { code: "other-sheet", message: "This entry belongs to another sheet." };
  if (entry.by !== actor.id)
    return {
      code: "not-yours",
      message: "This was logged by another person: they must sign in on this device to send it.",
    };
  if (Date.parse(entry.at) > now.getTime() + CLOCK_SLACK_MS) {
    return {
      code: "clock",
      message: "This device's clock is ahead of the server's. Set the clock; nothing logged is lost.",
    };
  }
  if (entry.type === "signed" && entry.role === "technician") {
    return { code: "not-this-way", message: "A technician signs on the sheet's own page, with the password." };
  }
  return null;
}

/** Stores valid entries in one transaction and, when they close the sheet, what follows from it. */
async function storeEntries(actor: Actor, sheetId: string, entries: RunEvent[], now: Date): Promise<BatchResult> {
  const db = getDb();
  const work = (): Promise<BatchResult> =>
    db.transact(async (tx) => {
      const context = await openOrFind(actor, sheetId, entries, now, tx);
      const known = new Map(
        entries.length === 0
          ? []
          : (
              await db.models.LogEntry.findAll({
                attributes: ["id", "contentHash"],
                where: { id: entries.map((entry) => entry.id) },
                raw: true,
                transaction: tx,
              })
            ).map((row) => [row.id, row.contentHash]),
      );
      const accepted: string[] = [];
      const refused: BatchResult["refused"] = [];
      const fresh: { entry: RunEvent; hash: string }[] = [];
      for (const entry of entries) {
        const hash = contentHash(entry);
        const before = known.get(entry.id);
        if (before !== undefined && before !== hash) {
          refused.push({
            id: entry.id,
            code: "id-taken",
            message:
              "This id is in the log already with other content. The logged fact stays; log a correction instead.",
          });
          continue;
        }
        const refusal = before === undefined ? await whyNotAppend(entry, actor, context, tx) : null;
        if (refusal) {
          refused.push({ id: entry.id, ...refusal });
          continue;
        }
        accepted.push(entry.id);
        if (before === undefined) {
          known.set(entry.id, hash);
          fresh.push({ entry, hash });
        }
      }
      if (fresh.length > 0) {
        await db.models.LogEntry.bulkCreate(
          fresh.map(({ entry, hash }) => ({
            id: entry.id,
            sheetId,
            byPerson: actor.id,
            type: entry.type,
            body: entry,
            contentHash: hash,
            receivedAt: now,
          })),
          { transaction: tx },
        );
        await takeEffect(
          context,
          fresh.map(({ entry }) => entry),
          tx,
        );
        await settleStock(
          context.sheet,
          fresh.map(({ entry }) => entry),
          {
            procedure: () => procedureOf(context.sheet, tx),
            entries: () => readEntries(sheetId, tx),
            timeZone: context.timeZone,
          },
          now,
          tx,
        );
        const wasOpen = context.sheet.status === "open";
        if (!wasOpen || fresh.some(({ entry }) => closesRun(entry))) await settleSheet(context, now, tx);
        if (wasOpen && context.sheet.status === "signed")
          await vouch("record", context.sheet, await readEntries(sheetId, tx), now, tx);
        else if (!wasOpen)
          await vouch(
            "addition",
            context.sheet,
            fresh.map(({ entry }) => entry),
            now,
            tx,
          );
      }
      return { accepted, refused, status: context.sheet.status };
    });
  try {
    return await work();
  } catch (error) {
    // Another request stored one of these entries between our look and our insert: look again, it is known now.
    if (errorNumber(error) === ER_DUP_ENTRY) return work();
    throw error;
  }
}

/** What does not wait for the signature: an unsafe finding stops the machine at once, and a sheet changes hands. */
async function takeEffect(context: SheetContext, entries: RunEvent[], tx: Transaction): Promise<void> {
  const { sheet } = context;
  for (const entry of entries) {
    if (entry.type === "finding" && entry.severity === "unsafe") {
      await holdMachine(
        {
          machineId: sheet.machineId,
          reason: entry.text,
          sheetId: sheet.id,
          entryId: entry.id,
          byPerson: entry.by,
          since: new Date(entry.at),
        },
        tx,
      );
    }
    if (entry.type === "handed-over" && sheet.status === "open") {
      await getDb().models.Sheet.update({ heldBy: entry.to }, { where: { id: sheet.id }, transaction: tx });
    }
  }
}

async function vouch(
  kind: "record" | "addition",
  sheet: SheetRow,
  entries: RunEvent[],
  now: Date,
  tx: Transaction,
): Promise<void> {
  await addToChain(kind, sheet.id, { events: entries.map((entry) => entry.id) }, vouchedFor(sheet, entries), now, tx);
}

/** The sheet, locked; opened by a `started` entry when it is new. */
async function openOrFind(
  actor: Actor,
  sheetId: string,
  entries: RunEvent[],
  now: Date,
  tx: Transaction,
): Promise<SheetContext> {
  const db = getDb();
  const [locked] = await db.models.Sheet.findAll({
    attributes: ["id"],
    where: { id: sheetId },
    lock: tx.LOCK.UPDATE,
    raw: true,
    transaction: tx,
  });
  if (!locked) {
    const started = entries.find((entry) => entry.type === "started");
    if (!started) throw new Refusal(404, "no-such-run", "This sheet does not exist. Open it from the duty.");
    const duty = await db.models.Duty.findByPk(started.planId, { raw: true, transaction: tx });
    if (!duty || duty.procedureId !== started.procedureId)
      throw new Refusal(404, "no-such-duty", "This duty does not exist any more. Go back to the round.");
    const [procedure] = await db.models.Procedure.findAll({
      attributes: ["id"],
      where: { id: started.procedureId, version: started.procedureVersion },
      raw: true,
      transaction: tx,
    });
    if (!procedure)
      throw new Refusal(
        404,
        "no-such-procedure",
        `Version ${started.procedureVersion} of this procedure does not exist.`,
      );
    await db.models.Sheet.create(
      {
        id: sheetId,
        dutyId: duty.id,
        machineId: duty.machineId,
        procedureId: started.procedureId,
        procedureVersion: started.procedureVersion,
        openedBy: actor.id,
        heldBy: actor.id,
        openedAt: new Date(started.at),
        status: "open",
      },
      { transaction: tx },
    );
  }
  const context = await sheetContext(sheetId, tx);
  const reason = whyNotWork(actor, context.duty, dayInZone(now, context.timeZone));
  if (reason) throw new Refusal(403, "not-authorised", reason);
  return context;
}

async function sheetContext(sheetId: string, tx?: Transaction): Promise<SheetContext> {
  const db = getDb();
  const transaction = tx ?? null;
  const sheet = await db.models.Sheet.findByPk(sheetId, { raw: true, transaction });
  if (!sheet) throw new Refusal(404, "no-such-run", "This sheet does not exist.");
  const duty = await db.models.Duty.findByPk(sheet.dutyId, { raw: true, transaction });
  const [machine] = await sql.machineWithSite({ id: sheet.machineId }, tx);
  return { sheet, duty: must(duty), timeZone: must(machine).timeZone, options: must(machine).options };
}

/** The version that the sheet is bound to. Not part of the context: a tap does not need it. */
async function procedureOf(sheet: SheetRow, tx?: Transaction): Promise<Procedure> {
  const { procedureId: id, procedureVersion: version } = sheet;
  const row = await getDb().models.Procedure.findOne({ where: { id, version }, raw: true, transaction: tx ?? null });
  return must(row).expanded ?? must(row).body;
}

/** What can be judged only with the log: undo and correction are for one's own facts, or for a lead. */
async function whyNotAppend(
  entry: RunEvent,
  actor: Actor,
  context: SheetContext,
  tx: Transaction,
): Promise<{ code: string; message: string } | null> {
  if (
    entry.type === "handed-over" &&
    !(await getDb().models.Person.findOne({ where: { id: entry.to, active: true }, raw: true, transaction: tx }))
  )
    return {
      code: "no-such-person",
      message: "This colleague does not exist or is not active any more. Choose another.",
    };
  if (entry.type === "started" && context.sheet.openedBy !== actor.id)
    return { code: "already-open", message: "This sheet is open already." };
  if (entry.type !== "undone" && entry.type !== "corrected") return null;
  const [target] = await getDb().models.LogEntry.findAll({
    attributes: ["byPerson", "type", "sheetId"],
    where: { id: entry.ref },
    raw: true,
    transaction: tx,
  });
  // The fact it names may still be on its way from another device.
  if (!target) return null;
  if (target.sheetId !== entry.runId)
    return { code: "other-sheet", message: "The fact it names belongs to another sheet." };
  if (target.byPerson !== actor.id && actor.role !== "lead")
    return { code: "not-yours", message: "Another person logged that. Ask them or a lead to take it back." };
  if (entry.type === "undone" && (target.type === "signed" || target.type === "outcome"))
    return { code: "closed", message: "A signed or ended sheet stays as it is. Log a correction instead." };
  return null;
}

async function readEntries(sheetId: string, tx?: Transaction): Promise<RunEvent[]> {
  const rows = await getDb().models.LogEntry.findAll({
    attributes: ["body"],
    where: { sheetId },
    order: ["seq"],
    raw: true,
    transaction: tx,
  });
  return rows.map((row) => row.body);
}

/** Brings everything that follows from a closed sheet up to date: its row, completion, readings, and the machine's due days. */
async function settleSheet(context: SheetContext, now: Date, tx: Transaction): Promise<void> {
  const db = getDb();
  const { sheet, duty, timeZone, options } = context;
  const procedure = await procedureOf(sheet, tx);
  const entries = await readEntries(sheet.id, tx);
  const state = foldRun(procedure, entries);
  if (state.status !== "signed" && state.status !== "ended") return;
  const closing = state.technicianSignature ?? must(state.outcome);
  const closedAt = new Date(closing.at);
  const doneOn = dayInZone(closedAt, timeZone);
  sheet.status = state.status;
  await db.models.Sheet.update(
    {
      status: state.status,
      closedAt,
      closedBy: closing.by,
      doneOn: state.status === "signed" ? doneOn : null,
      outcome: state.outcome?.outcome ?? null,
      outcomeReason: state.outcome?.reason ?? null,
    },
    { where: { id: sheet.id }, transaction: tx },
  );
  const results = runResults(procedure, state, { options });
  const common = { machineId: sheet.machineId, byPerson: closing.by, sheetId: sheet.id };
  // A reading's id is its entry's id: settling again adds what came later, and takes over what was corrected. The value as
  // it was first logged stays in the log.
  await db.models.MeterReading.bulkCreate(
    results.meterReadings.map((one) => ({
      ...common,
      id: one.eventId,
      meter: one.meter,
      value: one.value,
      readOn: dayInZone(new Date(one.at), timeZone),
      readAt: new Date(one.at),
      source: "sheet" as const,
    })),
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
    await db.models.Completion.bulkCreate(
      [
        {
          id: sheet.id,
          dutyId: duty.id,
          machineId: sheet.machineId,
          doneOn,
          meters: results.meters,
          sheetId: sheet.id,
        },
      ],
      {
        transaction: tx,
        updateOnDuplicate: ["meters"],
      },
    );
  }
  await assessMachine(sheet.machineId, now, tx);
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
  const uses = new Map(procedure.parts.map((part) => [part.item, part.uses ?? 1]));
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

/** Face values of a machine's meters, the last of each. */
async function lastMeters(machineId: string, tx: Transaction): Promise<Record<string, number>> {
  const rows = await sql.lastMeters({ machineId }, tx);
  return Object.fromEntries(rows.map((row) => [row.meter, row.value]));
}

/** What is in a machine's slots, as a sheet asks for it. */
export async function slotsOf(machineId: string): Promise<NonNullable<MachineFacts["slots"]>> {
  const rows = await getDb().models.MachineSlot.findAll({ where: { machineId }, raw: true });
  return Object.fromEntries(rows.map(({ slot, item, usesLeft }) => [slot, { item, usesLeft }]));
}

/** Opens a sheet for a duty: its id. An open sheet of the same duty is gone on with. */
export async function openSheet(actor: Actor, dutyId: string, device: string, now: Date): Promise<string> {
  const db = getDb();
  const [open] = await db.models.Sheet.findAll({
    attributes: ["id"],
    where: { dutyId, status: "open" },
    order: [["openedAt", "DESC"]],
    limit: 1,
    raw: true,
  });
  if (open) return open.id;
  const duty = await db.models.Duty.findByPk(dutyId, { raw: true });
  if (!duty) throw new Refusal(404, "no-such-duty", "This duty does not exist. Go back to the round.");
  const [latest] = await sql.newestVersion({ id: duty.procedureId });
  const sheetId = uuidv7();
  const started = entry(actor, sheetId, device, now, {
    type: "started",
    planId: dutyId,
    procedureId: duty.procedureId,
    procedureVersion: must(latest).version,
  });
  await storeEntries(actor, sheetId, [started], now);
  return sheetId;
}

function entry(actor: Actor, sheetId: string, device: string, at: Date, body: RunEventBody): RunEvent {
  return { id: uuidv7(), runId: sheetId, at: at.toISOString(), by: actor.id, device, ...body };
}

/**
 * Logs what reads otherwise than it was logged: the old value stays readable, a signed record gets an addition of its own in
 * the chain of records.
 */
export async function correctFact(
  actor: Actor,
  sheetId: string,
  input: { ref: string; set: Correction; why: string },
  now: Date,
): Promise<void> {
  const { refused } = await storeEntries(
    actor,
    sheetId,
    [entry(actor, sheetId, "browser", now, { type: "corrected", ...input })],
    now,
  );
  if (refused[0]) throw new Refusal(409, refused[0].code, refused[0].message);
}

export type CustomerSignature =
  | { method: "drawn"; name: string; drawing: string }
  | { method: "typed"; name: string }
  | { method: "not-present"; reason: string };

/**
 * Closes a sheet with the customer's and the technician's signature. The caller has checked the password.
 *
 * @returns what is missing when the sheet is not complete and no reason was given; nothing is signed then
 */
export async function signSheet(
  actor: Actor,
  sheetId: string,
  input: { customer: CustomerSignature; missingReason: string | null; device: string },
  now: Date,
): Promise<{ signed: true } | { signed: false; missing: MissingStep[] }> {
  const context = await sheetContext(sheetId);
  const procedure = await procedureOf(context.sheet);
  const entries = await readEntries(sheetId);
  const state = foldRun(procedure, entries);
  if (state.status === "signed") return { signed: true };
  if (state.status === "ended")
    throw new Refusal(409, "ended", "This sheet was ended without the work. Open a new one from the duty.");
  const missing = missingSteps(procedure, state, { options: context.options });
  if (missing.length > 0 && !input.missingReason) return { signed: false, missing };

  // A device's clock may be ahead: the signature still comes after everything it signs.
  const at = new Date(Math.max(now.getTime(), ...entries.map((one) => instantMs(one.at, "at") + 1)));
  const signatures = [
    entry(actor, sheetId, input.device, at, { type: "signed", role: "customer", ...input.customer }),
    entry(actor, sheetId, input.device, at, {
      type: "signed",
      role: "technician",
      name: actor.name,
      method: "password",
      eventCount: entries.length,
      ...(missing.length > 0 && input.missingReason ? { missingReason: input.missingReason } : {}),
    }),
  ];
  await storeEntries(actor, sheetId, signatures, now);
  return { signed: true };
}

export interface SheetView {
  sheet: SheetRow;
  duty: DutyRow;
  procedure: Procedure;
  timeZone: string;
  machine: {
    id: string;
    name: string;
    tag: string;
    family: string;
    area: string;
    maker: string;
    model: string;
    serial: string;
    options: string[];
    siteName: string;
    customerName: string;
    address: string;
  };
  /** What is in the machine's slots now. */
  slots: NonNullable<MachineFacts["slots"]>;
  entries: RunEvent[];
  persons: Record<string, string>;
}

/** A sheet with its whole log. */
export async function loadSheet(sheetId: string): Promise<SheetView> {
  const context = await sheetContext(sheetId);
  const [machine] = await sql.machineOfSheet({ id: context.sheet.machineId });
  const entries = await readEntries(sheetId);
  const persons = await personNames([...entries.map((one) => one.by), context.sheet.openedBy]);
  return {
    sheet: context.sheet,
    duty: context.duty,
    procedure: await procedureOf(context.sheet),
    timeZone: context.timeZone,
    machine: must(machine),
    slots: await slotsOf(context.sheet.machineId),
    entries,
    persons,
  };
}

/**
 * The log, if it holds another number of entries than the caller has. Counting, not a cursor: on a cluster, sequence
 * numbers do not come in the order of commits.
 */
export async function entriesUnlessKnown(sheetId: string, have: number): Promise<RunEvent[] | null> {
  return (await getDb().models.LogEntry.count({ where: { sheetId } })) === have ? null : readEntries(sheetId);
}

export type { RunState };

/** The last few values of every reading and meter of a machine, oldest first: ghosts for the limit ruler. */
export async function recentValues(machineId: string): Promise<Record<string, number[]>> {
  const rows = await sql.recentValues({ machineId });
  const values: Record<string, number[]> = {};
  for (const { name, value } of rows) (values[name] ??= []).push(value);
  return values;
}
