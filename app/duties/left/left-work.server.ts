import { must } from "@core";
import { getDb, type OpenItemRow, type Transaction } from "@db";

import { dayInZone } from "~/kit/days/site-day";

import { LEFT_OPEN, WHAT_WAS_LEFT } from "../general-procedures";
import { generalProcedure } from "../general-procedures.server";
import { newDuty } from "../new-duty.server";
import { workTitle } from "./left-words";

/** Whoever works on a machine's items takes turns. */
export async function lockMachine(machineId: string, tx: Transaction): Promise<void> {
  await getDb().models.Machine.findAll({
    attributes: ["id"],
    where: { id: machineId },
    lock: tx.LOCK.UPDATE,
    raw: true,
    transaction: tx,
  });
}

/**
 * Makes the duties of a machine that carry its open items, one for each authorisation that they take, and takes those off that
 * carry none any more. What was not done whole is carried by its own duty, which stays due or comes round again.
 */
export async function keepWork(machineId: string, now: Date, tx: Transaction): Promise<void> {
  const db = getDb();
  const open = await db.models.OpenItem.findAll({
    attributes: ["id", "kind", "title", "who", "authorisation", "minutes", "dutyId", "workDutyId", "arisenAt"],
    where: { machineId, closedAt: null },
    order: ["wantedBy", "arisenAt", "id"],
    raw: true,
    transaction: tx,
  });
  const duties = await db.models.Duty.findAll({
    where: { machineId, procedureId: WHAT_WAS_LEFT, active: true },
    raw: true,
    transaction: tx,
  });
  // What was signed keeps its name: the rest is carried on by a new one.
  const signed = await db.models.Sheet.findAll({
    attributes: ["dutyId"],
    where: { dutyId: duties.map((duty) => duty.id), status: "signed" },
    raw: true,
    transaction: tx,
  });
  const over = new Set(signed.map((sheet) => sheet.dutyId));
  const carries = new Map(duties.flatMap((duty) => (over.has(duty.id) ? [] : [[takes(duty), duty] as const])));
  const groups = new Map<string, typeof open>();
  for (const one of open) {
    if (one.kind === "incomplete") await carryWith(one, one.dutyId, tx);
    else groups.set(takes(one), [...(groups.get(takes(one)) ?? []), one]);
  }
  for (const duty of duties.filter((one) => over.has(one.id) || !groups.has(takes(one))))
    await db.models.Duty.update(
      { active: false, plannedOn: null, plannedFor: null, pinned: false },
      { where: { id: duty.id }, transaction: tx },
    );
  if (groups.size === 0) return;
  const machine = must(await db.models.Machine.findByPk(machineId, { raw: true, transaction: tx }));
  const site = must(await db.models.Site.findByPk(machine.siteId, { raw: true, transaction: tx }));
  for (const [key, items] of groups) {
    const { who, authorisation, arisenAt } = must(items[0]);
    const known = carries.get(key);
    const shown = {
      title: workTitle(items.map((one) => one.title)),
      minutes: items.reduce((sum, one) => sum + one.minutes, 0),
      active: true,
    };
    const duty = known ?? {
      ...newDuty({ ...machine, dutiesFrom: null }, site, await generalProcedure(WHAT_WAS_LEFT, now, tx), now, {
        ...shown,
        who,
        rules: { triggers: [{ kind: "event", event: LEFT_OPEN }], notice: { days: 14 } },
      }),
      authorisation,
    };
    if (known) await db.models.Duty.update(shown, { where: { id: known.id }, transaction: tx });
    else await db.models.Duty.create({ ...duty, startOn: dayInZone(arisenAt, site.timeZone) }, { transaction: tx });
    for (const one of items) await carryWith(one, duty.id, tx);
  }
}

const takes = (one: { who: string; authorisation: string | null }): string => `${one.who} ${one.authorisation ?? ""}`;

async function carryWith(one: Pick<OpenItemRow, "id" | "workDutyId">, dutyId: string, tx: Transaction): Promise<void> {
  if (one.workDutyId === dutyId) return;
  await getDb().models.OpenItem.update({ workDutyId: dutyId }, { where: { id: one.id }, transaction: tx });
}
