import { assessDue, CoreError, type DueAssessment } from "@core";
import { getDb, type PauseRow, type PlanRow, type PlanRules } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";
import { audit, zoneOf } from "~/kit/server/audit.server";
import { getProcedure, newestProcedures } from "~/procedures/procedures.server";

import { assessMachine } from "./assess.server";
import { dueInput, machineFacts } from "./machine-facts.server";
import { newPlan } from "./new-plan.server";
import * as sql from "./plans.sql";

/** What of a duty a person may set on a machine. */
export interface PlanSettings {
  title: string;
  who: PlanRow["who"];
  authorisation: string | null;
  minutes: number;
  startOn: string;
  hardStop: boolean;
  active: boolean;
  rules: PlanRules;
}

/** General procedure behind duties of a machine's own. */
export const OWN_DUTY = "own-duty";

async function findPlan(planId: string): Promise<PlanRow> {
  const plan = await getDb().models.Plan.findByPk(planId, { raw: true });
  if (!plan) throw new Refusal(404, "no-such-duty", "This duty does not exist. Go back to the machine.");
  return plan;
}

function settingsOf(plan: PlanRow): PlanSettings {
  const { title, who, authorisation, minutes, startOn, rules } = plan;
  return {
    title,
    who,
    authorisation,
    minutes,
    startOn,
    hardStop: plan.hardStop,
    active: plan.active,
    rules,
  };
}

/** A duty as it may be changed, with what its procedure proposes and the machine's names for things. */
export async function planForEdit(
  planId: string,
  now: Date,
): Promise<{ plan: PlanRow; settings: PlanSettings; today: string; others: { key: string; title: string }[] }> {
  const plan = await findPlan(planId);
  const today = dayInZone(now, await zoneOf(plan.machineId));
  const others = await sql.plans({ machineId: plan.machineId, planId, ownDuty: OWN_DUTY });
  return { plan, settings: settingsOf(plan), today, others };
}

/**
 * What a duty would come to with other settings, without storing anything.
 *
 * @throws Refusal with the engine's own words when the rules cannot be assessed
 */
export async function tryPlan(planId: string, settings: PlanSettings, now: Date): Promise<DueAssessment> {
  const plan = await findPlan(planId);
  const facts = (await machineFacts(plan.machineId))!;
  try {
    return assessDue(dueInput({ ...plan, ...settings }, facts, dayInZone(now, facts.timeZone)));
  } catch (error) {
    if (error instanceof CoreError) throw new Refusal(422, "not-valid", error.message);
    throw error;
  }
}

/** Changes a duty on one machine, with the reason; old and new settings stay readable. */
export async function changePlan(
  actor: Actor,
  planId: string,
  settings: PlanSettings,
  reason: string,
  now: Date,
): Promise<void> {
  await tryPlan(planId, settings, now);
  const db = getDb();
  await db.transact(async (tx) => {
    const plan = (await db.models.Plan.findByPk(planId, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE }))!;
    await db.models.Plan.update(settings, { where: { id: planId }, transaction: tx });
    await audit(actor, "plan", planId, "changed", { reason, old: settingsOf(plan), new: settings }, now, tx);
    await assessMachine(plan.machineId, now, tx);
  });
}

/** Duties that a machine could have: procedures of its family that it has no plan for. */
export async function proposedDuties(machineId: string): Promise<{ id: string; title: string }[]> {
  const db = getDb();
  const [machine] = await db.models.Machine.findAll({ attributes: ["family"], where: { id: machineId }, raw: true });
  if (!machine) return [];
  const known = new Set(
    (await db.models.Plan.findAll({ attributes: ["procedureId"], where: { machineId }, raw: true })).map(
      (row) => row.procedureId,
    ),
  );
  return (await newestProcedures([machine.family]))
    .filter((procedure) => !known.has(procedure.id))
    .map(({ id, title }) => ({ id, title }));
}

/** Adds a duty from a procedure, or one of the machine's own with a title. */
export async function addDuty(
  actor: Actor,
  machineId: string,
  input: { procedureId: string; title: string | null },
  now: Date,
): Promise<string> {
  const db = getDb();
  const machine = await db.models.Machine.findByPk(machineId, { raw: true });
  if (!machine) throw new Refusal(404, "no-such-machine", "This machine is not in the register.");
  const site = (await db.models.Site.findByPk(machine.siteId, { raw: true }))!;
  const procedure = await getProcedure(input.procedureId);
  if (procedure.id !== OWN_DUTY && procedure.family !== machine.family)
    throw new Refusal(422, "other-family", "This procedure is for another family of machines.");
  const plan = newPlan({ ...machine, dutiesFrom: null }, site, procedure, now);
  if (input.title) plan.title = input.title;
  await db.transact(async (tx) => {
    await db.models.Plan.create(plan, { transaction: tx });
    await audit(actor, "plan", plan.id, "added", { new: settingsOf(plan) }, now, tx);
    await assessMachine(machineId, now, tx);
  });
  return plan.id;
}

/** Pauses a machine's duties, or one of them, from a day on. */
export async function pause(
  actor: Actor,
  machineId: string,
  input: { planId: string | null; fromOn: string | null; toOn: string | null; reason: string },
  now: Date,
): Promise<void> {
  const db = getDb();
  const fromOn = input.fromOn ?? dayInZone(now, await zoneOf(machineId));
  if (input.toOn !== null && input.toOn <= fromOn)
    throw new Refusal(422, "bad-span", "The pause must end after the day it begins.");
  const row: PauseRow = {
    id: uuidv7(),
    machineId,
    planId: input.planId,
    fromOn,
    toOn: input.toOn,
    reason: input.reason,
    byPerson: actor.id,
    loggedAt: now,
    resumedBy: null,
    resumedAt: null,
  };
  await db.transact(async (tx) => {
    await db.models.Pause.create(row, { transaction: tx });
    await audit(actor, "machine", machineId, "paused", row, now, tx);
    await assessMachine(machineId, now, tx);
  });
}

/** Ends a pause today: what was open is due now, the rest goes on where it stood. */
export async function resume(actor: Actor, pauseId: string, now: Date): Promise<void> {
  const db = getDb();
  const found = await db.models.Pause.findByPk(pauseId, { raw: true });
  if (!found) throw new Refusal(404, "no-such-pause", "This pause does not exist.");
  const today = dayInZone(now, await zoneOf(found.machineId));
  await db.transact(async (tx) => {
    const row = (await db.models.Pause.findByPk(pauseId, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE }))!;
    if (row.resumedAt !== null || (row.toOn !== null && row.toOn <= today)) return;
    // One that has not begun never was: it ends on the day it would begin.
    const toOn = today > row.fromOn ? today : row.fromOn;
    await db.models.Pause.update(
      { toOn, resumedBy: actor.id, resumedAt: now },
      { where: { id: pauseId }, transaction: tx },
    );
    await audit(actor, "machine", row.machineId, "resumed", { pause: row.id, toOn, plannedTo: row.toOn }, now, tx);
    await assessMachine(row.machineId, now, tx);
  });
}

export type PauseView = PauseRow & { by: string; open: boolean };

/** Pauses of a machine, newest first. */
export async function listPauses(machineId: string, today: string): Promise<PauseView[]> {
  const rows = await sql.pauses({ machineId });
  return rows.map((row) => ({ ...row, open: row.resumedAt === null && (row.toOn === null || row.toOn > today) }));
}
