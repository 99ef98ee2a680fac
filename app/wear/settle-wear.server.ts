import {
  fittedOnSheet,
  isFaultProcedure,
  type Procedure,
  type RunState,
  type WearRule,
  wearRule,
  wornValues,
} from "@core";
import { getDb, type SheetRow, type SlotFitRow, type Transaction, type WearValueRow } from "@db";

import { lockMachines } from "~/duties/lock-machines.server";
import { dayInZone } from "~/kit/days/site-day";

import { fitMachines } from "./fit-lines.server";
import { foreseeMachines } from "./foresee.server";
import * as sql from "./wear.sql";
import { type WearProcedure, wearProcedures } from "./wear-procedures.server";

interface Settled {
  sheet: Pick<SheetRow, "id" | "machineId">;
  procedure: Procedure;
  state: RunState;
  options: string[];
  timeZone: string;
}

/**
 * Keeps what closed sheets say of wear, anew where it is kept already: values, and what went into slots. That it is kept
 * (`wearKept`) is written with the sheets by the caller.
 *
 * @returns the machines of which they say anything, now or before
 */
export async function keepWear(settled: readonly Settled[], tx: Transaction): Promise<string[]> {
  if (settled.length === 0) return [];
  const { models } = getDb();
  const newest = await wearProcedures(
    settled.map((one) => one.procedure.id),
    tx,
  );
  const ids = settled.map((one) => one.sheet.id);
  const of = { where: { sheetId: ids }, transaction: tx };
  const before = await models.WearValue.findAll({ attributes: ["machineId"], ...of, raw: true });
  const fitted = await models.SlotFit.findAll({ attributes: ["machineId"], ...of, raw: true });
  if (before.length > 0) await models.WearValue.destroy(of);
  if (fitted.length > 0) await models.SlotFit.destroy(of);
  const values = settled.flatMap((one) => valuesOf(one, newest.get(one.procedure.id)));
  const fits = settled.flatMap(fitsOf);
  await models.WearValue.bulkCreate(values, { transaction: tx });
  await models.SlotFit.bulkCreate(fits, { transaction: tx });
  return [...new Set([...before, ...fitted, ...values, ...fits].map((one) => one.machineId))];
}

function valuesOf({ sheet, procedure, state, options, timeZone }: Settled, newest?: WearProcedure): WearValueRow[] {
  // A sheet of a version that did not say so yet: its reading is the same.
  const known = (step: Parameters<typeof wearRule>[0] & { kind: "measure" }): WearRule | null =>
    wearRule(step) ?? newest?.rules.find((one) => one.reading === step.reading) ?? null;
  return wornValues(procedure, state, { options }, known).map(({ eventId, at, by: _, limit, ...value }) => ({
    ...value,
    limitAt: limit,
    entryId: eventId,
    machineId: sheet.machineId,
    sheetId: sheet.id,
    readAt: new Date(at),
    onDay: dayInZone(new Date(at), timeZone),
  }));
}

function fitsOf({ sheet, procedure, state, timeZone }: Settled): SlotFitRow[] {
  if (state.status !== "signed") return [];
  return fittedOnSheet(procedure, state, isFaultProcedure(procedure.id)).map(({ eventId, at, by: _, ...fit }) => ({
    ...fit,
    id: eventId,
    machineId: sheet.machineId,
    sheetId: sheet.id,
    fittedAt: new Date(at),
    onDay: dayInZone(new Date(at), timeZone),
  }));
}

/**
 * {@link keepWear}, and the machine's lines. What is foreseen from them is worked out when somebody looks, or soon: at once only
 * where a duty waits for it, as that is assessed next.
 */
export async function settleWear(settled: Settled, now: Date, tx: Transaction): Promise<void> {
  const { machineId } = settled.sheet;
  if ((await keepWear([settled], tx)).length === 0) return;
  // Two sheets of one machine take turns: neither works its lines out without the other's values.
  await lockMachines([machineId], tx);
  await fitMachines([machineId], now, tx);
  if ((await sql.waitingMachines({ machineIds: [machineId] }, tx)).length > 0)
    await foreseeMachines([machineId], now, { tx });
}
