import { addDays, daysBetween, type LevelItem, must, weeklyMinutes } from "@core";
import type { DutyRow } from "@db";

import { dueNow } from "~/duties/due.server";
import { recentMeters, repeatsAfter } from "~/duties/repeats.server";
import { firmDay } from "~/kit/days/firm-day.server";
import { Refusal } from "~/kit/refusal";
import { search } from "~/kit/server/aside.server";
import { likeText } from "~/kit/server/like-text.server";
import { newestProcedures } from "~/procedures/procedures.server";

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

/** Hands-on minutes of the next 52 weeks under a filter, as they fall and levelled inside each duty's tolerance. */
export async function workload(filter: AheadFilter, now: Date): Promise<Workload> {
  const { on: today } = await firmDay(now);
  const duties = await sql.dutiesToLevel({ ...filter, like: `${likeText(filter.q ?? "")}%` }, filter);
  if (duties.length > MAX_DUTIES) {
    throw new Refusal(
      422,
      "too-many",
      `That is more than ${MAX_DUTIES.toLocaleString("en")} duties. Choose a customer, a family or a person in Ahead first.`,
    );
  }
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
  const handsOn = await handsOnMinutes();
  const meters = await recentMeters(duties, now);
  const until = addDays(today, WEEKS * 7 - 1);
  const week = (on: string): number => Math.floor(daysBetween(today, on) / 7);
  return duties.flatMap((duty) => {
    const { dueOn } = dueNow({ ...duty, projected: duty.projected, hardStop: duty.hardStop }, today);
    const first = must(dueOn) < today ? today : must(dueOn);
    if (first > until) return [];
    const days = [first, ...repeatsAfter(duty, first, today, until, meters.get(duty.machineId) ?? {})];
    const minutes = handsOn.get(duty.procedureId) ?? duty.minutes;
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

async function handsOnMinutes(): Promise<Map<string, number>> {
  const families = (await sql.stepsOfNewest()).map((row) => row.family);
  return new Map((await newestProcedures(families)).map((one) => [one.id, one.minutes.handsOn]));
}
