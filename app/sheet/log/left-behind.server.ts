import { baselineReadings, type Begins, foldRun, locksOf, type Procedure, statesInForce } from "@core";
import { type DutyRow, getDb, type Transaction } from "@db";

import { procedureOf, readEntries } from "./sheet-context.server";
import * as sql from "./sheets.sql";

/** What a duty's sheet begins with, by what the server knows of its machine; undefined when that is nothing. */
export async function beginningOf(
  duty: DutyRow,
  readProcedure: () => Promise<Procedure>,
  tx?: Transaction,
): Promise<Begins | undefined> {
  const left = await leftBehind(duty, readProcedure, tx);
  const readings = baselineReadings(await readProcedure());
  if (readings.length === 0) return left;
  const rows = await sql.lastReadings({ machineId: duty.machineId, readings }, tx);
  if (rows.length === 0) return left;
  return { ...left, baselines: Object.fromEntries(rows.map((row) => [row.reading, row.value])) };
}

/**
 * What a duty's sheet begins with: the machine as the duty that brought it about has left it, where that one says that it leaves
 * something. Of the parts and states those that the sheet's own procedure knows.
 *
 * @returns undefined when nothing was left, or another sheet of the duty has taken it up since
 */
async function leftBehind(
  duty: DutyRow,
  readProcedure: () => Promise<Procedure>,
  tx?: Transaction,
): Promise<Begins | undefined> {
  const events = new Set(duty.rules.triggers.flatMap((one) => (one.kind === "event" ? [one.event] : [])));
  if (events.size === 0) return undefined;
  const duties = await getDb().models.Duty.findAll({
    attributes: ["id", "rules"],
    where: { machineId: duty.machineId },
    raw: true,
    transaction: tx ?? null,
  });
  const before = duties.filter(
    ({ id, rules }) => id !== duty.id && (rules.emits ?? []).some((one) => events.has(one.event)),
  );
  if (before.length === 0) return undefined;
  const ids = before.map((one) => one.id);
  const last = await getDb().models.Sheet.findOne({
    attributes: ["id", "dutyId", "procedureId", "procedureVersion"],
    where: { dutyId: [...ids, duty.id], status: "signed" },
    order: [
      ["closedAt", "DESC"],
      ["id", "DESC"],
    ],
    raw: true,
    transaction: tx ?? null,
  });
  if (!last || last.dutyId === duty.id) return undefined;
  const earlier = await procedureOf(last, tx);
  const { states = [], off = [] } = earlier.leaves ?? {};
  if (states.length === 0 && off.length === 0) return undefined;
  const state = foldRun(earlier, await readEntries(last.id, tx));
  const inForce = statesInForce(earlier, state);
  const procedure = await readProcedure();
  const known = new Set((procedure.states ?? []).map((one) => one.id));
  const putBack = new Set(procedure.steps.flatMap((step) => (step.putsBack ?? []).map((one) => one.item)));
  const stays = states.filter((id) => inForce.has(id) && known.has(id));
  const parts = state.ledger.filter(({ item }) => off.includes(item) && putBack.has(item));
  if (stays.length === 0 && parts.length === 0) return undefined;
  const heldBy = locksOf(earlier, state).on.find((lock) => stays.includes(lock.state))?.by;
  return {
    ...(stays.length > 0 ? { states: stays } : {}),
    ...(heldBy ? { heldBy } : {}),
    ...(parts.length > 0 ? { off: parts } : {}),
  };
}
