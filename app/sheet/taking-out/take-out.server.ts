import { getDb, type MachineRow, Op, type Transaction } from "@db";

import { assessMachine } from "~/duties/assess.server";
import { EMERGENCY_CALL, WHAT_WAS_LEFT } from "~/duties/general-procedures";
import { closeRows } from "~/duties/left/open-items.server";
import type { Actor } from "~/kit/actor";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";
import { audit, zoneOf } from "~/kit/server/audit.server";
import { letGoOf } from "~/stores/ledger/held-for-items.server";

/** What ends when a machine is taken out of the register. */
export interface TakingOut {
  duties: number;
  items: number;
  reports: number;
  links: number;
  /** Sheets that are open on it: they end first. */
  open: { id: string; openedAt: Date }[];
  records: number;
}

export async function takingOut(machineId: string): Promise<TakingOut> {
  const { models } = getDb();
  const [duties, items, reports, links, open, records] = await Promise.all([
    models.Duty.count({ where: { machineId, active: true } }),
    models.OpenItem.count({ where: { machineId, closedAt: null } }),
    models.ProblemReport.count({ where: { machineId, closedAt: null } }),
    models.Link.count({ where: { kind: "operator", subjectId: machineId, revokedAt: null } }),
    models.Sheet.findAll({ attributes: ["id", "openedAt"], where: { machineId, status: "open" }, raw: true }),
    models.Sheet.count({ where: { machineId, status: { [Op.ne]: "open" } } }),
  ]);
  return { duties, items, reports, links, open, records };
}

/**
 * Takes a machine out of the register for good: nothing is owed on it any more, and what was open ends with the reason. Its
 * records, readings and changes stay readable.
 *
 * @throws Refusal while a sheet is open on it
 */
export async function takeOut(actor: Actor, machineId: string, why: string, now: Date): Promise<void> {
  const db = getDb();
  const retiredOn = dayInZone(now, await zoneOf(machineId));
  const note = `The machine was taken out of the register: ${why}`;
  await db.transact(async (tx) => {
    const machine = await lockedMachine(machineId, tx);
    if (machine.retiredOn !== null) throw new Refusal(409, "out-already", "This machine was taken out already.");
    if ((await db.models.Sheet.count({ where: { machineId, status: "open" }, transaction: tx })) > 0)
      throw new Refusal(409, "open-sheet", "A sheet is open on it. Sign it, or end it without the work, first.");
    const duties = await db.models.Duty.findAll({
      attributes: ["id"],
      // What was made for what ends here ends with it.
      where: { machineId, active: true, procedureId: { [Op.notIn]: [WHAT_WAS_LEFT, EMERGENCY_CALL] } },
      raw: true,
      transaction: tx,
    });
    await db.models.Duty.update(
      { active: false, plannedOn: null, plannedFor: null, pinned: false },
      { where: { machineId }, transaction: tx },
    );
    const items = await db.models.OpenItem.findAll({
      where: { machineId, closedAt: null },
      raw: true,
      transaction: tx,
      lock: tx.LOCK.UPDATE,
    });
    await closeRows(items, actor.id, note.slice(0, 1000), now, tx);
    await letGoOf(items, "released", now, tx);
    await db.models.ProblemReport.update(
      { closedBy: actor.id, closedAt: now, closedNote: note.slice(0, 500) },
      { where: { machineId, closedAt: null }, transaction: tx },
    );
    await db.models.Link.update(
      { revokedBy: actor.id, revokedAt: now },
      { where: { kind: "operator", subjectId: machineId, revokedAt: null }, transaction: tx },
    );
    const retired = { why, by: actor.id, duties: duties.map((one) => one.id) };
    await db.models.Machine.update(
      { retiredOn, retired, toCheck: false },
      { where: { id: machineId }, transaction: tx },
    );
    const details = { why, on: retiredOn, duties: duties.length, items: items.length };
    await audit({ by: actor, subject: "machine", subjectId: machineId, action: "taken out", details, now }, tx);
  });
}

/** Takes a machine back into the register: it owes again what it did, counted from its last services. */
export async function takeBack(actor: Actor, machineId: string, now: Date): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    const { retired } = await lockedMachine(machineId, tx);
    if (retired === null) return;
    await db.models.Machine.update({ retiredOn: null, retired: null }, { where: { id: machineId }, transaction: tx });
    await db.models.Duty.update({ active: true }, { where: { machineId, id: retired.duties }, transaction: tx });
    const details = { was: retired.why, duties: retired.duties.length };
    await audit({ by: actor, subject: "machine", subjectId: machineId, action: "taken back", details, now }, tx);
    await assessMachine(machineId, now, tx);
  });
}

async function lockedMachine(machineId: string, tx: Transaction): Promise<MachineRow> {
  const machine = await getDb().models.Machine.findByPk(machineId, {
    raw: true,
    transaction: tx,
    lock: tx.LOCK.UPDATE,
  });
  if (!machine) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
  return machine;
}
