import { assessDue, CoreError, type DueAssessment, must } from "@core";
import { type DutyRow, type DutyRules, getDb, type PauseRow } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";
import { audit, zoneOf } from "~/kit/server/audit.server";
import { type FieldWords, refuseIfChanged } from "~/kit/server/meanwhile.server";
import { getProcedure, newestProcedures } from "~/procedures/procedures.server";
import { triggerWords } from "~/procedures/trigger-words";

import { assessMachine } from "./assess.server";
import * as sql from "./duties.sql";
import { OWN_DUTY } from "./general-procedures";
import { dueInput, machineFacts } from "./machine-facts.server";
import { newDuty } from "./new-duty.server";

/** What of a duty a person may set on a machine. */
export interface DutySettings {
  title: string;
  who: DutyRow["who"];
  authorisation: string | null;
  minutes: number;
  startOn: string;
  hardStop: boolean;
  active: boolean;
  rules: DutyRules;
}

/** The form's fields, for who changes a duty that somebody else has changed. */
export const DUTY_WORDS: FieldWords<DutySettings> = {
  rules: ["Rules", ruleLines],
  title: ["Title"],
  who: ["Who does it"],
  authorisation: ["Authorisation"],
  minutes: ["Minutes"],
  startOn: ["Counts from"],
  hardStop: ["Stops the machine when overdue"],
  active: ["In force"],
};

function ruleLines(rules: DutyRules): string {
  const { triggers, notice, warning, intervalFactor, tuning, covers, idleDays, emits, readyBy, notUntil } = rules;
  const lead = (name: string, days?: number, fraction?: number): string[] => [
    ...(days === undefined ? [] : [`${name}: ${days} days before`]),
    ...(fraction === undefined ? [] : [`${name}: at ${Math.round(fraction * 100)} % left`]),
  ];
  return [
    ...triggers.map(triggerWords),
    ...lead("notice", notice?.days, notice?.fraction),
    ...lead("warning", warning?.days, warning?.fraction),
    ...(intervalFactor === undefined ? [] : [`intervals times ${intervalFactor}`]),
    ...(tuning?.least === undefined ? [] : [`tuned to ${tuning.least} times the given interval at least`]),
    ...(tuning?.most === undefined ? [] : [`tuned to ${tuning.most} times the given interval at most`]),
    ...(covers?.length ? [`covers ${covers.join(", ")}`] : []),
    ...(idleDays === undefined ? [] : [`before standing still for ${idleDays} days`]),
    ...(readyBy === undefined ? [] : [`ready by ${readyBy}`]),
    ...(notUntil?.hours === undefined ? [] : [`not used for ${notUntil.hours} hours afterwards`]),
    ...(notUntil?.done === undefined ? [] : [`not used before ${notUntil.done} was done`]),
    ...(emits ?? []).map(({ event, on }) => `brings about “${event}”, ${on.replaceAll("-", " ")}`),
  ].join("\n");
}

async function findDuty(dutyId: string): Promise<DutyRow> {
  const duty = await getDb().models.Duty.findByPk(dutyId, { raw: true });
  if (!duty) throw new Refusal(404, "no-such-duty", "This duty does not exist. Go back to the machine.");
  return duty;
}

function settingsOf(duty: DutyRow): DutySettings {
  const { title, who, authorisation, minutes, startOn, rules } = duty;
  return {
    title,
    who,
    authorisation,
    minutes,
    startOn,
    hardStop: duty.hardStop,
    active: duty.active,
    rules,
  };
}

/** A duty as it may be changed, with what its procedure proposes and the machine's names for things. */
export async function dutyForEdit(
  dutyId: string,
  now: Date,
): Promise<{ duty: DutyRow; settings: DutySettings; today: string; others: { key: string; title: string }[] }> {
  const duty = await findDuty(dutyId);
  const today = dayInZone(now, await zoneOf(duty.machineId));
  const others = await sql.otherDuties({ machineId: duty.machineId, dutyId, ownDuty: OWN_DUTY });
  return { duty, settings: settingsOf(duty), today, others };
}

/**
 * What a duty would come to with other settings, without storing anything.
 *
 * @throws Refusal with the engine's own words when the rules cannot be assessed
 */
export async function tryDuty(dutyId: string, settings: DutySettings, now: Date): Promise<DueAssessment> {
  const duty = await findDuty(dutyId);
  const facts = must(await machineFacts(duty.machineId));
  try {
    return assessDue(dueInput({ ...duty, ...settings }, facts, dayInZone(now, facts.timeZone)));
  } catch (error) {
    if (error instanceof CoreError) throw new Refusal(422, "not-valid", error.message);
    throw error;
  }
}

/** Changes a duty on one machine, with the reason; old and new settings stay readable. */
export async function changeDuty(
  actor: Actor,
  dutyId: string,
  { settings, reason, seen = null }: { settings: DutySettings; reason: string; seen?: string | null },
  now: Date,
): Promise<void> {
  await tryDuty(dutyId, settings, now);
  const db = getDb();
  await db.transact(async (tx) => {
    const duty = must(await db.models.Duty.findByPk(dutyId, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE }));
    await refuseIfChanged(
      { subject: "duty", subjectId: dutyId, seen, theirs: settingsOf(duty), yours: settings },
      DUTY_WORDS,
    );
    await db.models.Duty.update(settings, { where: { id: dutyId }, transaction: tx });
    await audit(
      {
        by: actor,
        subject: "duty",
        subjectId: dutyId,
        action: "changed",
        details: { reason, old: settingsOf(duty), new: settings },
        now,
      },
      tx,
    );
    await assessMachine(duty.machineId, now, tx);
  });
}

/** Duties that a machine could have: procedures of its family that it does not owe yet. */
export async function proposedDuties(machineId: string): Promise<{ id: string; title: string }[]> {
  const db = getDb();
  const [machine] = await db.models.Machine.findAll({ attributes: ["family"], where: { id: machineId }, raw: true });
  if (!machine) return [];
  const known = new Set(
    (await db.models.Duty.findAll({ attributes: ["procedureId"], where: { machineId }, raw: true })).map(
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
  const site = must(await db.models.Site.findByPk(machine.siteId, { raw: true }));
  const procedure = await getProcedure(input.procedureId);
  if (procedure.id !== OWN_DUTY && procedure.family !== machine.family)
    throw new Refusal(422, "other-family", "This procedure is for another family of machines.");
  const duty = newDuty({ ...machine, dutiesFrom: null }, site, procedure, now);
  if (input.title) duty.title = input.title;
  await db.transact(async (tx) => {
    await db.models.Duty.create(duty, { transaction: tx });
    await audit(
      { by: actor, subject: "duty", subjectId: duty.id, action: "added", details: { new: settingsOf(duty) }, now },
      tx,
    );
    await assessMachine(machineId, now, tx);
  });
  return duty.id;
}

/** Pauses a machine's duties, or one of them, from a day on. */
export async function pause(
  actor: Actor,
  machineId: string,
  input: { dutyId: string | null; fromOn: string | null; toOn: string | null; reason: string },
  now: Date,
): Promise<void> {
  const db = getDb();
  const fromOn = input.fromOn ?? dayInZone(now, await zoneOf(machineId));
  if (input.toOn !== null && input.toOn <= fromOn)
    throw new Refusal(422, "bad-span", "The pause must end after the day it begins.");
  const row: PauseRow = {
    id: uuidv7(),
    machineId,
    dutyId: input.dutyId,
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
    await audit({ by: actor, subject: "machine", subjectId: machineId, action: "paused", details: row, now }, tx);
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
    const row = must(await db.models.Pause.findByPk(pauseId, { raw: true, transaction: tx, lock: tx.LOCK.UPDATE }));
    if (row.resumedAt !== null || (row.toOn !== null && row.toOn <= today)) return;
    // One that has not begun never was: it ends on the day it would begin.
    const toOn = today > row.fromOn ? today : row.fromOn;
    await db.models.Pause.update(
      { toOn, resumedBy: actor.id, resumedAt: now },
      { where: { id: pauseId }, transaction: tx },
    );
    await audit(
      {
        by: actor,
        subject: "machine",
        subjectId: row.machineId,
        action: "resumed",
        details: { pause: row.id, toOn, plannedTo: row.toOn },
        now,
      },
      tx,
    );
    await assessMachine(row.machineId, now, tx);
  });
}

export type PauseView = PauseRow & { by: string; open: boolean };

/** Pauses of a machine, newest first. */
export async function listPauses(machineId: string, today: string): Promise<PauseView[]> {
  const rows = await sql.pausesOf({ machineId });
  return rows.map((row) => ({ ...row, open: row.resumedAt === null && (row.toOn === null || row.toOn > today) }));
}
