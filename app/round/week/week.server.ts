import { addDays, daysBetween, must, type WeekPlan } from "@core";
import { getDb } from "@db";

import { dueNow } from "~/duties/due.server";
import { isGeneral, isRepair } from "~/duties/general-procedures";
import { heldAmong } from "~/duties/holds.server";
import { type Actor, whyNotWork } from "~/kit/actor";
import { minutesOf, weekdayOf } from "~/kit/days/day-time";
import { depotPlace } from "~/kit/days/depot.server";
import { firmDay } from "~/kit/days/firm-day.server";
import { Refusal } from "~/kit/refusal";
import { search } from "~/kit/server/aside.server";
import { audit } from "~/kit/server/audit.server";
import { type FieldWords, refuseIfChanged, seenOf } from "~/kit/server/meanwhile.server";
import { procedureTakes } from "~/procedures/procedures.server";
import { ARRIVING_MINUTES, hoursOn, LEAVING_MINUTES, worth } from "~/round/day/day-problem.server";
import { moveDuties, type PutOnDay } from "~/round/day/put-on-day.server";
import { travelBetween } from "~/round/ways/travel.server";

import * as sql from "./week.sql";

export const WEEK_DAYS = 7;
/** More people, or more duties, than a lead looks at on one page. */
const MOST_PEOPLE = 20;
const STEPS = 1200;

export interface WeekPerson {
  id: string;
  name: string;
  dayFrom: string;
  dayTo: string;
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
  minutes: number;
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
}

async function peopleOf(): Promise<WeekPerson[]> {
  return getDb().models.Person.findAll({
    attributes: ["id", "name", "dayFrom", "dayTo", "families", "territory"],
    where: { active: true, role: "technician" },
    order: ["name", "id"],
    limit: MOST_PEOPLE,
    raw: true,
  });
}

/** What is on people's days already, from a first to a last day. */
async function plannedCells(people: readonly WeekPerson[], first: string, last: string): Promise<WeekCell[]> {
  if (people.length === 0) return [];
  const cells = await sql.plannedDuties({ ids: people.map((person) => person.id), first, last });
  return cells.map((cell) => ({
    ...cell,
    duties: cell.duties,
    sites: cell.sites,
    minutes: cell.minutes,
  }));
}

export async function weekView(from: string | null, now: Date): Promise<WeekView> {
  const db = getDb();
  const { on: today } = await firmDay(now);
  const first = from ?? today;
  const days = Array.from({ length: WEEK_DAYS }, (_, i) => addDays(first, i));
  const people = await peopleOf();
  const planned = await plannedCells(people, first, must(days[WEEK_DAYS - 1]));
  const [open] = await sql.countDuties({ last: days[WEEK_DAYS - 1], today });
  return {
    from: first,
    days,
    people: people.map((person) => ({ ...person, seen: seenOf(person, WORKER_WORDS) })),
    planned,
    open: must(open).total,
    sites: await db.models.Site.findAll({ attributes: ["id", "name"], order: ["name"], limit: 500, raw: true }),
  };
}

export interface WeekProposal extends WeekPlan {
  from: string;
  considered: number;
  /** Names of what found no place, the worthiest first. */
  leftNames: string[];
}

/** The best week for everybody: what is due by its end and on nobody's day, to who may do it, where and when. */
export async function proposeWeek(from: string, now: Date): Promise<WeekProposal> {
  const db = getDb();
  const people = await peopleOf();
  const last = addDays(from, WEEK_DAYS - 1);
  // What was planned for a day that has passed is open again.
  const { on: today } = await firmDay(now);
  const rows = await sql.dutiesOfWeek({ last, today });
  const held = await heldAmong([...new Set(rows.map((row) => row.machineId))]);
  const duties = rows.filter((row) => !held.has(row.machineId) || isRepair(row.procedureId));
  const siteIds = [...new Set(duties.map((row) => row.siteId))];
  const sites =
    siteIds.length === 0
      ? []
      : await db.models.Site.findAll({
          attributes: ["id", "name", "latitude", "longitude", "accessHours"],
          where: { id: [...siteIds] },
          order: ["id"],
          raw: true,
        });
  const takes = await procedureTakes([...new Set(duties.map((row) => row.procedureId))]);
  const depot = (await depotPlace()) ?? { id: "depot", name: "Depot", latitude: null, longitude: null };
  const { minutes: travel } = await travelBetween([depot, ...sites]);
  const actors = await actorsOf(people);
  const days = Array.from({ length: WEEK_DAYS }, (_, i) => addDays(from, i));
  const taken = new Map(
    (await plannedCells(people, from, last)).map((cell) => [`${cell.person} ${cell.day}`, cell.minutes]),
  );
  const plan = await search(
    "assignWeek",
    {
      days: WEEK_DAYS,
      people: people.map((person) => ({
        id: person.id,
        minutes: days.map((day) => {
          // What is on a day already takes its hours; weekends are free unless somebody plans them by hand.
          return weekdayOf(day) > 5
            ? 0
            : Math.max(
                0,
                minutesOf(person.dayTo) - minutesOf(person.dayFrom) - (taken.get(`${person.id} ${day}`) ?? 0),
              );
        }),
        sites: person.territory.length > 0 ? person.territory : null,
      })),
      sites: sites.map((site) => ({
        id: site.id,
        overhead: ARRIVING_MINUTES + LEAVING_MINUTES,
        open: days.map(
          (day) => hoursOn(site.accessHours, day)?.reduce((sum, [open, close]) => sum + close - open, 0) ?? 1440,
        ),
      })),
      duties: duties.map((row) => {
        const hands = isGeneral(row.procedureId) ? row.minutes : (takes.get(row.procedureId)?.handsOn ?? row.minutes);
        const due = dueNow({ ...row, hardStop: row.hardStop, projected: row.projected }, from);
        const may = people.filter(
          (person) =>
            (person.families.length === 0 || person.families.includes(row.family)) &&
            whyNotWork(must(actors.get(person.id)), row, from) === null,
        );
        return {
          id: row.id,
          site: row.siteId,
          hands,
          longest: Math.max(hands, row.minutes),
          value: worth(due.state, due.daysLeft, row.hardStop),
          due: daysBetween(from, row.dueOn),
          people: may.length === people.length ? null : may.map((person) => person.id),
        };
      }),
      travel,
    },
    STEPS,
  );
  const names = new Map(duties.map((row) => [row.id, `${row.title}, ${row.machineName}`]));
  return { ...plan, from, considered: duties.length, leftNames: plan.left.map((id) => must(names.get(id))) };
}

async function actorsOf(people: readonly WeekPerson[]): Promise<Map<string, Actor>> {
  const rows =
    people.length === 0
      ? []
      : await getDb().models.Authorisation.findAll({
          attributes: ["personId", "kind", "expiresOn"],
          where: { personId: people.map((person) => person.id), revokedAt: null },
          raw: true,
        });
  return new Map(
    people.map(({ id, name }) => [
      id,
      { id, name, role: "technician", authorisations: rows.filter((row) => row.personId === id) },
    ]),
  );
}

/** Puts a proposed week on people's days; what somebody has planned meanwhile stays theirs. */
export async function putWeek(
  actor: Actor,
  from: string,
  assignments: readonly { person: string; day: number; duties: string[] }[],
  now: Date,
): Promise<{ put: number; meanwhile: number }> {
  const asked = assignments.filter(({ day, duties }) => day >= 0 && day < WEEK_DAYS && duties.length > 0);
  const { on: today } = await firmDay(now);
  // All of the week or nothing of it.
  const put = await getDb().transact(async (tx) => {
    let sum = 0;
    for (const { person, day, duties } of asked) {
      const to: PutOnDay = {
        on: addDays(from, day),
        personId: person,
        evenPinned: true,
        from: "nobody",
        leaveMoved: true,
      };
      sum += (await moveDuties(actor, duties, to, now, { tx, today })).length;
    }
    return sum;
  });
  return { put, meanwhile: asked.reduce((sum, one) => sum + one.duties.length, 0) - put };
}

export type WorkerSettings = Pick<WeekPerson, "dayFrom" | "dayTo" | "families" | "territory">;

/** The form's fields, for who changes what somebody else has changed. */
const WORKER_WORDS: FieldWords<WorkerSettings> = {
  dayFrom: ["From"],
  dayTo: ["Until"],
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
      attributes: ["id", "name", "dayFrom", "dayTo", "families", "territory"],
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
      { dayFrom: settings.dayFrom, dayTo: settings.dayTo, families: settings.families, territory: settings.territory },
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
