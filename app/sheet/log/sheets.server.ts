import {
  type Begins,
  type Correction,
  type MachineFacts,
  must,
  type Procedure,
  type RunEvent,
  type RunEventBody,
  type RunState,
  withBaselines,
} from "@core";
import { type DutyRow, getDb, type SheetRow } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { personNames } from "~/people/people.server";
import { sheetTitle } from "~/sheet/sheet-title";

import { onSheet, OPEN_ALREADY, storeEntries } from "./append-entries.server";
import { beginningOf } from "./left-behind.server";
import { procedureOf, readEntries, sheetContext, slotsOf } from "./sheet-context.server";
import * as sql from "./sheets.sql";

/** Opens a sheet for a duty: its id. An open sheet of the same duty is gone on with. */
export async function openSheet(actor: Actor, dutyId: string, device: string, now: Date): Promise<string> {
  const db = getDb();
  const findOpen = () =>
    db.models.Sheet.findOne({
      attributes: ["id"],
      where: { dutyId, status: "open" },
      // The one that is gone on with before any that a device opened while it was away.
      order: [
        ["openDutyId", "DESC"],
        ["openedAt", "DESC"],
      ],
      raw: true,
    });
  const open = await findOpen();
  if (open) return open.id;
  const duty = await db.models.Duty.findByPk(dutyId, { raw: true });
  if (!duty) throw new Refusal(404, "no-such-duty", "This duty does not exist. Go back to the round.");
  const machine = await db.models.Machine.findByPk(duty.machineId, { attributes: ["retiredOn"], raw: true });
  refuseTakenOut(must(machine));
  const [latest] = await sql.newestVersion({ id: duty.procedureId });
  const { version } = must(latest);
  const begins = await beginningOf(duty, () =>
    procedureOf({ procedureId: duty.procedureId, procedureVersion: version }),
  );
  const sheetId = uuidv7();
  const started = entry(actor, sheetId, device, now, {
    type: "started",
    planId: dutyId,
    procedureId: duty.procedureId,
    procedureVersion: version,
    ...(begins ? { begins } : {}),
  });
  try {
    await onSheet(actor, sheetId, { entries: [started], now, alone: true }, (log) => log.take([started]));
  } catch (error) {
    const other = error instanceof Refusal && error.code === OPEN_ALREADY ? await findOpen() : null;
    if (!other) throw error;
    return other.id;
  }
  return sheetId;
}

/** No work is begun on a machine that is none of the register's. What a device began before comes in all the same. */
export function refuseTakenOut({ retiredOn }: { retiredOn: string | null }): void {
  if (retiredOn !== null)
    throw new Refusal(409, "taken-out", "This machine was taken out of the register. A lead takes it back first.");
}

export function entry(actor: Actor, sheetId: string, device: string, at: Date, body: RunEventBody): RunEvent {
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

export interface SheetView {
  /** What the sheet is called. */
  title: string;
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
  /** What came when the sheet was closed. */
  late: RunEvent[];
  persons: Record<string, string>;
}

/** A sheet with its whole log. */
export async function loadSheet(sheetId: string): Promise<SheetView> {
  const context = await sheetContext(sheetId);
  const [machine] = await sql.machineOfSheet({ id: context.sheet.machineId });
  const entries = await readEntries(sheetId);
  const late = context.sheet.status === "open" ? [] : await readEntries(sheetId, undefined, true);
  const persons = await personNames([...[...entries, ...late].flatMap(personsOf), context.sheet.openedBy]);
  const procedure = withBaselines(await procedureOf(context.sheet), beginsOf(entries));
  return {
    title: sheetTitle(procedure, context.duty),
    sheet: context.sheet,
    duty: context.duty,
    procedure,
    timeZone: context.timeZone,
    machine: must(machine),
    slots: await slotsOf(context.sheet.machineId),
    entries,
    late,
    persons,
  };
}

function beginsOf(entries: readonly RunEvent[]): Begins | null {
  const started = entries.find((one) => one.type === "started");
  return started?.type === "started" ? (started.begins ?? null) : null;
}

/** Whom an entry names. */
function personsOf(entry: RunEvent): string[] {
  if (entry.type === "handed-over") return [entry.by, entry.to];
  const holder = entry.type === "started" ? entry.begins?.heldBy : undefined;
  return holder === undefined ? [entry.by] : [entry.by, holder];
}

/**
 * The log, if it holds another number of entries than the caller has. Counting, not a cursor: on a cluster, sequence
 * numbers do not come in the order of commits.
 */
export async function entriesUnlessKnown(sheetId: string, have: number): Promise<RunEvent[] | null> {
  return (await getDb().models.LogEntry.count({ where: { sheetId, late: false } })) === have
    ? null
    : readEntries(sheetId);
}

export type { RunState };
