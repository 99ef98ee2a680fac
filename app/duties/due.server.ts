import { assessDue, daysBetween, type DueAssessment, type DueState, dueState, must } from "@core";
import type { DutyRow } from "@db";

import { dayInZone, latestDay } from "~/kit/days/site-day";
import { type ProcedureTakes, procedureTakes } from "~/procedures/procedures.server";

import type { StoredDue } from "./assess.server";
import * as sql from "./due.sql";
import { type DutyTakes, dutyTakes } from "./duty-takes";
import { EMERGENCY_CALL, WHAT_WAS_LEFT } from "./general-procedures";
import { heldAmong } from "./holds.server";
import { dueInput, machineFacts } from "./machine-facts.server";

export interface DueNow {
  state: DueState;
  dueOn: string | null;
  daysLeft: number | null;
}

/**
 * State of a stored duty on the site's day. A forecast that has passed without a reading makes a duty due, never
 * overdue; only a day that is no forecast does that.
 */
export function dueNow(
  stored: Pick<StoredDue, "dueOn" | "warningFrom" | "noticeFrom" | "projected" | "firmDueOn"> & { hardStop: boolean },
  today: string,
): DueNow {
  let { dueOn } = stored;
  if (dueOn !== null && stored.projected && today > dueOn) {
    dueOn = stored.firmDueOn !== null && stored.firmDueOn < today ? stored.firmDueOn : today;
  }
  const state = dueState(
    { dueOn, warningFrom: stored.warningFrom, noticeFrom: stored.noticeFrom, hardStop: stored.hardStop },
    today,
  );
  return { state, dueOn, daysLeft: dueOn === null ? null : daysBetween(today, dueOn) };
}

export interface DueRow extends DueNow {
  dutyId: string;
  title: string;
  /** What it takes, typically. */
  takes: DutyTakes;
  who: DutyRow["who"];
  anchorOn: string | null;
  rivals: string[];
  /** Between which days its day lies, where it is foretold from what was measured. */
  foretoldFrom: string | null;
  foretoldTo: string | null;
  hardStop: boolean;
  projected: boolean;
  machineId: string;
  machineName: string;
  machineTag: string;
  family: string;
  area: string;
  siteId: string;
  siteName: string;
  customerName: string;
  accessHours: string;
  today: string;
  plannedOn: string | null;
  plannedForName: string | null;
  openSheetId: string | null;
  /** The machine must not be used until a lead clears it. */
  outOfService: boolean;
  /** Why the last visit left it undone. */
  lastOutcome: { outcome: string; reason: string; at: string } | null;
}

export interface DueSqlRow extends Omit<
  DueRow,
  "state" | "daysLeft" | "today" | "openRunId" | "lastOutcome" | "outOfService" | "takes"
> {
  procedureId: string;
  minutes: number;
  timeZone: string;
  warningFrom: string | null;
  noticeFrom: string | null;
  firmDueOn: string | null;
}

/** What needs a technician now, longest due first: 50 a page, a fixed number of queries. Operators' own duties are theirs. */
export async function listDue(
  filter: { siteId?: string | null; after?: string | null; limit?: number },
  now: Date,
): Promise<{ rows: DueRow[]; next: string | null }> {
  const limit = filter.limit ?? 50;
  const [afterDay, afterId] = filter.after?.split("_") ?? [];
  // The page's ids come from one covering index; only they are joined.
  const found = await sql.dueDuties(
    {
      latest: latestDay(now),
      siteId: filter.siteId ?? "",
      afterDay: afterDay ?? "",
      afterId: afterId ?? "",
      fetch: limit + 1,
    },
    filter,
    afterDay,
    afterId,
  );
  const page = found.slice(0, limit);
  const last = page[page.length - 1];
  return {
    rows: (await withSheets(await asDueRows(page, now))).filter((row) => row.state !== "later"),
    next: found.length > limit && last ? `${last.dueOn}_${last.dutyId}` : null,
  };
}

/** The duties of one machine, soonest first. */
export async function listMachineDuties(machineId: string, now: Date): Promise<DueRow[]> {
  const found = await sql.dutiesOfMachine({ machineId });
  return withSheets(await asDueRows(found, now));
}

/** The duty of a machine that comes next. */
export interface NextDuty extends DueNow {
  title: string;
  anchorOn: string | null;
  rivals: string[];
  /** Between which days its day lies, where it is foretold from what was measured. */
  foretoldFrom: string | null;
  foretoldTo: string | null;
  hardStop: boolean;
  today: string;
}

export type MachineDutySqlRow = Pick<
  DueSqlRow,
  | "machineId"
  | "title"
  | "who"
  | "anchorOn"
  | "rivals"
  | "foretoldFrom"
  | "foretoldTo"
  | "hardStop"
  | "projected"
  | "dueOn"
  | "warningFrom"
  | "noticeFrom"
  | "firmDueOn"
  | "timeZone"
>;

/** What comes next on each of these machines, by its id; operators' own duties only where there is nothing else. One query. */
export async function nextOfMachines(machineIds: readonly string[], now: Date): Promise<Map<string, NextDuty>> {
  const next = new Map<string, NextDuty & Pick<DueSqlRow, "who">>();
  if (machineIds.length === 0) return next;
  for (const row of await sql.dutiesOfMachines({ machineIds })) {
    const { machineId, title, who, anchorOn, rivals, hardStop, foretoldFrom, foretoldTo } = row;
    const today = dayInZone(now, row.timeZone);
    const band = { foretoldFrom, foretoldTo };
    const one = { title, who, anchorOn, rivals, ...band, hardStop, today, ...dueNow(row, today) };
    const before = next.get(machineId);
    if (!before || isBefore(one, before)) next.set(machineId, one);
  }
  return next;
}

type Ranked = Pick<NextDuty, "dueOn" | "title"> & Pick<DueSqlRow, "who">;

function isBefore(a: Ranked, b: Ranked): boolean {
  const rank = (one: Ranked): string =>
    `${one.dueOn === null ? 1 : 0}${one.who === "operator" ? 1 : 0}${one.dueOn} ${one.title}`;
  return rank(a) < rank(b);
}

/** Why a duty that is made on the spot is due on its day. */
const MADE_BECAUSE: Record<string, string[]> = {
  [WHAT_WAS_LEFT]: ["It is due on the earliest day by which one of the items that it carries is wanted."],
  [EMERGENCY_CALL]: ["It is due on the day on which the call came in."],
};

/** One duty with its live assessment and the reasons. */
export async function getDuty(
  dutyId: string,
  now: Date,
): Promise<{ row: DueRow; duty: DutyRow; assessed: DueAssessment } | null> {
  const [found] = await sql.oneDuty({ dutyId });
  if (!found) return null;
  const facts = must(await machineFacts(found.machineId));
  const duty = must(facts.duties.find((one) => one.id === dutyId));
  const [row] = await withSheets(await asDueRows([found], now));
  const assessed = assessDue(dueInput(duty, facts, must(row).today));
  // The app logs these events itself: nobody knows them by name.
  const because = MADE_BECAUSE[duty.procedureId];
  return { row: must(row), duty, assessed: because ? { ...assessed, because } : assessed };
}

async function asDueRows(rows: readonly DueSqlRow[], now: Date): Promise<DueRow[]> {
  const takes = await procedureTakes([...new Set(rows.map((row) => row.procedureId))]);
  return rows.map((row) => asDueRow(row, takes.get(row.procedureId), now));
}

function asDueRow(row: DueSqlRow, procedure: ProcedureTakes | undefined, now: Date): DueRow {
  const { timeZone, warningFrom, noticeFrom, firmDueOn, procedureId, minutes, ...shown } = row;
  const today = dayInZone(now, timeZone);
  const stored = {
    ...shown,
    warningFrom,
    noticeFrom,
    firmDueOn,
    projected: row.projected,
    hardStop: row.hardStop,
  };
  return {
    ...shown,
    takes: dutyTakes({ procedureId, minutes }, procedure),
    projected: stored.projected,
    hardStop: stored.hardStop,
    ...dueNow(stored, today),
    today,
    openSheetId: null,
    lastOutcome: null,
    outOfService: false,
  };
}

/** Adds whether its machine is out of service, each duty's open sheet, and why the last visit left it undone if nothing was completed since. */
async function withSheets(rows: DueRow[]): Promise<DueRow[]> {
  if (rows.length === 0) return rows;
  const sheets = await sql.latestSheets({ dutyIds: rows.map((row) => row.dutyId) });
  const held = await heldAmong([...new Set(rows.map((row) => row.machineId))]);
  for (const row of rows) row.outOfService = held.has(row.machineId);
  const byDuty = new Map(rows.map((row) => [row.dutyId, row]));
  for (const sheet of sheets) {
    const row = must(byDuty.get(sheet.dutyId));
    if (sheet.status === "open") row.openSheetId = sheet.id;
    // Runs come in order: a signed one after an outcome settles it.
    if (sheet.status === "signed") row.lastOutcome = null;
    if (sheet.status === "ended")
      row.lastOutcome = {
        outcome: sheet.outcome ?? "",
        reason: sheet.reason ?? "",
        at: sheet.closedAt?.toISOString() ?? "",
      };
  }
  return rows;
}
