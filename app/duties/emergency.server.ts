import { must } from "@core";
import { getDb, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { dayInZone } from "~/kit/days/site-day";
import { audit } from "~/kit/server/audit.server";
import { faultProcedure } from "~/procedures/guides/guides.server";

import { assessMachine } from "./assess.server";
import { CALLED_OUT, EMERGENCY_CALL } from "./general-procedures";
import { generalProcedure } from "./general-procedures.server";
import { newDuty } from "./new-duty.server";

/**
 * A call that comes in between: a duty of the machine's own that is due today, and never again by itself.
 *
 * @param input.place the day that it is put on, and whose
 * @returns the duty
 */
export async function callOut(
  actor: Actor,
  machineId: string,
  input: { title: string; minutes: number; place?: { on: string; personId: string } },
  now: Date,
  tx: Transaction,
): Promise<string> {
  const { models } = getDb();
  const machine = must(await models.Machine.findByPk(machineId, { raw: true, transaction: tx }));
  const site = must(await models.Site.findByPk(machine.siteId, { raw: true, transaction: tx }));
  const { title, minutes, place } = input;
  // With the family's fault guide where there is one: it knows the cheap checks first.
  const procedure =
    (await faultProcedure(machine.family, now, tx)) ?? (await generalProcedure(EMERGENCY_CALL, now, tx));
  const duty = newDuty({ ...machine, dutiesFrom: null }, site, procedure, now, {
    title,
    minutes,
    who: "technician",
    rules: { triggers: [{ kind: "event", event: CALLED_OUT }] },
  });
  const planned = place ? { plannedOn: place.on, plannedFor: place.personId } : {};
  await models.Duty.create({ ...duty, ...planned }, { transaction: tx });
  await models.Occurrence.create(
    {
      id: uuidv7(),
      machineId,
      event: CALLED_OUT,
      happensOn: dayInZone(now, site.timeZone),
      note: title,
      byPerson: actor.id,
      loggedAt: now,
    },
    { transaction: tx },
  );
  await audit(
    {
      by: actor,
      subject: "duty",
      subjectId: duty.id,
      action: "called out",
      details: { title, minutes, ...planned },
      now,
    },
    tx,
  );
  await assessMachine(machineId, now, tx);
  return duty.id;
}
