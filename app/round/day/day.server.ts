import { dayFigures, type DayPlan, type DayProblem, dutyOfJob, loggedClocks, undoneIds } from "@core";
import { type DayEventRow, type DayRow, getDb } from "@db";

import { isRepair } from "~/duties/general-procedures";
import { heldAmong } from "~/duties/holds.server";
import { type Actor, whyNotWork } from "~/kit/actor";
import { minuteOfDay } from "~/kit/days/day-time";
import { type FirmDay, firmDay } from "~/kit/days/firm-day.server";
import { dayInZone } from "~/kit/days/site-day";
import { Refusal } from "~/kit/refusal";
import { search } from "~/kit/server/aside.server";
import { audit } from "~/kit/server/audit.server";
import { contentHash } from "~/kit/server/content-hash.server";

import { firmChance } from "../chance.server";
import { restedOn } from "./breaks";
import * as sql from "./day.sql";
import { buildDay, type BuiltDay } from "./day-problem.server";
import { addDayEvent, eventsOf, findDay, freshDay, lockedDay } from "./day-row.server";
import { doneStops } from "./done-stops";
import { leftInWords } from "./left-in-words";
import { moveDuties, type PutOnDay } from "./put-on-day.server";
import { spreadsOf } from "./spreads";

/** Steps of the search on the server; the browser's worker goes by time and looks further. */
export const SERVER_STEPS = 4000;
/** So many of those that a proposal has no place for are named. */
const MOST_NAMED = 4;
/** Plans of a day that has begun by the clock go on from the next of so many minutes. */
const ROUND_UP_MINUTES = 5;

export interface DayView extends Omit<BuiltDay, "asks"> {
  person: { id: string; name: string };
  on: string;
  /** The day's date where the firm is. */
  today: string;
  /** Minute of the day now, on the day itself; null on other days. */
  now: number | null;
  day: DayRow;
  /** The plan was made from other work, hours or ways than there are now. */
  stale: boolean;
  events: (DayEventRow & { minute: number })[];
  actual: ActualWork[];
  /** Duties of the plan that are done or ended by now: for their names. */
  closed: { dutyId: string; title: string; machineName: string; outcome: string | null }[];
  /** Share of days on which it has to hold, as the firm has chosen. */
  chance: number;
}

/** What really happened on one duty, in minutes of the day. */
export interface ActualWork {
  dutyId: string;
  sheetId: string;
  from: number;
  /** Null while it is open. */
  to: number | null;
  waits: [number, number | null][];
}

/** The day with its start not in hours that have passed: of today what is left of it. A day that is over stays as it was. */
export function notBefore(day: DayRow, { on: today, timeZone }: FirmDay, now: Date): DayRow {
  if (day.onDay !== today || day.status !== "open") return day;
  const next = Math.ceil(minuteOfDay(now, timeZone) / ROUND_UP_MINUTES) * ROUND_UP_MINUTES;
  return next > day.startMinute && next < day.endMinute ? { ...day, startMinute: next } : day;
}

export async function getDayView(personId: string, on: string, now: Date): Promise<DayView> {
  const db = getDb();
  const [person] = await db.models.Person.findAll({
    attributes: ["id", "name", "dayFrom", "dayTo"],
    where: { id: personId, active: true },
    raw: true,
  });
  if (!person) throw new Refusal(404, "no-such-person", "This person does not exist or is not active any more.");
  const day = (await findDay(personId, on)) ?? freshDay(personId, on, person);
  const events = await eventsOf(day.id);
  const { on: today, timeZone } = await firmDay(now);
  const live = day.status === "started" && today === on;
  const { asks: _asks, ...built } = await buildDay(
    notBefore(day, { on: today, timeZone }, now),
    events,
    live ? now : null,
  );
  const actual = await actualWork(personId, on, built.depot.timeZone, now);
  const planned = new Set(
    day.plan?.stops.flatMap((stop) => stop.schedule.phases.map((phase) => dutyOfJob(phase.job))) ?? [],
  );
  const missing = [...planned].filter((id) => !built.duties.some((duty) => duty.dutyId === id));
  return {
    ...built,
    person: { id: person.id, name: person.name },
    on,
    today,
    now: today === on ? minuteOfDay(now, timeZone) : null,
    day,
    stale: day.problem !== null && fingerprint(day.problem, live) !== fingerprint(built.problem, live),
    events: events.map((event) => ({ ...event, minute: minuteOfDay(event.at, built.depot.timeZone) })),
    actual,
    closed: missing.length === 0 ? [] : await sql.closedDuties({ missing }),
    chance: await firmChance(),
  };
}

/** What of a problem says whether a plan made from it still holds: not the minute at which it was looked at. */
function fingerprint(
  { startAt, first: _first, travel, sites, breaks = [], ...rest }: DayProblem,
  isLive: boolean,
): string {
  // A row of zeros for where one stands: on the way it is another place, and the rest is the same.
  return contentHash({
    ...rest,
    // They move with the day's beginning until it has begun.
    breaks: breaks.map(({ minutes, from, by }) => [minutes, ...[from, by].map((one) => one - (isLive ? 0 : startAt))]),
    travel: travel.slice(1).map((row) => row.slice(1)),
    sites: sites.map((site) => ({ ...site, jobs: site.jobs.map((job) => job.id), fixed: [] })),
  });
}

/**
 * Plans a day and keeps the plan: in the order given, in the order chosen by hand, or in the best one found.
 *
 * @param order what the browser's worker found; times are always worked out here
 */
export async function planAndKeep(
  actor: Pick<Actor, "id">,
  personId: string,
  on: string,
  order: string[] | null,
  now: Date,
): Promise<DayPlan> {
  const clock = await firmDay(now);
  const isLive = (day: DayRow): boolean => day.status === "started" && clock.on === on;
  const before = await getDb().transact((tx) => lockedDay(personId, on, tx));
  // What has been driven stays as it was planned.
  if (before.status === "ended" && before.plan) return before.plan;
  // Asking for the ways and searching take a while: no transaction, and no second connection, waits for them.
  const events = await eventsOf(before.id);
  const { problem, duties, depot } = await buildDay(notBefore(before, clock, now), events, isLive(before) ? now : null);
  const rested = restedOn(events.map((event) => ({ ...event, minute: minuteOfDay(event.at, depot.timeZone) })));
  const ids = problem.sites.map((site) => site.id);
  const usable =
    order !== null &&
    order.length === ids.length &&
    new Set(order).size === ids.length &&
    order.every((id) => ids.includes(id));
  const given = problem.order ?? (usable ? order : undefined);
  const spread = spreadsOf(duties);
  const { plan, risk } = await search(
    "planDay",
    { ...problem, ...(given ? { order: given } : {}) },
    SERVER_STEPS,
    spread,
  );
  return getDb().transact(async (tx) => {
    const day = await lockedDay(personId, on, tx);
    if (day.status === "ended" && day.plan) return day.plan;
    const live = isLive(day);
    const kept = live && day.plan ? { ...plan, stops: [...doneStops(day.plan, plan, problem), ...plan.stops] } : plan;
    const figures = dayFigures(problem, kept, { startAt: live ? day.startMinute : problem.startAt, risk, rested });
    await sql.keepPlan(
      {
        id: day.id,
        problem: JSON.stringify(problem),
        plan: JSON.stringify(kept),
        risk: JSON.stringify(risk),
        figures: JSON.stringify(figures),
        now,
      },
      tx,
    );
    if (live)
      await addDayEvent(
        { dayId: day.id, byPerson: actor.id, type: "replanned", siteId: null, body: { endAt: plan.endAt }, at: now },
        tx,
      );
    return kept;
  });
}

export interface DaySettings {
  startMinute: number;
  endMinute: number;
  technicians: number;
}

export async function changeDay(
  actor: Actor,
  personId: string,
  on: string,
  settings: DaySettings,
  now: Date,
): Promise<void> {
  if (settings.endMinute <= settings.startMinute) throw new Refusal(422, "bad-hours", "The day ends before it begins.");
  await getDb().transact(async (tx) => {
    const day = await lockedDay(personId, on, tx);
    await getDb().models.Day.update(
      // What was worked out for other hours is not said of these.
      {
        startMinute: settings.startMinute,
        endMinute: settings.endMinute,
        technicians: settings.technicians,
        figures: null,
      },
      { where: { id: day.id }, transaction: tx },
    );
    await audit(
      {
        by: actor,
        subject: "day",
        subjectId: day.id,
        action: "hours",
        details: {
          old: { startMinute: day.startMinute, endMinute: day.endMinute, technicians: day.technicians },
          new: settings,
        },
        now,
      },
      tx,
    );
  });
}

/** Keeps the sites in an order chosen by hand; null lets the best one be found again. */
export async function fixOrder(
  actor: Actor,
  personId: string,
  on: string,
  order: string[] | null,
  now: Date,
): Promise<void> {
  await getDb().transact(async (tx) => {
    const day = await lockedDay(personId, on, tx);
    await getDb().models.Day.update({ fixedOrder: order, figures: null }, { where: { id: day.id }, transaction: tx });
    await audit(
      {
        by: actor,
        subject: "day",
        subjectId: day.id,
        action: "order",
        details: { old: day.fixedOrder, new: order },
        now,
      },
      tx,
    );
  });
}

/**
 * Puts the best set of duties for the hours available on a day: what is pressing, what lies on the way, what the person may
 * do and whose machine is not locked away.
 *
 * @returns the duties that were added, and of the worthiest that were not why; null when what is on the day does not hold by
 *   itself: nothing is put beside it
 */
export async function proposeAndPut(
  actor: Actor,
  person: Actor,
  on: string,
  now: Date,
): Promise<{ chosen: string[]; left: string[] } | null> {
  const db = getDb();
  // What was planned for a day that has passed is open again.
  const clock = await firmDay(now);
  const today = clock.on;
  const rows = await sql.dutiesNear({ on, today });
  const held = await heldAmong([...new Set(rows.map((row) => row.machineId))]);
  const allowed = rows
    .filter((row) => (!held.has(row.machineId) || isRepair(row.procedureId)) && whyNotWork(person, row, on) === null)
    .map((row) => row.dutyId);
  if (allowed.length === 0) return { chosen: [], left: [] };
  const already = (
    await db.models.Duty.findAll({ attributes: ["id"], where: { plannedFor: person.id, plannedOn: on }, raw: true })
  ).map((row) => row.id);
  const day = await db.transact((tx) => lockedDay(person.id, on, tx));
  const built = await buildDay(notBefore({ ...day, fixedOrder: null }, clock, now), [], null, allowed);
  const must = new Set(already);
  const problem: DayProblem = {
    ...built.problem,
    sites: built.problem.sites.map((site) => ({
      ...site,
      jobs: site.jobs.map((job) => (must.has(job.id) ? { ...job, value: 1_000_000 } : job)),
    })),
  };
  const spread = spreadsOf(built.duties);
  const how = { chance: await firmChance(), spread, reasons: true };
  const proposal = await search("proposeDay", problem, SERVER_STEPS, how);
  if (problem.sites.some((site) => site.jobs.some((job) => must.has(job.id) && !proposal.jobs.includes(job.id))))
    return null;
  const found = proposal.jobs.filter((id) => !must.has(id));
  const left = proposal.left.filter((one) => !must.has(one.job)).slice(0, MOST_NAMED);
  const chosen = await db.transact(async (tx) => {
    // What somebody has planned while it was searched stays theirs. A day that has passed holds nothing any more.
    const to: PutOnDay = { on, personId: person.id, evenPinned: true, from: "nobody", leaveMoved: true };
    const chosen = (await moveDuties(actor, found, to, now, { tx, today })).map((one) => one.dutyId);
    await audit(
      {
        by: actor,
        subject: "day",
        subjectId: day.id,
        action: "proposed",
        details: { chosen, candidates: allowed.length },
        now,
      },
      tx,
    );
    return chosen;
  });
  return { chosen, left: left.map((one) => leftInWords(one, built.duties)) };
}

/** What was really worked on the day: from the logs of the person's sheets. */
async function actualWork(personId: string, on: string, timeZone: string, now: Date): Promise<ActualWork[]> {
  const db = getDb();
  const sheets = await sql.sheetsOfDuties({ personId, on });
  if (sheets.length === 0) return [];
  const rows = await db.models.LogEntry.findAll({
    attributes: ["sheetId", "body"],
    where: { sheetId: sheets.map((sheet) => sheet.id), late: false },
    order: ["seq"],
    raw: true,
  });
  return sheets.flatMap((sheet) => {
    const entries = rows.filter((row) => row.sheetId === sheet.id).map((row) => row.body);
    const undone = undoneIds(entries);
    const today = entries
      .filter((entry) => !undone.has(entry.id))
      .filter((entry) => dayInZone(new Date(entry.at), timeZone) === on)
      .sort((a, b) => (a.at < b.at ? -1 : 1));
    const minute = (at: string): number => minuteOfDay(new Date(at), timeZone);
    const first = today[0];
    if (!first) return [];
    const waits = loggedClocks(today).map(({ startedAt, stoppedAt }): [number, number | null] => [
      minute(startedAt),
      stoppedAt === null ? null : minute(stoppedAt),
    ]);
    const to =
      sheet.status === "open"
        ? null
        : sheet.closedAt
          ? minuteOfDay(sheet.closedAt, timeZone)
          : minuteOfDay(now, timeZone);
    return [{ dutyId: sheet.dutyId, sheetId: sheet.id, from: minute(first.at), to, waits }];
  });
}
