import {
  addDays,
  type Completion,
  creditCovered,
  dayOfUse,
  type DueInput,
  idleAheadDays,
  lineCrossing,
  nextOpenDay,
  type PauseSpan,
  type Plan,
  type SiteCalendar,
  type Trigger,
} from "@core";
import { type DutyRow, getDb, Op, type Transaction, type WearLineRow } from "@db";

import { siteCalendar } from "~/kit/days/site-calendar.server";
import { grouped } from "~/kit/grouped";

import { LEFT_OPEN } from "./general-procedures";
import * as sql from "./machine-facts.sql";

/** Everything of one machine that its duties depend on. */
export interface MachineFacts {
  machineId: string;
  siteId: string;
  timeZone: string;
  duties: DutyRow[];
  completions: Completion[];
  meters: DueInput["meters"];
  readings: DueInput["readings"];
  events: DueInput["events"];
  pauses: (PauseSpan & { dutyId: string | null })[];
  /** Days by which what was left open is wanted, with the duty that does it. */
  left: { dutyId: string; on: string }[];
  /** Lines of wear that are sure enough to foretell a day. */
  wear: Pick<WearLineRow, "reading" | "line" | "useNow" | "rate" | "asOf">[];
  /** Closed days of its site, for duties before standing idle and second halves. */
  calendar: (from: string, until: string) => SiteCalendar;
}

/** The occurrence that closing days set off by themselves. */
export const IDLE_AHEAD = "idle-ahead";
/** How far ahead closing days are looked up: beyond any interval between two assessments of a machine that is in use. */
const CALENDAR_DAYS = 400;

interface Dated {
  machineId: string;
  name: string;
  on: string;
  value: number;
}

/** Reads the facts of machines: eleven indexed queries, however many machines are asked for. */
export async function factsOf(machineIds: readonly string[], tx?: Transaction): Promise<MachineFacts[]> {
  if (machineIds.length === 0) return [];
  const { models } = getDb();
  const options = { where: { machineId: [...machineIds] }, raw: true, transaction: tx } as const;
  const machines = await sql.machinesWithSites({ machineIds }, tx);
  // Side by side: none needs another, and together they wait for the database once. In a transaction they queue on its
  // connection.
  const [
    dutyRows,
    completionRows,
    meterRows,
    readingRows,
    occurrenceRows,
    pauseRows,
    closureRows,
    leftRows,
    wearRows,
    renewed,
  ] = await Promise.all([
    models.Duty.findAll(options),
    sql.recentCompletions({ machineIds }, tx),
    models.MeterReading.findAll({
      ...options,
      attributes: ["machineId", "meter", "readOn", "value"],
      order: ["readAt", "id"],
    }),
    models.Reading.findAll({
      ...options,
      attributes: ["machineId", "reading", "readOn", "readAt", "value"],
      order: ["readAt", "id"],
    }),
    models.Occurrence.findAll({ ...options, attributes: ["machineId", "event", "happensOn"] }),
    models.Pause.findAll({ ...options, attributes: ["machineId", "dutyId", "fromOn", "toOn", "reason"] }),
    models.SiteClosure.findAll({
      attributes: ["siteId", "fromOn", "toOn"],
      where: { siteId: [...new Set(machines.map((machine) => machine.siteId))], cancelledAt: null },
      raw: true,
      transaction: tx,
    }),
    models.OpenItem.findAll({
      attributes: ["machineId", "workDutyId", "wantedBy"],
      where: { machineId: [...machineIds], closedAt: null },
      raw: true,
      transaction: tx,
    }),
    models.WearLine.findAll({
      attributes: ["machineId", "reading", "line", "useNow", "rate", "asOf"],
      where: { machineId: [...machineIds], current: true, crossesTo: { [Op.ne]: null } },
      raw: true,
      transaction: tx,
    }),
    sql.renewals({ machineIds }, tx),
  ]);
  const duties = byMachine(dutyRows);
  const completions = byMachine(completionRows);
  const meters = byMachine(
    meterRows.map(({ machineId, meter, readOn, value }): Dated => ({ machineId, name: meter, on: readOn, value })),
  );
  const renewedAt = new Map(renewed.map((one) => [`${one.machineId} ${one.reading}`, one.at.getTime()]));
  const readings = byMachine(
    readingRows
      // What was read of a part that is no more in it says nothing of the one that is.
      .filter(
        ({ machineId, reading, readAt }) => readAt.getTime() > (renewedAt.get(`${machineId} ${reading}`) ?? -Infinity),
      )
      .map(({ machineId, reading, readOn, value }): Dated => ({ machineId, name: reading, on: readOn, value })),
  );
  const events = byMachine(
    occurrenceRows.map(({ machineId, event, happensOn }) => ({ machineId, event, on: happensOn })),
  );
  const pauses = byMachine(
    pauseRows.map(({ machineId, dutyId, fromOn, toOn, reason }) => ({
      machineId,
      dutyId,
      from: fromOn,
      to: toOn,
      reason,
    })),
  );
  const left = byMachine(
    leftRows.flatMap(({ machineId, workDutyId, wantedBy }) =>
      workDutyId === null ? [] : [{ machineId, dutyId: workDutyId, on: wantedBy }],
    ),
  );
  const wear = byMachine(wearRows);
  const closures = byMachine(
    closureRows.map(({ siteId, fromOn, toOn }) => ({ machineId: siteId, from: fromOn, to: toOn })),
  );
  return machines.map(({ id, siteId, timeZone, accessHours, holidayRegion }) => {
    const own = duties.get(id) ?? [];
    const covering = coveringOf(own);
    const calendar = (from: string, until: string): SiteCalendar =>
      siteCalendar({ accessHours, holidayRegion, closures: closures.get(siteId) ?? [] }, from, until);
    const credited = creditedOf(covering, completions.get(id) ?? []);
    return {
      machineId: id,
      siteId,
      timeZone,
      duties: own,
      completions: credited,
      meters: byName(meters.get(id)),
      readings: byName(readings.get(id)),
      events: [...(events.get(id) ?? []), ...emitted(own, credited, calendar)],
      pauses: pauses.get(id) ?? [],
      left: left.get(id) ?? [],
      wear: wear.get(id) ?? [],
      calendar,
    };
  });
}

/** What each of a machine's duties is said to contain, as ids of duties. */
export function coveringOf(
  duties: readonly Pick<DutyRow, "id" | "procedureId" | "rules">[],
): Pick<Plan, "id" | "covers">[] {
  const dutyOfProcedure = new Map(duties.map((duty) => [duty.procedureId, duty.id]));
  const ids = new Set(duties.map((duty) => duty.id));
  // A procedure names what it contains by procedure; a machine's own duties, all on one procedure, by themselves.
  return duties.map((duty) => ({
    id: duty.id,
    covers: (duty.rules.covers ?? []).flatMap((name) => (ids.has(name) ? name : (dutyOfProcedure.get(name) ?? []))),
  }));
}

/** What was done, for each duty that it counts for: those that a sheet has earned, else all that the duty is said to contain. */
function creditedOf(
  covering: readonly Pick<Plan, "id" | "covers">[],
  rows: readonly sql.CompletionFacts[],
): Completion[] {
  const told = rows.filter((row) => row.credits === null).map(asCompletion);
  const earned = rows.flatMap((row) =>
    row.credits === null ? [] : fromJson<string[]>(row.credits).map((planId) => ({ ...asCompletion(row), planId })),
  );
  return [...creditCovered(covering, told), ...earned];
}

/** NULLIF gives the JSON as text; most completions note no meter and cost no parsing. */
function asCompletion({ dutyId, on, meters }: sql.CompletionFacts): Completion {
  return meters === null ? { planId: dutyId, on } : { planId: dutyId, on, meters: fromJson(meters) };
}

const fromJson = <T extends object>(value: T | string): T =>
  typeof value === "string" ? (JSON.parse(value) as T) : value;

/** The facts of one machine. */
export async function machineFacts(machineId: string, tx?: Transaction): Promise<MachineFacts | null> {
  return (await factsOf([machineId], tx))[0] ?? null;
}

const byMachine = <Row extends { machineId: string }>(rows: readonly Row[]): Map<string, Row[]> =>
  grouped(rows, (row) => row.machineId);

function byName(rows: readonly Dated[] = []): DueInput["meters"] {
  const grouped: DueInput["meters"] = {};
  for (const { name, on, value } of rows) (grouped[name] ??= []).push({ on, value });
  return grouped;
}

/** Events that completed work sets off: derived, so that a correction of the work takes them along. */
function emitted(
  duties: readonly DutyRow[],
  completions: readonly Completion[],
  calendar: MachineFacts["calendar"],
): DueInput["events"] {
  return duties.flatMap((duty) =>
    (duty.rules.emits ?? []).flatMap(({ event, on }) =>
      completions
        .filter((done) => done.planId === duty.id)
        .flatMap((done) => {
          const day =
            on === "same-day" ? done.on : nextOpenDay(calendar(done.on, addDays(done.on, CALENDAR_DAYS)), done.on);
          return day === null ? [] : [{ event, on: day }];
        }),
    ),
  );
}

/** The due engine's input for one duty. */
export function dueInput(
  plan: Pick<DutyRow, "id" | "startOn" | "rules" | "hardStop">,
  facts: Pick<MachineFacts, "completions" | "meters" | "readings" | "events" | "pauses" | "calendar" | "left" | "wear">,
  today: string,
): DueInput {
  const { triggers, notice, warning, intervalFactor, idleDays } = plan.rules;
  let { events, completions } = facts;
  if (triggers.some((trigger) => trigger.kind === "event" && trigger.event === IDLE_AHEAD)) {
    const last = facts.completions
      .filter((done) => done.planId === plan.id)
      .reduce((latest, done) => (done.on > latest ? done.on : latest), plan.startOn);
    const oldest = addDays(today, -CALENDAR_DAYS);
    const from = last > oldest ? last : oldest;
    const until = addDays(today, CALENDAR_DAYS);
    events = [
      ...events,
      ...idleAheadDays(facts.calendar(from, until), from, until, idleDays).map((on) => ({ event: IDLE_AHEAD, on })),
    ];
  }
  if (triggers.some((trigger) => trigger.kind === "event" && trigger.event === LEFT_OPEN)) {
    // What is open stays wanted by its day, whatever else was done with the same duty.
    const wanted = facts.left.filter((one) => one.dutyId === plan.id);
    events = wanted.map(({ on }) => ({ event: LEFT_OPEN, on: on < plan.startOn ? plan.startOn : on }));
    completions = [];
  }
  const forecasts = foretold(triggers, facts.wear);
  const pauses = facts.pauses.filter((pause) => pause.dutyId === null || pause.dutyId === plan.id);
  return {
    plan: {
      id: plan.id,
      startOn: plan.startOn,
      triggers,
      hardStop: plan.hardStop,
      ...(notice ? { notice } : {}),
      ...(warning ? { warning } : {}),
      ...(intervalFactor ? { intervalFactor } : {}),
    },
    // Logged by a clock that was ahead, it was done all the same: today at the latest.
    completions: completions.map((done) => (done.on > today ? { ...done, on: today } : done)),
    meters: facts.meters,
    readings: facts.readings,
    events,
    today,
    ...(pauses.length > 0 ? { pauses } : {}),
    ...(forecasts ? { forecasts } : {}),
  };
}

/** Days on which readings are foretold to pass the limits of a duty's conditions: of several parts the first that does. */
function foretold(triggers: readonly Trigger[], wear: MachineFacts["wear"]): DueInput["forecasts"] {
  const found: NonNullable<DueInput["forecasts"]> = {};
  for (const trigger of triggers) {
    if (trigger.kind !== "condition") continue;
    for (const { reading, line, ...use } of wear) {
      const limit = line?.worse === "up" ? trigger.above : trigger.below;
      if (reading !== trigger.reading || !line || limit === undefined) continue;
      const crossing = lineCrossing(line, limit);
      const on = crossing && dayOfUse(use, crossing.at);
      if (!crossing || on === null || crossing.high === null) continue;
      const before = found[reading];
      const [low, high] = [dayOfUse(use, crossing.low) ?? on, dayOfUse(use, crossing.high) ?? on];
      if (!before || on < before.on) found[reading] = { on, low, high };
    }
  }
  return Object.keys(found).length === 0 ? undefined : found;
}

/** Facts of a machine about which nothing is known yet but its site. */
export function noFacts(
  calendar: MachineFacts["calendar"],
): Pick<MachineFacts, "completions" | "meters" | "readings" | "events" | "pauses" | "calendar" | "left" | "wear"> {
  return { completions: [], meters: {}, readings: {}, events: [], pauses: [], left: [], wear: [], calendar };
}
