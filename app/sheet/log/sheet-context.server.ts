import { type MachineFacts, must, type Procedure, type RunEvent, stepsThatBringSomething } from "@core";
import { type DutyRow, getDb, type SheetRow, type Transaction } from "@db";

import { Refusal } from "~/kit/refusal";

import * as sql from "./sheets.sql";

export interface SheetContext {
  sheet: SheetRow;
  duty: DutyRow;
  timeZone: string;
  options: string[];
}

export async function sheetContext(sheetId: string, tx?: Transaction): Promise<SheetContext> {
  const db = getDb();
  const transaction = tx ?? null;
  const sheet = await db.models.Sheet.findByPk(sheetId, { raw: true, transaction });
  if (!sheet) throw new Refusal(404, "no-such-run", "This sheet does not exist.");
  const duty = await db.models.Duty.findByPk(sheet.dutyId, { raw: true, transaction });
  const [machine] = await sql.machineWithSite({ id: sheet.machineId }, tx);
  return { sheet, duty: must(duty), timeZone: must(machine).timeZone, options: must(machine).options };
}

/** The version that the sheet is bound to. Not part of the context: a tap does not need it. */
export async function procedureOf(
  sheet: Pick<SheetRow, "procedureId" | "procedureVersion">,
  tx?: Transaction,
): Promise<Procedure> {
  const { procedureId: id, procedureVersion: version } = sheet;
  const row = await getDb().models.Procedure.findOne({ where: { id, version }, raw: true, transaction: tx ?? null });
  return must(row).expanded ?? must(row).body;
}

/** A published version never changes. */
const bringing = new Map<string, ReadonlySet<string>>();
const MOST_KEPT = 500;

/** Steps of a sheet that bring a chemical, or what harms a surface: of most sheets none. */
export async function stepsThatBring(sheet: SheetRow, tx: Transaction): Promise<ReadonlySet<string>> {
  const key = `${sheet.procedureId}@${sheet.procedureVersion}`;
  const known = bringing.get(key);
  if (known) return known;
  const found = new Set(stepsThatBringSomething(await procedureOf(sheet, tx)));
  if (bringing.size >= MOST_KEPT) bringing.clear();
  bringing.set(key, found);
  return found;
}

/** The log, without what came when the sheet was closed; `late` gives that. */
export async function readEntries(sheetId: string, tx?: Transaction, late = false): Promise<RunEvent[]> {
  const rows = await getDb().models.LogEntry.findAll({
    attributes: ["body"],
    where: { sheetId, late },
    order: ["seq"],
    raw: true,
    transaction: tx,
  });
  return rows.map((row) => row.body);
}

/** Face values of a machine's meters, the last of each. */
export async function lastMeters(machineId: string, tx: Transaction): Promise<Record<string, number>> {
  const rows = await sql.lastMeters({ machineId }, tx);
  return Object.fromEntries(rows.map((row) => [row.meter, row.value]));
}

/** What is in a machine's slots, as a sheet asks for it. */
export async function slotsOf(machineId: string): Promise<NonNullable<MachineFacts["slots"]>> {
  const rows = await getDb().models.MachineSlot.findAll({ where: { machineId }, raw: true });
  return Object.fromEntries(rows.map(({ slot, item, usesLeft }) => [slot, { item, usesLeft }]));
}
