import { assessDue, hardnessFactor, type Procedure } from "@core";
import type { DutyRow, DutyRules, MachineRow, SiteRow } from "@db";
import { v7 as uuidv7 } from "uuid";

import { siteCalendar } from "~/kit/days/site-calendar.server";
import { dayInZone } from "~/kit/days/site-day";

import { storedDue } from "./assess.server";
import { dueInput, noFacts } from "./machine-facts.server";

/**
 * A machine's new duty from a procedure. It counts from the machine's `duties_from`, else from the day of registration:
 * counting from the commissioning of an old machine would make everything overdue at once.
 */
export function newDuty(
  machine: Pick<MachineRow, "id" | "siteId" | "family" | "commissionedOn" | "dutiesFrom">,
  site: Pick<SiteRow, "timeZone" | "waterHardness" | "accessHours" | "holidayRegion">,
  procedure: Procedure,
  now: Date,
  own?: { title: string; rules: DutyRules; minutes: number; who: DutyRow["who"] },
): DutyRow {
  const today = dayInZone(now, site.timeZone);
  const duty = {
    id: uuidv7(),
    machineId: machine.id,
    siteId: machine.siteId,
    family: machine.family,
    procedureId: procedure.id,
    title: own?.title ?? procedure.title,
    who: own?.who ?? procedure.who,
    authorisation: procedure.authorisation ?? null,
    minutes: own?.minutes ?? Math.round(procedure.minutes.handsOn + procedure.minutes.waiting),
    startOn:
      machine.dutiesFrom ?? (machine.commissionedOn && machine.commissionedOn > today ? machine.commissionedOn : today),
    rules: own?.rules ?? dutyRulesOf(procedure, site.waterHardness),
    hardStop: procedure.plan.hardStop ?? false,
    active: true,
    assessedAt: now,
    plannedOn: null,
    pinned: false,
    plannedFor: null,
    sequence: 0,
  };
  const facts = noFacts((from, until) => siteCalendar({ ...site, closures: [] }, from, until));
  const input = dueInput(duty, facts, today);
  return { ...duty, ...storedDue(assessDue(input), input) };
}

/** The rules a procedure proposes, with the site's water taken into account. */
export function dutyRulesOf(procedure: Procedure, waterHardness: number | null): DutyRules {
  const { triggers, notice, warning, covers, scaledByHardness, idleDays, emits, readyBy, notUntil } = procedure.plan;
  const factor = scaledByHardness ? hardnessFactor(waterHardness) : 1;
  return {
    triggers,
    ...(notice ? { notice } : {}),
    ...(warning ? { warning } : {}),
    ...(covers ? { covers } : {}),
    ...(idleDays ? { idleDays } : {}),
    ...(emits ? { emits } : {}),
    ...(readyBy ? { readyBy } : {}),
    ...(notUntil ? { notUntil } : {}),
    ...(factor === 1 ? {} : { intervalFactor: factor }),
  };
}
