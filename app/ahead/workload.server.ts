import { addDays, daysBetween, type LevelItem, must, weeklyMinutes } from "@core";
import { type DutyRow, getDb } from "@db";

import { dueNow } from "~/duties/due.server";
import { dutyTakes } from "~/duties/duty-takes";
import { recentMeters, repeatsAfter } from "~/duties/repeats.server";
import { firmDay } from "~/kit/days/firm-day.server";
import { askOnce, newestOf, type Progress } from "~/kit/jobs/jobs.server";
import type { JobKind } from "~/kit/jobs/run-jobs.server";
import { Refusal } from "~/kit/refusal";
import { search } from "~/kit/server/aside.server";
import { contentHash } from "~/kit/server/content-hash.server";
import { likeText } from "~/kit/server/like-text.server";
import { procedureTakes } from "~/procedures/procedures.server";

import type { AheadFilter } from "./ahead.server";
import * as sql from "./workload.sql";
import { MAX_DUTIES } from "./workload.sql";

export const WEEKS = 52;
/** Seconds the solver may take; the best plan found by then is shown with its bound. */
const SOLVER_SECONDS = 10;
/** Work may be done early by this share of its interval, never late (common practice: the notice span). */
const EARLY_SHARE = 0.25;

export interface Workload {
  today: string;
  duties: number;
  occurrences: number;
  movable: number;
  moved: number;
  /** Hands-on minutes a week. */
  before: number[];
  after: number[];
  /** No plan inside the tolerances can have a lower peak. */
  bound: number;
  optimal: boolean;
}

export type DutySql = Pick<
  DutyRow,
  | "id"
  | "startOn"
  | "rules"
  | "dueOn"
  | "warningFrom"
  | "noticeFrom"
  | "projected"
  | "firmDueOn"
  | "anchorOn"
  | "rivals"
  | "hardStop"
> & {
  procedureId: string;
  machineId: string;
  minutes: number;
};

/** What is kept of a filter's year. */
export interface KeptWorkload {
  /** Null when it was never worked out. */
  load: Workload | null;
  madeAt: Date | null;
  /** Worked out today, and from what there is now. */
  current: boolean;
  /** How far the newest that was asked for is. */
  job: Progress | null;
}

const valuesOf = (filter: AheadFilter): Record<string, unknown> => ({
  ...filter,
  like: `${likeText(filter.q ?? "")}%`,
});

const keyOf = ({ q, siteId, family, who, personId }: AheadFilter): string =>
  contentHash({ q, siteId, family, who, personId });

/** What a filter's year rests on, as one word that changes with any of it. */
async function marksOf(filter: AheadFilter, now: Date): Promise<string> {
  const { on: today } = await firmDay(now);
  const [found] = await sql.marksOf(valuesOf(filter), filter);
  const { duties, marks } = must(found);
  if (duties > MAX_DUTIES) {
    throw new Refusal(
      422,
      "too-many",
      `That is more than ${MAX_DUTIES.toLocaleString("en")} duties. Choose a customer, a family or a person in Ahead first.`,
    );
  }
  return contentHash({ today, duties, marks });
}

/** The year as it was worked out last, and whether that is how things are: three queries, whatever it took then. */
export async function keptWorkload(filter: AheadFilter, now: Date): Promise<KeptWorkload> {
  const marks = await marksOf(filter, now);
  // Before what is kept: a job that ends in between would seem to have kept nothing.
  const job = await newestOf(LEVEL_YEAR, titleOf(filter), now);
  const kept = await getDb().models.Workload.findByPk(keyOf(filter), { raw: true });
  if (!kept) return { load: null, madeAt: null, current: false, job };
  return { load: kept.load52 as Workload, madeAt: kept.madeAt, current: kept.marks === marks, job };
}

/** Name of the kind: a filter's year, worked out and levelled. */
export const LEVEL_YEAR = "level-year";

/** Two who ask for the same year get the same one. */
const titleOf = (filter: AheadFilter): string => `The next 52 weeks, levelled (${keyOf(filter).slice(0, 12)})`;

/**
 * Asks for a filter's year, however many ask at the same time.
 *
 * @throws Refusal 422 when that is of too many duties
 */
export async function askForYear(filter: AheadFilter, now: Date): Promise<void> {
  await marksOf(filter, now);
  await askOnce({ kind: LEVEL_YEAR, title: titleOf(filter), what: filter }, now);
}

/** One step: what takes its time is the search, which another process begins anew. */
export const levelYear: JobKind = async (job) => {
  const filter = job.what as AheadFilter;
  // As of when it was asked for: when that is yesterday by now, the page asks again.
  const marks = await marksOf(filter, job.askedAt);
  const load52 = await workload(filter, job.askedAt);
  await getDb().models.Workload.upsert({ filterKey: keyOf(filter), marks, madeAt: job.askedAt, load52 });
  return { kept: null, done: 1, total: 1, finished: true };
};

/** Hands-on minutes of the next 52 weeks under a filter, as they fall and levelled inside each duty's tolerance. */
export async function workload(filter: AheadFilter, now: Date): Promise<Workload> {
  const { on: today } = await firmDay(now);
  const duties = await sql.dutiesToLevel(valuesOf(filter), filter);
  const items = await levelItems(duties, today, now);
  const before = weeklyMinutes(items, WEEKS);
  const solved = await search(
    "levelWeeks",
    items.filter((item) => item.week > 0),
    WEEKS,
    SOLVER_SECONDS,
  );
  return {
    today,
    duties: duties.length,
    occurrences: items.length,
    movable: items.filter((item) => item.from < item.to).length,
    moved: items.filter((item) => (solved.chosen.get(item.id) ?? item.week) !== item.week).length,
    before,
    after: weeklyMinutes(items, WEEKS, solved.chosen),
    bound: solved.bound,
    optimal: solved.optimal,
  };
}

async function levelItems(duties: readonly DutySql[], today: string, now: Date): Promise<LevelItem[]> {
  const takes = await procedureTakes([...new Set(duties.map((duty) => duty.procedureId))]);
  const meters = await recentMeters(duties, now);
  const until = addDays(today, WEEKS * 7 - 1);
  const week = (on: string): number => Math.floor(daysBetween(today, on) / 7);
  return duties.flatMap((duty) => {
    const { dueOn } = dueNow({ ...duty, projected: duty.projected, hardStop: duty.hardStop }, today);
    const first = must(dueOn) < today ? today : must(dueOn);
    if (first > until) return [];
    const days = [first, ...repeatsAfter(duty, first, today, until, meters.get(duty.machineId) ?? {})];
    const minutes = dutyTakes(duty, takes.get(duty.procedureId)).hands;
    return days.map((on, i): LevelItem => {
      const before = i > 0 ? must(days[i - 1]) : (duty.anchorOn ?? today);
      const early = Math.floor(EARLY_SHARE * Math.max(0, daysBetween(before, on)));
      const earliest = addDays(on, -early);
      // The present week stays as it is: it has begun, and what is overdue stands in it.
      const from = week(on) === 0 ? 0 : Math.max(1, week(earliest < today ? today : earliest));
      return { id: `${duty.id}/${on}`, minutes, week: week(on), from, to: week(on) };
    });
  });
}
