import {
  assignWeek,
  type DayPlan,
  type DayProblem,
  type DayRisk,
  dayRisk,
  planDay,
  proposeDay,
  type WeekPlan,
  type WeekProblem,
} from "@core";

import { levelWeeks } from "./level-weeks";

/** A day of few sites is tried in every order however many steps that takes: so long at most, milliseconds. */
const DAY_MS = 5000;
/** Spread of a duty's minutes when nothing is known of it. */
const USUAL_SPREAD = 0.25;

/**
 * Searches that take longer than a request should hold the process for. Plain data in and out: they run in a worker thread
 * where there is one.
 */
export const searches = {
  planDay(problem: DayProblem, nodeLimit: number, spread: Record<string, number>): { plan: DayPlan; risk: DayRisk } {
    const plan = planDay(problem, { nodeLimit, timeLimitMs: DAY_MS });
    return { plan, risk: dayRisk(problem, plan, (job) => spread[job] ?? USUAL_SPREAD) };
  },
  /** Ids of the duties worth most for the hours there are. */
  proposeDay(problem: DayProblem): string[] {
    return proposeDay(problem, { timeLimitMs: DAY_MS }).jobs;
  },
  assignWeek(problem: WeekProblem, nodeLimit: number): WeekPlan {
    return assignWeek(problem, { nodeLimit });
  },
  levelWeeks,
};

export type Searches = typeof searches;
