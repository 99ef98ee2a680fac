import { addDays, type DayFigures, must } from "@core";
import { type BreakRule, getDb, Op } from "@db";

import { dutyTakes } from "~/duties/duty-takes";
import type { Actor } from "~/kit/actor";
import { firmDay } from "~/kit/days/firm-day.server";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { type FieldWords, refuseIfChanged, seenOf } from "~/kit/server/meanwhile.server";
import { procedureTakes } from "~/procedures/procedures.server";
import { firmChance } from "~/round/chance.server";
import { planAndKeep } from "~/round/day/day.server";
import { moveBack, type Moved, moveDuties, type PlacedDuty, type PutOnDay } from "~/round/day/put-on-day.server";

import { breakWords } from "./break-fields";
import * as sql from "./week.sql";

export const WEEK_DAYS = 7;
/** More people, or more duties, than a lead looks at on one page. */
const MOST_PEOPLE = 20;

export interface WeekPerson {
  id: string;
  name: string;
  dayFrom: string;
  dayTo: string;
  breaks: BreakRule[];
  /** Families they work on; [] = all. */
  families: string[];
  /** Sites of their territory; [] = all. */
  territory: string[];
}

export interface WeekCell {
  person: string;
  day: string;
  duties: number;
  sites: number;
  /** The duties' typical hands-on minutes in all: what is known while the day is not planned. */
  minutes: number;
  /** Of the day's plan; null while it has none, or was planned with other duties than are on it now. */
  figures: DayFigures | null;
}

export interface WeekView {
  from: string;
  days: string[];
  /** `seen`: what each one's form is filled from. */
  people: (WeekPerson & { seen: string })[];
  /** What is on people's days already. */
  planned: WeekCell[];
  /** Due by the end of the week and on nobody's day. */
  open: number;
  sites: { id: string; name: string }[];
  /** Share of days on which a proposed day has to hold. */
  chance: number;
}

/** Those who are planned for. */
export async function technicians(): Promise<WeekPerson[]> {
  return getDb().models.Person.findAll({
    attributes: ["id", "name", "dayFrom", "dayTo", "breaks", "families", "territory"],
    where: { active: true, role: "technician" },
    order: ["name", "id"],
    limit: MOST_PEOPLE,
    raw: true,
  });
}

/** What is on people's days already, from a first to a last day. */
export async function plannedCells(people: readonly WeekPerson[], first: string, last: string): Promise<WeekCell[]> {
  if (people.length === 0) return [];
  const ids = people.map((person) => person.id);
  const { models } = getDb();
  const duties = await models.Duty.findAll({
    attributes: ["plannedFor", "plannedOn", "procedureId", "minutes", "siteId"],
    where: { plannedFor: ids, plannedOn: { [Op.between]: [first, last] }, active: true },
    raw: true,
  });
  const takes = await procedureTakes([...new Set(duties.map((duty) => duty.procedureId))]);
  const cells = new Map<string, Omit<WeekCell, "figures" | "sites"> & { at: Set<string> }>();
  for (const duty of duties) {
    const [person, day] = [must(duty.plannedFor), must(duty.plannedOn)];
    const key = `${person} ${day}`;
    const cell = cells.get(key) ?? { person, day, duties: 0, minutes: 0, at: new Set() };
    cells.set(key, cell);
    cell.duties += 1;
    cell.minutes += dutyTakes(duty, takes.get(duty.procedureId)).hands;
    cell.at.add(duty.siteId);
  }
  const days = await models.Day.findAll({
    attributes: ["personId", "onDay", "figures"],
    where: { personId: ids, onDay: { [Op.between]: [first, last] } },
    raw: true,
  });
  const figures = new Map(days.map((day) => [`${day.personId} ${day.onDay}`, day.figures]));
  return [...cells].map(([key, { at, ...cell }]) => ({ ...cell, sites: at.size, figures: figures.get(key) ?? null }));
}

export async function weekView(from: string | null, now: Date): Promise<WeekView> {
  const db = getDb();
  const { on: today } = await firmDay(now);
  const first = from ?? today;
  const days = Array.from({ length: WEEK_DAYS }, (_, i) => addDays(first, i));
  const people = await technicians();
  const planned = await plannedCells(people, first, must(days[WEEK_DAYS - 1]));
  const [open] = await sql.countDuties({ last: days[WEEK_DAYS - 1], today });
  return {
    from: first,
    days,
    people: people.map((person) => ({ ...person, seen: seenOf(person, WORKER_WORDS) })),
    planned,
    open: must(open).total,
    sites: await db.models.Site.findAll({ attributes: ["id", "name"], order: ["name"], limit: 500, raw: true }),
    chance: await firmChance(),
  };
}

/** What came of putting a week on people's days, and what undoes it. */
export interface WeekPut extends Moved {
  put: number;
  meanwhile: number;
}

/** Puts a proposed week on people's days and plans them; what somebody has planned meanwhile stays theirs. */
export async function putWeek(
  actor: Actor,
  from: string,
  assignments: readonly { person: string; day: number; duties: string[] }[],
  now: Date,
): Promise<WeekPut> {
  const { on: today } = await firmDay(now);
  const asked = assignments
    .filter(({ day, duties }) => day >= 0 && day < WEEK_DAYS && duties.length > 0)
    .map((one) => ({ ...one, on: addDays(from, one.day) }));
  if (asked.some(({ on }) => on < today))
    throw new Refusal(409, "past", "The week has gone on since it was proposed. Propose it again; nothing was moved.");
  const before: PlacedDuty[] = [];
  const duties: PlacedDuty[] = [];
  // All of the week or nothing of it.
  await getDb().transact(async (tx) => {
    for (const { person, on, duties: ids } of asked) {
      const to: PutOnDay = { on, personId: person, evenPinned: true, from: "nobody", leaveMoved: true };
      const moved = await moveDuties(actor, ids, to, now, { tx, today });
      before.push(...moved);
      duties.push(...moved.map(({ dutyId }) => ({ dutyId, on, personId: person })));
    }
  });
  for (const { person, on } of asked) await planAndKeep(actor, person, on, null, now);
  return {
    put: before.length,
    meanwhile: asked.reduce((sum, one) => sum + one.duties.length, 0) - before.length,
    before,
    duties,
  };
}

/** Takes a week off people's days again, all of it, unless somebody has moved a duty since; the days are planned anew. */
export async function undoWeek(actor: Actor, { duties, before }: Moved, now: Date): Promise<void> {
  await moveBack(actor, duties, before, now);
  const days = new Map(duties.map((one) => [`${one.personId} ${one.on}`, one]));
  for (const { personId, on } of days.values())
    if (personId !== null && on !== null) await planAndKeep(actor, personId, on, null, now);
}

export type WorkerSettings = Pick<WeekPerson, "dayFrom" | "dayTo" | "breaks" | "families" | "territory">;

/** The form's fields, for who changes what somebody else has changed. */
const WORKER_WORDS: FieldWords<WorkerSettings> = {
  dayFrom: ["From"],
  dayTo: ["Until"],
  breaks: ["Breaks", breakWords],
  families: ["Works on", (families) => (families.length === 0 ? "all" : families.join(", "))],
  territory: ["Territory"],
};

/** What a person works on, where and when: taken into account by proposals. */
export async function changeWorker(
  actor: Actor,
  personId: string,
  settings: WorkerSettings,
  now: Date,
  seen: string | null = null,
): Promise<void> {
  if (settings.dayTo <= settings.dayFrom) throw new Refusal(422, "dayTo", "The day ends before it begins.");
  await getDb().transact(async (tx) => {
    const [before] = await getDb().models.Person.findAll({
      attributes: ["id", "name", "dayFrom", "dayTo", "breaks", "families", "territory"],
      where: { id: personId },
      lock: tx.LOCK.UPDATE,
      raw: true,
      transaction: tx,
    });
    if (!before) throw new Refusal(404, "no-such-person", "This person does not exist.");
    const sites = await getDb().models.Site.findAll({
      attributes: ["id", "name"],
      where: { id: [...before.territory, ...settings.territory, ""] },
      raw: true,
      transaction: tx,
    });
    const names = new Map(sites.map((site) => [site.id, site.name]));
    const named = (ids: string[]): string =>
      ids.length === 0 ? "all" : ids.map((id) => names.get(id) ?? "one of before").join(", ");
    const words: FieldWords<WorkerSettings> = { ...WORKER_WORDS, territory: ["Territory", named] };
    await refuseIfChanged({ subject: "person", subjectId: personId, seen, theirs: before, yours: settings }, words);
    await getDb().models.Person.update(
      {
        dayFrom: settings.dayFrom,
        dayTo: settings.dayTo,
        breaks: settings.breaks,
        families: settings.families,
        territory: settings.territory,
      },
      { where: { id: personId }, transaction: tx },
    );
    await audit(
      {
        by: actor,
        subject: "person",
        subjectId: personId,
        action: "work",
        details: { old: before, new: settings },
        now,
      },
      tx,
    );
  });
}
