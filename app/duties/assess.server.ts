import { assessDue, type DueAssessment, type DueInput, must } from "@core";
import { type DutyRow, getDb, Op, type Transaction } from "@db";

import { dayInZone } from "~/kit/days/site-day";
import { inLanes } from "~/kit/server/in-lanes.server";

import * as sql from "./assess.sql";
import { lockMachines } from "./lock-machines.server";
import { dueInput, factsOf, type MachineFacts } from "./machine-facts.server";

export type StoredDue = Pick<
  DutyRow,
  | "dueOn"
  | "warningFrom"
  | "noticeFrom"
  | "projected"
  | "firmDueOn"
  | "anchorOn"
  | "rivals"
  | "foretoldFrom"
  | "foretoldTo"
>;

/** What of an assessment is stored; the state itself is derived when asked, from these days and the site's own day. */
export function storedDue(assessed: DueAssessment, input: DueInput): StoredDue {
  const driver = assessed.perTrigger.find((one) => one.trigger === assessed.driver);
  const firm = assessed.perTrigger.filter((one) => !one.projected && one.dueOn !== null).map((one) => must(one.dueOn));
  const done = input.completions.filter((one) => one.planId === input.plan.id).map((one) => one.on);
  return {
    dueOn: assessed.dueOn,
    warningFrom: assessed.warningFrom,
    noticeFrom: assessed.noticeFrom,
    projected: driver?.projected ?? input.plan.triggers.some((one) => one.kind === "meter"),
    firmDueOn: firm.length === 0 ? null : firm.reduce((a, b) => (a < b ? a : b)),
    anchorOn: done.length === 0 ? input.plan.startOn : done.reduce((a, b) => (a > b ? a : b)),
    ...foretoldBand(assessed, input),
    rivals: assessed.perTrigger.filter((one) => one !== driver && one.dueOn !== null).map((one) => must(one.dueOn)),
  };
}

/** Between which days the day lies, where what was measured foretells it. */
function foretoldBand(
  { driver }: DueAssessment,
  { forecasts }: DueInput,
): Pick<StoredDue, "foretoldFrom" | "foretoldTo"> {
  const forecast = driver?.kind === "condition" ? forecasts?.[driver.reading] : undefined;
  return { foretoldFrom: forecast?.low ?? null, foretoldTo: forecast?.high ?? null };
}

/** Assesses one machine's duties anew and stores what changed. Called by whatever changes a machine's facts. */
export async function assessMachine(machineId: string, now: Date, tx?: Transaction): Promise<void> {
  await assessMachines([machineId], now, tx);
}

/** Assesses the duties of some machines; the number of duties whose days changed. */
export async function assessMachines(machineIds: readonly string[], now: Date, tx?: Transaction): Promise<number> {
  const changed = await assessForetold(machineIds, now, tx);
  await markWearStale(machineIds, tx);
  return changed;
}

/** The same after what is foreseen of the machines' parts was worked out anew: that stays as it is. */
export async function assessForetold(machineIds: readonly string[], now: Date, tx?: Transaction): Promise<number> {
  const changed: (StoredDue & { id: string })[] = [];
  // Two writers on one machine take turns, so that neither stores days without the other's facts.
  if (tx) await lockMachines(machineIds, tx);
  for (const facts of await factsOf(machineIds, tx)) changed.push(...changedDuties(facts, now));
  await storeChanged(changed, now, tx);
  return changed.length;
}

/** What is foreseen of the machines' parts depends on the same facts: it is worked out anew when somebody looks. */
async function markWearStale(machineIds: readonly string[], tx?: Transaction): Promise<void> {
  await getDb().models.WearLine.update(
    { stale: true },
    { where: { machineId: [...machineIds], current: true }, transaction: tx ?? null },
  );
}

function changedDuties(facts: MachineFacts, now: Date): (StoredDue & { id: string })[] {
  const today = dayInZone(now, facts.timeZone);
  return facts.duties.flatMap((duty) => {
    const input = dueInput(duty, facts, today);
    const stored = storedDue(assessDue(input), input);
    return isSame(duty, stored) ? [] : [{ id: duty.id, ...stored }];
  });
}

function isSame(duty: DutyRow, stored: StoredDue): boolean {
  return (
    duty.dueOn === stored.dueOn &&
    duty.warningFrom === stored.warningFrom &&
    duty.noticeFrom === stored.noticeFrom &&
    duty.projected === stored.projected &&
    duty.firmDueOn === stored.firmDueOn &&
    duty.anchorOn === stored.anchorOn &&
    duty.foretoldFrom === stored.foretoldFrom &&
    duty.foretoldTo === stored.foretoldTo &&
    duty.rivals.join() === stored.rivals.join()
  );
}

/**
 * Stores days in one statement. A duty that was done since leaves the day it was put on; one whose day moved gets a
 * new sequence number, so that calendars show it elsewhere instead of twice.
 */
async function storeChanged(rows: readonly (StoredDue & { id: string })[], now: Date, tx?: Transaction): Promise<void> {
  if (rows.length === 0) return;
  await sql.storeDue(
    { rows: JSON.stringify(rows.map((row) => ({ ...row, projected: row.projected ? 1 : 0 }))), now },
    tx,
  );
}

const CHUNK = 200;

/** The next machines of the register, in one order. */
export async function machinesAfter(id: string): Promise<string[]> {
  const rows = await getDb().models.Machine.findAll({
    attributes: ["id"],
    where: { id: { [Op.gt]: id } },
    order: ["id"],
    limit: CHUNK,
    raw: true,
  });
  return rows.map((row) => row.id);
}

/** Assesses every duty of some machines, in a transaction that holds them. */
export function assessThese(ids: string[], now: Date): Promise<{ duties: number; changed: number }> {
  return getDb().transact(async (tx) => {
    await lockMachines(ids, tx);
    const all = await factsOf(ids, tx);
    const rows = all.flatMap((facts) => changedDuties(facts, now));
    await storeChanged(rows, now, tx);
    const moved = new Set(rows.map((row) => row.id));
    const changed = all.filter((facts) => facts.duties.some((duty) => moved.has(duty.id)));
    await markWearStale(
      changed.map((facts) => facts.machineId),
      tx,
    );
    return { duties: all.reduce((sum, facts) => sum + facts.duties.length, 0), changed: rows.length };
  });
}

/**
 * Assesses every duty of the register, some machines at a time, each part in a transaction of its own: for a changed
 * engine, changed rules, or to refresh forecasts.
 *
 * @returns how many duties were looked at and how many changed
 */
export async function assessAll(
  now: Date,
  onProgress?: (machines: number, duties: number) => void,
): Promise<{ duties: number; changed: number }> {
  const total = { machines: 0, duties: 0, changed: 0 };
  await inLanes(machinesAfter, async (ids) => {
    const { duties, changed } = await assessThese(ids, now);
    total.machines += ids.length;
    total.duties += duties;
    total.changed += changed;
    onProgress?.(total.machines, total.duties);
  });
  return { duties: total.duties, changed: total.changed };
}
