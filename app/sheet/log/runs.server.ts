import {
  closesRun,
  type Correction,
  foldRun,
  instantMs,
  type MachineFacts,
  type MissingStep,
  missingSteps,
  type Procedure,
  type RunEvent,
  type RunEventBody,
  runResults,
  type RunState,
} from "@core";
import { ER_DUP_ENTRY, errorNumber, getDb, type PlanRow, type RunRow, type Transaction } from "@db";
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

import { storeRunMinutes } from "./minutes.server";
import { parseRunEvent } from "./run-event-schema";
import * as sql from "./runs.sql";

/** Most events one batch may hold; a device that was away for long sends several. */
export const MAX_BATCH_EVENTS = 200;
/** Most bytes one batch may have. */
export const MAX_BATCH_BYTES = 256 * 1024;
/** A device's clock may be this far ahead of the server's. */
const CLOCK_SLACK_MS = Number(process.env.HOUND_CLOCK_SLACK_MIN ?? 10) * 60_000;

export interface BatchResult {
  /** Ids that are in the log now, those that were there before included. */
  accepted: string[];
  refused: { id: string | null; code: string; message: string }[];
  status: RunRow["status"];
}

interface RunContext {
  run: RunRow;
  plan: PlanRow;
  timeZone: string;
  options: string[];
}

/**
 * Adds a batch of events to a run's log. Sending it again changes nothing; each event is taken or refused by itself,
 * with the reason. A batch that begins with `started` opens the run.
 */
export async function appendEvents(actor: Actor, runId: string, rawEvents: unknown[], now: Date): Promise<BatchResult> {
  if (rawEvents.length > MAX_BATCH_EVENTS) {
    throw new Refusal(
      413,
      "batch-too-big",
      `A batch holds at most ${MAX_BATCH_EVENTS} events, this one has ${rawEvents.length}. Send it in parts.`,
    );
  }
  const refused: BatchResult["refused"] = [];
  const events: RunEvent[] = [];
  for (const raw of rawEvents) {
    const { event, fault } = parseRunEvent(raw);
    const refusal = fault ? { code: "not-valid", message: fault } : whyNotTake(event!, actor, runId, now);
    if (refusal) refused.push({ id: (raw as { id?: string } | null)?.id ?? null, ...refusal });
    else events.push(event!);
  }
  const result = await storeEvents(actor, runId, events, now);
  return { ...result, refused: [...refused, ...result.refused] };
}

/** What can be judged from the event alone. */
function whyNotTake(event: RunEvent, actor: Actor, runId: string, now: Date): { code: string; message: string } | null {
  if (event.runId !== runId) return { code: "other-run", message: "This event belongs to another sheet." };
  if (event.by !== actor.id)
    return {
      code: "not-yours",
      message: "This was logged by another person: they must sign in on this device to send it.",
    };
  if (Date.parse(event.at) > now.getTime() + CLOCK_SLACK_MS) {
    return {
      code: "clock",
      message: "This device's clock is ahead of the server's. Set the clock; nothing logged is lost.",
    };
  }
  if (event.type === "signed" && event.role === "technician") {
    return { code: "not-this-way", message: "A technician signs on the sheet's own page, with the password." };
  }
  return null;
}

/** Stores valid events in one transaction and, when they close the run, what follows from it. */
async function storeEvents(actor: Actor, runId: string, events: RunEvent[], now: Date): Promise<BatchResult> {
  const db = getDb();
  const work = (): Promise<BatchResult> =>
    db.transact(async (tx) => {
      const context = await openOrFind(actor, runId, events, now, tx);
      const known = new Map(
        events.length === 0
          ? []
          : (
              await db.models.RunEvent.findAll({
                attributes: ["id", "contentHash"],
                where: { id: events.map((event) => event.id) },
                raw: true,
                transaction: tx,
              })
            ).map((row) => [row.id, row.contentHash]),
      );
      const accepted: string[] = [];
      const refused: BatchResult["refused"] = [];
      const fresh: { event: RunEvent; hash: string }[] = [];
      for (const event of events) {
        const hash = contentHash(event);
        const before = known.get(event.id);
        if (before !== undefined && before !== hash) {
          refused.push({
            id: event.id,
            code: "id-taken",
            message:
              "This id is in the log already with other content. The logged fact stays; log a correction instead.",
          });
          continue;
        }
        const refusal = before === undefined ? await whyNotAppend(event, actor, context, tx) : null;
        if (refusal) {
          refused.push({ id: event.id, ...refusal });
          continue;
        }
        accepted.push(event.id);
        if (before === undefined) {
          known.set(event.id, hash);
          fresh.push({ event, hash });
        }
      }
      if (fresh.length > 0) {
        await db.models.RunEvent.bulkCreate(
          fresh.map(({ event, hash }) => ({
            id: event.id,
            runId,
            byPerson: actor.id,
            type: event.type,
            body: event,
            contentHash: hash,
            receivedAt: now,
          })),
          { transaction: tx },
        );
        await takeEffect(
          context,
          fresh.map(({ event }) => event),
          tx,
        );
        await settleStock(
          context.run,
          fresh.map(({ event }) => event),
          {
            procedure: () => procedureOf(context.run, tx),
            events: () => readEvents(runId, tx),
            timeZone: context.timeZone,
          },
          now,
          tx,
        );
        const wasOpen = context.run.status === "open";
        if (!wasOpen || fresh.some(({ event }) => closesRun(event))) await settleRun(context, now, tx);
        if (wasOpen && context.run.status === "signed")
          await vouch("record", context.run, await readEvents(runId, tx), now, tx);
        else if (!wasOpen)
          await vouch(
            "addition",
            context.run,
            fresh.map(({ event }) => event),
            now,
            tx,
          );
      }
      return { accepted, refused, status: context.run.status };
    });
  try {
    return await work();
  } catch (error) {
    // Another request stored one of these events between our look and our insert: look again, it is known now.
    if (errorNumber(error) === ER_DUP_ENTRY) return work();
    throw error;
  }
}

/** What does not wait for the signature: an unsafe finding stops the machine at once, and a sheet changes hands. */
async function takeEffect(context: RunContext, events: RunEvent[], tx: Transaction): Promise<void> {
  const { run } = context;
  for (const event of events) {
    if (event.type === "finding" && event.severity === "unsafe") {
      await holdMachine(
        {
          machineId: run.machineId,
          reason: event.text,
          runId: run.id,
          eventId: event.id,
          byPerson: event.by,
          since: new Date(event.at),
        },
        tx,
      );
    }
    if (event.type === "handed-over" && run.status === "open") {
      await getDb().models.Run.update({ heldBy: event.to }, { where: { id: run.id }, transaction: tx });
    }
  }
}

async function vouch(
  kind: "record" | "addition",
  run: RunRow,
  events: RunEvent[],
  now: Date,
  tx: Transaction,
): Promise<void> {
  await addToChain(kind, run.id, { events: events.map((event) => event.id) }, vouchedFor(run, events), now, tx);
}

/** The run, locked; opened by a `started` event when it is new. */
async function openOrFind(
  actor: Actor,
  runId: string,
  events: RunEvent[],
  now: Date,
  tx: Transaction,
): Promise<RunContext> {
  const db = getDb();
  const [locked] = await db.models.Run.findAll({
    attributes: ["id"],
    where: { id: runId },
    lock: tx.LOCK.UPDATE,
    raw: true,
    transaction: tx,
  });
  if (!locked) {
    const started = events.find((event) => event.type === "started");
    if (!started) throw new Refusal(404, "no-such-run", "This sheet does not exist. Open it from the duty.");
    const plan = await db.models.Plan.findByPk(started.planId, { raw: true, transaction: tx });
    if (!plan || plan.procedureId !== started.procedureId)
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
    await db.models.Run.create(
      {
        id: runId,
        planId: plan.id,
        machineId: plan.machineId,
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
  const context = await runContext(runId, tx);
  const reason = whyNotWork(actor, context.plan, dayInZone(now, context.timeZone));
  if (reason) throw new Refusal(403, "not-authorised", reason);
  return context;
}

async function runContext(runId: string, tx?: Transaction): Promise<RunContext> {
  const db = getDb();
  const transaction = tx ?? null;
  const run = await db.models.Run.findByPk(runId, { raw: true, transaction });
  if (!run) throw new Refusal(404, "no-such-run", "This sheet does not exist.");
  const plan = await db.models.Plan.findByPk(run.planId, { raw: true, transaction });
  const [machine] = await sql.machines({ id: run.machineId }, tx);
  return { run, plan: plan!, timeZone: machine!.timeZone, options: machine!.options };
}

/** The version that the run is bound to. Not part of the context: a tap does not need it. */
async function procedureOf(run: RunRow, tx?: Transaction): Promise<Procedure> {
  const { procedureId: id, procedureVersion: version } = run;
  const row = await getDb().models.Procedure.findOne({ where: { id, version }, raw: true, transaction: tx ?? null });
  return row!.expanded ?? row!.body;
}

/** What can be judged only with the log: undo and correction are for one's own facts, or for a lead. */
async function whyNotAppend(
  event: RunEvent,
  actor: Actor,
  context: RunContext,
  tx: Transaction,
): Promise<{ code: string; message: string } | null> {
  if (
    event.type === "handed-over" &&
    !(await getDb().models.Person.findOne({ where: { id: event.to, active: true }, raw: true, transaction: tx }))
  )
    return {
      code: "no-such-person",
      message: "This colleague does not exist or is not active any more. Choose another.",
    };
  if (event.type === "started" && context.run.openedBy !== actor.id)
    return { code: "already-open", message: "This sheet is open already." };
  if (event.type !== "undone" && event.type !== "corrected") return null;
  const [target] = await getDb().models.RunEvent.findAll({
    attributes: ["byPerson", "type", "runId"],
    where: { id: event.ref },
    raw: true,
    transaction: tx,
  });
  // The fact it names may still be on its way from another device.
  if (!target) return null;
  if (target.runId !== event.runId)
    return { code: "other-run", message: "The fact it names belongs to another sheet." };
  if (target.byPerson !== actor.id && actor.role !== "lead")
    return { code: "not-yours", message: "Another person logged that. Ask them or a lead to take it back." };
  if (event.type === "undone" && (target.type === "signed" || target.type === "outcome"))
    return { code: "closed", message: "A signed or ended sheet stays as it is. Log a correction instead." };
  return null;
}

async function readEvents(runId: string, tx?: Transaction): Promise<RunEvent[]> {
  const rows = await getDb().models.RunEvent.findAll({
    attributes: ["body"],
    where: { runId },
    order: ["seq"],
    raw: true,
    transaction: tx,
  });
  return rows.map((row) => row.body);
}

/** Brings everything that follows from a closed run up to date: its row, completion, readings, and the machine's due days. */
async function settleRun(context: RunContext, now: Date, tx: Transaction): Promise<void> {
  const db = getDb();
  const { run, plan, timeZone, options } = context;
  const procedure = await procedureOf(run, tx);
  const events = await readEvents(run.id, tx);
  const state = foldRun(procedure, events);
  if (state.status !== "signed" && state.status !== "ended") return;
  const closing = state.technicianSignature ?? state.outcome!;
  const closedAt = new Date(closing.at);
  const doneOn = dayInZone(closedAt, timeZone);
  run.status = state.status;
  await db.models.Run.update(
    {
      status: state.status,
      closedAt,
      closedBy: closing.by,
      doneOn: state.status === "signed" ? doneOn : null,
      outcome: state.outcome?.outcome ?? null,
      outcomeReason: state.outcome?.reason ?? null,
    },
    { where: { id: run.id }, transaction: tx },
  );
  const results = runResults(procedure, state, { options });
  const common = { machineId: run.machineId, byPerson: closing.by, runId: run.id };
  // A reading's id is its event's id: settling again adds what came later, and takes over what was corrected. The value as
  // it was first logged stays in the log.
  await db.models.MeterReading.bulkCreate(
    results.meterReadings.map((one) => ({
      ...common,
      id: one.eventId,
      meter: one.meter,
      value: one.value,
      readOn: dayInZone(new Date(one.at), timeZone),
      readAt: new Date(one.at),
      source: "run" as const,
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
    await fillSlots(run, procedure, state, results.meters, tx);
    await storeRunMinutes(
      [{ runId: run.id, procedureId: run.procedureId, siteId: plan.siteId, personId: closing.by, doneOn, events }],
      tx,
    );
    await db.models.Completion.bulkCreate(
      [{ id: run.id, planId: plan.id, machineId: run.machineId, doneOn, meters: results.meters, runId: run.id }],
      {
        transaction: tx,
        updateOnDuplicate: ["meters"],
      },
    );
  }
  await assessMachine(run.machineId, now, tx);
}

/** Brings the machine's slots up to what the sheet fitted and turned. */
async function fillSlots(
  run: RunRow,
  procedure: Procedure,
  state: RunState,
  read: Record<string, number>,
  tx: Transaction,
): Promise<void> {
  const meters = JSON.stringify(
    state.parts.some((part) => part.turnedUsesLeft === null)
      ? { ...(await lastMeters(run.machineId, tx)), ...read }
      : {},
  );
  const uses = new Map(procedure.parts.map((part) => [part.item, part.uses ?? 1]));
  for (const one of state.parts) {
    const row = { machineId: run.machineId, slot: one.slot, item: one.item, runId: run.id, at: new Date(one.at) };
    if (one.turnedUsesLeft === null) {
      await sql.addMachineSlots({ ...row, meters, usesLeft: uses.get(one.item) ?? 1, lot: one.lot }, tx);
    } else {
      await getDb().models.MachineSlot.update(
        { usesLeft: one.turnedUsesLeft, changedAt: row.at, runId: row.runId },
        { where: { machineId: row.machineId, slot: row.slot }, transaction: tx },
      );
    }
  }
}

/** Face values of a machine's meters, the last of each. */
async function lastMeters(machineId: string, tx: Transaction): Promise<Record<string, number>> {
  const rows = await sql.meterReadings({ machineId }, tx);
  return Object.fromEntries(rows.map((row) => [row.meter, row.value]));
}

/** What is in a machine's slots, as a sheet asks for it. */
export async function slotsOf(machineId: string): Promise<NonNullable<MachineFacts["slots"]>> {
  const rows = await getDb().models.MachineSlot.findAll({ where: { machineId }, raw: true });
  return Object.fromEntries(rows.map(({ slot, item, usesLeft }) => [slot, { item, usesLeft }]));
}

/** Opens a sheet for a duty: its id. An open sheet of the same duty is gone on with. */
export async function openRun(actor: Actor, planId: string, device: string, now: Date): Promise<string> {
  const db = getDb();
  const [open] = await db.models.Run.findAll({
    attributes: ["id"],
    where: { planId, status: "open" },
    order: [["openedAt", "DESC"]],
    limit: 1,
    raw: true,
  });
  if (open) return open.id;
  const plan = await db.models.Plan.findByPk(planId, { raw: true });
  if (!plan) throw new Refusal(404, "no-such-duty", "This duty does not exist. Go back to the round.");
  const [latest] = await sql.procedures({ id: plan.procedureId });
  const runId = uuidv7();
  const started = event(actor, runId, device, now, {
    type: "started",
    planId,
    procedureId: plan.procedureId,
    procedureVersion: latest!.version,
  });
  await storeEvents(actor, runId, [started], now);
  return runId;
}

function event(actor: Actor, runId: string, device: string, at: Date, body: RunEventBody): RunEvent {
  return { id: uuidv7(), runId, at: at.toISOString(), by: actor.id, device, ...body };
}

/**
 * Logs what reads otherwise than it was logged: the old value stays readable, a signed record gets an addition of its own in
 * the chain of records.
 */
export async function correctFact(
  actor: Actor,
  runId: string,
  input: { ref: string; set: Correction; why: string },
  now: Date,
): Promise<void> {
  const { refused } = await storeEvents(
    actor,
    runId,
    [event(actor, runId, "browser", now, { type: "corrected", ...input })],
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
export async function signRun(
  actor: Actor,
  runId: string,
  input: { customer: CustomerSignature; missingReason: string | null; device: string },
  now: Date,
): Promise<{ signed: true } | { signed: false; missing: MissingStep[] }> {
  const context = await runContext(runId);
  const procedure = await procedureOf(context.run);
  const events = await readEvents(runId);
  const state = foldRun(procedure, events);
  if (state.status === "signed") return { signed: true };
  if (state.status === "ended")
    throw new Refusal(409, "ended", "This sheet was ended without the work. Open a new one from the duty.");
  const missing = missingSteps(procedure, state, { options: context.options });
  if (missing.length > 0 && !input.missingReason) return { signed: false, missing };

  // A device's clock may be ahead: the signature still comes after everything it signs.
  const at = new Date(Math.max(now.getTime(), ...events.map((one) => instantMs(one.at, "at") + 1)));
  const signatures = [
    event(actor, runId, input.device, at, { type: "signed", role: "customer", ...input.customer }),
    event(actor, runId, input.device, at, {
      type: "signed",
      role: "technician",
      name: actor.name,
      method: "password",
      eventCount: events.length,
      ...(missing.length > 0 && input.missingReason ? { missingReason: input.missingReason } : {}),
    }),
  ];
  await storeEvents(actor, runId, signatures, now);
  return { signed: true };
}

export interface RunView {
  run: RunRow;
  plan: PlanRow;
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
  events: RunEvent[];
  persons: Record<string, string>;
}

/** A sheet with its whole log. */
export async function loadRun(runId: string): Promise<RunView> {
  const context = await runContext(runId);
  const [machine] = await sql.machinesForLoadRun({ id: context.run.machineId });
  const events = await readEvents(runId);
  const persons = await personNames([...events.map((one) => one.by), context.run.openedBy]);
  return {
    run: context.run,
    plan: context.plan,
    procedure: await procedureOf(context.run),
    timeZone: context.timeZone,
    machine: machine!,
    slots: await slotsOf(context.run.machineId),
    events,
    persons,
  };
}

/**
 * The log, if it holds another number of events than the caller has. Counting, not a cursor: on a cluster, sequence
 * numbers do not come in the order of commits.
 */
export async function eventsUnlessKnown(runId: string, have: number): Promise<RunEvent[] | null> {
  return (await getDb().models.RunEvent.count({ where: { runId } })) === have ? null : readEvents(runId);
}

export type { RunState };

/** The last few values of every reading and meter of a machine, oldest first: ghosts for the limit ruler. */
export async function recentValues(machineId: string): Promise<Record<string, number[]>> {
  const rows = await sql.readings({ machineId });
  const values: Record<string, number[]> = {};
  for (const { name, value } of rows) (values[name] ??= []).push(value);
  return values;
}
