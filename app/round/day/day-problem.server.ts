import {
  allPhases,
  benchJobId,
  type DayJob,
  type DayProblem,
  type DaySite,
  type DueState,
  type FixedPhase,
  foldRun,
  type LearnedMinutes,
  learnMinutes,
  MACHINE,
  must,
  type Procedure,
  type ProcedurePhases,
  procedurePhases,
  type RemainingPhases,
  remainingPhases,
  type RunEvent,
  type Timetable,
} from "@core";
import { type DayEventRow, type DayRow, type DutyRules, getDb } from "@db";

import { containedDuties } from "~/duties/contained-duties";
import { dueNow } from "~/duties/due.server";
import { dutyTakes } from "~/duties/duty-takes";
import { isGeneral } from "~/duties/general-procedures";
import { minuteOfDay, minutesOf } from "~/kit/days/day-time";
import { depotPlace } from "~/kit/days/depot.server";
import { proceduresOf } from "~/procedures/procedures.server";
import { type Place, travelBetween } from "~/round/ways/travel.server";
import { learnedMinutes } from "~/sheet/log/minutes.server";

import {
  asAsked,
  asksAt,
  couldAsk,
  type DayAsk,
  isKeptFree,
  type JobAsks,
  type SiteAsks,
  stepsOf,
  withBench,
} from "./day-asks";
import * as sql from "./day-problem.sql";
import { type DaySiteFacts, hoursOn, type KnownSite, sitesOf } from "./day-sites.server";
import { fromWhen } from "./from-when.server";

/** Arriving (check-in, meters, a look around) and leaving (tidying up, signature), minutes; common practice. */
export const ARRIVING_MINUTES = 5;
export const LEAVING_MINUTES = 5;

export interface DayDuty {
  dutyId: string;
  title: string;
  machineId: string;
  machineName: string;
  machineTag: string;
  siteId: string;
  state: DueState;
  dueOn: string | null;
  anchorOn: string | null;
  hardStop: boolean;
  /** Its sheet when one is open. */
  sheetId: string | null;
  /** Stays on this day. */
  pinned: boolean;
  learned: LearnedMinutes;
  typical: number;
  /** Titles of the steps in each phase of its plan, by way (`""` is the machine's own); none once its sheet is open. */
  steps: { path: string; steps: string[][] }[];
  /** Title of the duty that contains it: done with that one. */
  containedIn: string | null;
}

export interface BuiltDay {
  problem: DayProblem;
  duties: DayDuty[];
  sites: DaySiteFacts[];
  depot: Place & { timeZone: string };
  notes: string[];
  /** What the customers could be asked for before somebody comes, by site: worked out when it is asked. */
  asks: () => SiteAsks[];
}

export interface DutySql {
  dutyId: string;
  procedureId: string;
  title: string;
  minutes: number;
  rules: DutyRules;
  hardStop: boolean;
  projected: boolean;
  dueOn: string | null;
  anchorOn: string | null;
  warningFrom: string | null;
  noticeFrom: string | null;
  firmDueOn: string | null;
  machineId: string;
  machineName: string;
  machineTag: string;
  options: string[];
  freeHours: string;
  readyBy: string;
  pinned: boolean;
  siteId: string;
  sheetId: string | null;
  sheetProcedure: string | null;
}

/**
 * Everything a day is planned from: the duties put on it, their phases with learned minutes, the hours of sites and machines,
 * and the ways between them. A fixed number of queries, however many duties.
 *
 * @param live the instant to go on from, on a day that has started
 * @param candidates duties looked at as if they were on the day
 */
export async function buildDay(
  day: Pick<DayRow, "personId" | "onDay" | "startMinute" | "endMinute" | "technicians" | "fixedOrder">,
  events: readonly DayEventRow[],
  live: Date | null,
  candidates: readonly string[] = [],
): Promise<BuiltDay> {
  const rows = await sql.dutiesOnDay({ personId: day.personId, on: day.onDay, candidates }, candidates);
  const sites = rows.length === 0 ? [] : await sitesOf([...new Set(rows.map((row) => row.siteId))], day.onDay);
  const depot = (await depotPlace()) ?? {
    ...(sites[0] ?? { id: "", name: "Depot", latitude: null, longitude: null, timeZone: "UTC" }),
    id: "depot",
  };
  const procedures = await proceduresOf([...new Set(rows.map((row) => row.procedureId))]);
  const typical = (row: DutySql): number => dutyTakes(row, procedures.get(row.procedureId)?.minutes).hands;
  const own = rows.map((row) => ({ procedureId: row.procedureId, siteId: row.siteId, typical: typical(row) }));
  const learned = await learnedMinutes(own, day.personId);
  const open = await openSheets(rows.flatMap((row) => (row.sheetId ? [row.sheetId] : [])));
  const contained = containedDuties(rows);
  const promised = await promisedOn(day.onDay, [...new Set(rows.map((row) => row.machineId))]);

  const duties: DayDuty[] = [];
  const jobs = new Map<string, DutyOfDay>();
  rows.forEach((row, i) => {
    const site = must(sites.find((one) => one.id === row.siteId));
    // Duties of the firm's own making share one general procedure: what others of them took says nothing.
    const minutes = isGeneral(row.procedureId) ? learnMinutes(Math.max(1, row.minutes), []) : must(learned[i]);
    const procedure = open.get(row.sheetId ?? "")?.procedure ?? procedures.get(row.procedureId);
    if (!procedure) return;
    const facts = { options: row.options };
    // Worked out only where something was promised, or when it is asked: most days are built for neither.
    const could = (): DayAsk[] => (row.sheetId ? [] : couldAsk(row, procedure, facts));
    const agreed = promised.has(row.machineId) ? could().filter((one) => isAgreed(one, promised)) : [];
    const planned = procedurePhases(procedure, facts, minutes.minutes, stepsOf(agreed));
    const due = dueNow({ ...row, hardStop: row.hardStop, projected: row.projected }, day.onDay);
    duties.push({
      dutyId: row.dutyId,
      title: row.title,
      machineId: row.machineId,
      machineName: row.machineName,
      machineTag: row.machineTag,
      siteId: row.siteId,
      state: due.state,
      dueOn: due.dueOn,
      anchorOn: row.anchorOn,
      hardStop: row.hardStop,
      sheetId: row.sheetId,
      pinned: row.pinned,
      learned: minutes,
      typical: typical(row),
      steps: row.sheetId ? [] : stepTitles(procedure, planned),
      containedIn: contained.get(row.dutyId) ?? null,
    });
    if (contained.has(row.dutyId)) return;
    const left = stillToDo(procedure, planned, live && row.sheetId ? open.get(row.sheetId) : undefined);
    const bench = left.bench ?? [];
    if (left.phases.length === 0 && bench.length === 0) return;
    const windows = isKeptFree(agreed) ? undefined : hoursOn(row.freeHours, day.onDay);
    const job: DayJob = {
      id: row.dutyId,
      phases: left.phases,
      ...withBench(bench),
      ...(windows ? { windows } : {}),
      ...readyBy([row.readyBy, row.rules.readyBy]),
      value: worth(due.state, due.daysLeft, row.hardStop),
      ...(row.pinned ? { pinned: true } : {}),
    };
    jobs.set(row.dutyId, {
      row,
      job,
      asks: {
        could: () =>
          could().filter((one) => !isAgreed(one, promised) && (one.kind !== "free" || windows !== undefined)),
        as: (done) =>
          asAsked(job, procedurePhases(procedure, facts, minutes.minutes, stepsOf([...agreed, ...done])), done),
      },
      // Clocks that run, at the machine and on the bench.
      fixed: [{ path: MACHINE, waitingSince: left.waitingSince }, ...bench].flatMap(({ path, waitingSince }) =>
        waitingSince
          ? [{ job: benchJobId(row.dutyId, path), index: 0, start: minuteOfDay(new Date(waitingSince), site.timeZone) }]
          : [],
      ),
    });
  });

  const here = live ? whereabouts(events) : null;
  const daySites = sites.flatMap((site) => {
    const mine = [...jobs.values()].filter((one) => one.row.siteId === site.id);
    if (mine.length === 0) return [];
    const built = daySite(site, mine, day.onDay);
    return [live && here?.there && here.site === site.id ? letIn(built, minuteOfDay(live, site.timeZone)) : built];
  });
  const ways = await waysBetween(
    depot,
    daySites.map((site) => must(sites.find((one) => one.id === site.id))),
    sites.find((site) => site.id === here?.site) ?? depot,
  );
  const zone = depot.timeZone;
  const first = here?.there && daySites.some((site) => site.id === here.site) ? here.site : undefined;
  const order = day.fixedOrder?.filter((id) => daySites.some((site) => site.id === id)) ?? [];
  return {
    problem: {
      ...(await fromWhen(day, events, live, zone)),
      endBy: day.endMinute,
      technicians: day.technicians,
      sites: daySites,
      travel: ways.travel,
      timetables: ways.timetables,
      ...(first ? { first } : {}),
      ...(order.length === daySites.length && order.length > 0 ? { order } : {}),
    },
    duties,
    sites,
    depot,
    notes: ways.notes,
    asks: () => daySites.map((site) => asksOfSite(site.id, [...jobs.values()])),
  };
}

/** Minutes and ferries between the places of a day; the first row is from where one starts, the first column to the depot. */
async function waysBetween(
  depot: Place,
  stops: readonly Place[],
  start: Place,
): Promise<{ travel: number[][]; timetables: Timetable[]; notes: string[] }> {
  const places = [depot, ...stops, ...(start === depot ? [] : [start])];
  const table = await travelBetween(places);
  const from = start === depot ? 0 : places.length - 1;
  const size = stops.length + 1;
  const travel = Array.from({ length: size }, (_, i) =>
    Array.from({ length: size }, (_unused, k) => must(must(table.minutes[i === 0 ? from : i])[k])),
  );
  must(travel[0])[0] = 0;
  const timetables = table.timetables.flatMap((one) => {
    if (one.to >= size || (one.from >= size && one.from !== from)) return [];
    if (one.from === from) return from === 0 ? [one] : [{ ...one, from: 0 }, ...(one.from < size ? [one] : [])];
    return from !== 0 && one.from === 0 ? [] : [one];
  });
  return { travel, timetables: timetables.filter((one) => one.from !== one.to), notes: table.notes };
}

interface DutyOfDay {
  row: DutySql;
  job: DayJob;
  fixed: FixedPhase[];
  asks: JobAsks;
}

function asksOfSite(siteId: string, all: readonly DutyOfDay[]): SiteAsks {
  const mine = all.filter((one) => one.row.siteId === siteId);
  return asksAt(
    siteId,
    mine.map(({ job, asks }) => ({ ...asks, job })),
    (variant, id) => lockedJob(variant, must(mine.find((one) => one.row.dutyId === id)).row, mine),
  );
}

function stepTitles({ steps }: Procedure, { steps: own, bench }: ProcedurePhases): DayDuty["steps"] {
  const titles = new Map(steps.map((step) => [step.id, step.title]));
  return [{ path: MACHINE, steps: own }, ...bench].map(({ path, steps: phases }) => ({
    path,
    steps: phases.map((ids) => ids.map((id) => titles.get(id) ?? id)),
  }));
}

/** What of a duty's phases is still to be done: all of them, or what its sheet leaves. */
function stillToDo(
  procedure: Procedure,
  planned: ProcedurePhases,
  run: { entries: RunEvent[] } | undefined,
): RemainingPhases {
  if (run) return remainingPhases(procedure, planned, foldRun(procedure, run.entries));
  return {
    phases: planned.phases,
    waitingSince: null,
    bench: planned.bench.map((one) => ({ ...one, waitingSince: null })),
  };
}

/** Where a person is by the day's events: at a site, or on the way from it. */
export function whereabouts(events: readonly DayEventRow[]): { site: string; there: boolean } | null {
  const last = events.filter((event) => event.type === "arrived" || event.type === "left").at(-1);
  return last?.siteId ? { site: last.siteId, there: last.type === "arrived" } : null;
}

/** One service at a time on a machine: where it has several duties, each holds it throughout. */
function lockedJob(job: DayJob, { machineId }: DutySql, jobs: readonly DutyOfDay[]): DayJob {
  if (jobs.filter((one) => one.row.machineId === machineId).length < 2) return job;
  return {
    ...job,
    phases: job.phases.map((phase) => ({ ...phase, uses: [...(phase.uses ?? []), `machine ${machineId}`] })),
  };
}

function daySite(site: KnownSite, jobs: readonly DutyOfDay[], on: string): DaySite {
  const locked = jobs.map(({ job, row }) => lockedJob(job, row, jobs));
  const used = [...new Set(locked.flatMap(allPhases).flatMap((phase) => phase.uses ?? []))];
  const access = site.closed ? [] : hoursOn(site.accessHours, on);
  return {
    id: site.id,
    ...(access ? { access } : {}),
    arriving: ARRIVING_MINUTES,
    leaving: LEAVING_MINUTES,
    resources: used.map((id) => ({ id, capacity: site.sharedPlaces[id] ?? 1 })),
    jobs: locked,
    fixed: jobs.flatMap((one) => one.fixed),
  };
}

/** Who is at a site has been let in, whatever its hours say; only its closing still counts. */
function letIn({ access, ...site }: DaySite, now: number): DaySite {
  const closing = Math.max(0, ...(access ?? []).map((span) => span[1]));
  return closing > now ? { ...site, access: [[Math.min(now, ...must(access).map((span) => span[0])), closing]] } : site;
}

/** What a duty is worth on a day, against others: hard stops first, then what is late, then what is near (common practice). */
export function worth(state: DueState, daysLeft: number | null, hardStop: boolean): number {
  const late = daysLeft === null ? 0 : Math.max(0, -daysLeft);
  const base = { stopped: 900, overdue: 300, due: 200, warning: 80, notice: 25, later: 5 }[state];
  return (base + Math.min(200, 10 * late)) * (hardStop && state !== "later" ? 2 : 1);
}

/** The earlier of the times of day at which a machine is needed again: its own, and the duty's. */
function readyBy(times: readonly (string | undefined)[]): { readyBy?: number } {
  const minutes = times.flatMap((time) => (time ? [minutesOf(time)] : []));
  return minutes.length > 0 ? { readyBy: Math.min(...minutes) } : {};
}

/** What customers have said that they do before somebody comes, by machine. */
async function promisedOn(onDay: string, machineIds: readonly string[]): Promise<Map<string, Set<string>>> {
  const promised = new Map<string, Set<string>>();
  if (machineIds.length === 0) return promised;
  const rows = await getDb().models.CustomerRequest.findAll({
    attributes: ["machineId", "ask"],
    where: { onDay, machineId: [...machineIds], answer: "yes" },
    raw: true,
  });
  for (const { machineId, ask } of rows) promised.set(machineId, (promised.get(machineId) ?? new Set()).add(ask));
  return promised;
}

const isAgreed = ({ machineId, ask }: DayAsk, promised: ReadonlyMap<string, ReadonlySet<string>>): boolean =>
  promised.get(machineId)?.has(ask) ?? false;

/** Open sheets with the version they are worked on and their logs. */
async function openSheets(ids: readonly string[]): Promise<Map<string, { procedure: Procedure; entries: RunEvent[] }>> {
  if (ids.length === 0) return new Map();
  const db = getDb();
  const runs = await sql.proceduresOfSheets({ ids });
  const entries = await db.models.LogEntry.findAll({
    attributes: ["sheetId", "body"],
    where: { sheetId: [...ids] },
    order: ["seq"],
    raw: true,
  });
  return new Map(
    runs.map(({ id, body, expanded }) => [
      id,
      { procedure: expanded ?? body, entries: entries.filter((one) => one.sheetId === id).map((one) => one.body) },
    ]),
  );
}
