import { CoreError, firstDays, must, type Plan, startingOn } from "@core";
import { type DutyRow, getDb, type MachineRow, type SiteRow } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { siteCalendar } from "~/kit/days/site-calendar.server";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";
import { audit, zoneOf } from "~/kit/server/audit.server";
import { newestProcedures } from "~/procedures/procedures.server";
import { triggerWords } from "~/procedures/trigger-words";

import { assessMachine } from "./assess.server";
import { isRepair } from "./general-procedures";
import { newDuty } from "./new-duty.server";

const planOf = ({ id, startOn, rules }: Pick<DutyRow, "id" | "startOn" | "rules">): Plan => ({
  id,
  startOn,
  triggers: rules.triggers,
  ...(rules.intervalFactor === undefined ? {} : { intervalFactor: rules.intervalFactor }),
});

/**
 * What a new machine owes: what its family's procedures propose, or what a machine like it owes by now. First days are spread
 * out. Read before the transaction that stores them and has the machine assessed.
 */
export async function firstDuties(
  machine: Pick<MachineRow, "id" | "siteId" | "family" | "commissionedOn" | "dutiesFrom">,
  site: SiteRow,
  like: string | null,
  now: Date,
): Promise<DutyRow[]> {
  const proposed = like === null ? [] : await dutiesLike(like, machine, dayInZone(now, site.timeZone));
  const duties =
    proposed.length > 0
      ? proposed
      : (await newestProcedures([machine.family]))
          .filter((procedure) => procedure.family === machine.family)
          .map((procedure) => newDuty(machine, site, procedure, now));
  const found = firstDays(
    duties.map((duty) => ({ plan: planOf(duty), minutes: duty.minutes })),
    { calendar: yearOf(site, dayInZone(now, site.timeZone)) },
  );
  return duties.map((duty, i) => ({ ...duty, rules: { ...duty.rules, triggers: must(found[i]).triggers } }));
}

/** When a site is closed in the next year: first days further off are rare, and moved when they come near. */
function yearOf(site: SiteRow, today: string) {
  return siteCalendar({ ...site, closures: [] }, today, `${Number(today.slice(0, 4)) + 1}-12-31`);
}

/** Copies of what another machine owes, its own duties among them, without what its sheets have left. */
async function dutiesLike(
  like: string,
  machine: Pick<MachineRow, "id" | "siteId" | "family">,
  today: string,
): Promise<DutyRow[]> {
  const rows = await getDb().models.Duty.findAll({
    where: { machineId: like, active: true },
    order: ["id"],
    raw: true,
  });
  const kept = rows.filter((one) => !isRepair(one.procedureId));
  const ids = new Map(kept.map((one) => [one.id, uuidv7()]));
  return kept.map((one) => ({
    ...one,
    id: must(ids.get(one.id)),
    machineId: machine.id,
    siteId: machine.siteId,
    family: machine.family,
    startOn: today,
    rules: {
      ...one.rules,
      triggers: one.rules.triggers.map(({ ...trigger }) => {
        if (trigger.kind === "calendar" || trigger.kind === "meter") delete trigger.first;
        return trigger;
      }),
      ...(one.rules.covers ? { covers: one.rules.covers.map((key) => ids.get(key) ?? key) } : {}),
    },
    dueOn: null,
    assessedAt: null,
    plannedOn: null,
    plannedFor: null,
    pinned: false,
    sequence: 0,
  }));
}

export interface FirstDutyView {
  id: string;
  title: string;
  who: DutyRow["who"];
  minutes: number;
  /** First due day; null while only a meter, an event or a reading would say it. */
  dueOn: string | null;
  /** Whether a day can be chosen: a calendar is among its triggers. */
  byCalendar: boolean;
  rules: string[];
}

/** What a machine owes that was never done on it, the first first. */
export async function firstDutiesOf(machineId: string): Promise<FirstDutyView[]> {
  const { models } = getDb();
  const [duties, done] = await Promise.all([
    models.Duty.findAll({ where: { machineId, active: true }, raw: true }),
    models.Completion.findAll({ attributes: ["dutyId"], where: { machineId }, raw: true }),
  ]);
  const known = new Set(done.map((one) => one.dutyId));
  return duties
    .filter((one) => !known.has(one.id) && !isRepair(one.procedureId))
    .map(({ id, title, who, minutes, dueOn, rules }) => ({
      id,
      title,
      who,
      minutes,
      dueOn,
      byCalendar: rules.triggers.some((one) => one.kind === "calendar"),
      rules: rules.triggers.map(triggerWords),
    }))
    .sort((a, b) => (a.dueOn ?? "9").localeCompare(b.dueOn ?? "9") || a.title.localeCompare(b.title));
}

/** A lead sets up any machine; who added one on the spot sets up that one, until a lead has looked at it. */
export function maySetUp(actor: Actor, machine: Pick<MachineRow, "addedBy" | "toCheck">): boolean {
  return actor.role === "lead" || (machine.toCheck && machine.addedBy === actor.id);
}

/**
 * Takes what a new machine owes as somebody has changed it: other first days, and duties that it does not have. A duty that
 * was done by then stays as it is.
 */
export async function takeFirstDuties(
  actor: Actor,
  machineId: string,
  chosen: readonly { duty: string; take: boolean; on: string | null }[],
  now: Date,
): Promise<void> {
  const db = getDb();
  const today = dayInZone(now, await zoneOf(machineId));
  const open = new Map((await firstDutiesOf(machineId)).map((one) => [one.id, one]));
  await db.transact(async (tx) => {
    const machine = await db.models.Machine.findByPk(machineId, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE });
    if (!machine) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
    if (!maySetUp(actor, machine))
      throw new Refusal(403, "not-yours", "A lead has looked at this machine already: ask one to change what it owes.");
    for (const [i, { duty: id, take, on }] of chosen.entries()) {
      const seen = open.get(id);
      const duty = seen && (await db.models.Duty.findByPk(id, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE }));
      if (!seen || !duty || duty.machineId !== machineId) continue;
      if (take && (on === null || on === seen.dueOn || !seen.byCalendar)) continue;
      if (take && on !== null && on <= today)
        throw new Refusal(422, `duties[${i}].on`, "The first day comes after today. Work it now if it is due today.");
      const changed = take ? { rules: { ...duty.rules, triggers: beginning(duty, must(on), i) } } : { active: false };
      await db.models.Duty.update(changed, { where: { id }, transaction: tx });
      const reason = take ? "First day chosen when the machine was added" : "Not owed when the machine was added";
      const old = take ? { rules: duty.rules } : { active: true };
      await audit(
        { by: actor, subject: "duty", subjectId: id, action: "changed", details: { reason, old, new: changed }, now },
        tx,
      );
    }
    await assessMachine(machineId, now, tx);
  });
}

function beginning(duty: DutyRow, on: string, i: number) {
  try {
    return startingOn(planOf(duty), on);
  } catch (error) {
    if (error instanceof CoreError) throw new Refusal(422, `duties[${i}].on`, error.message);
    throw error;
  }
}
