import {
  type AskedVisit,
  assignWeek,
  type BestRequests,
  bestRequests,
  type DayChange,
  type DayExtra,
  dayExtras,
  type DayPlan,
  type DayProblem,
  type DayRisk,
  dayRisk,
  judgeSheet,
  type LeftOut,
  planDay,
  proposeDay,
  suggestChanges,
  UNKNOWN_SPREAD,
  type WeekPlan,
  type WeekProblem,
  whyLeft,
} from "@core";

import { levelWeeks } from "./level-weeks";

/** A day of few sites is tried in every order however many steps that takes: so long at most, milliseconds. */
const DAY_MS = 5000;
/** How a day is proposed: with what chance, by how minutes scatter, and whether it is said why the rest is left. */
export interface ProposeHow {
  chance: number;
  spread: Record<string, number>;
  reasons?: boolean;
}

export interface DayProposal {
  jobs: string[];
  plan: DayPlan;
  risk: DayRisk;
  left: LeftOut[];
}

/**
 * Searches that take longer than a request should hold the process for. Plain data in and out: they run in a worker thread
 * where there is one.
 */
export const searches = {
  planDay(problem: DayProblem, nodeLimit: number, spread: Record<string, number>): { plan: DayPlan; risk: DayRisk } {
    const plan = planDay(problem, { nodeLimit, timeLimitMs: DAY_MS });
    return { plan, risk: dayRisk(problem, plan, (job) => spread[job] ?? UNKNOWN_SPREAD) };
  },
  /** The duties worth most for the hours there are, on a day that holds so often; planned as the day's own page plans them. */
  proposeDay(problem: DayProblem, nodeLimit: number, how: ProposeHow): DayProposal {
    const options = {
      nodeLimit,
      timeLimitMs: DAY_MS,
      chance: how.chance,
      spread: (job: string) => how.spread[job] ?? UNKNOWN_SPREAD,
    };
    const day = proposeDay(problem, options);
    const { jobs, plan } = day;
    return {
      jobs,
      plan,
      risk: dayRisk(day.problem, plan, options.spread),
      left: how.reasons ? whyLeft(problem, day, options) : [],
    };
  },
  /** What would make a day hold that does not. */
  suggestChanges(problem: DayProblem, plan: DayPlan, how: Omit<ProposeHow, "reasons">): DayChange[] {
    const spread = (job: string): number => how.spread[job] ?? UNKNOWN_SPREAD;
    return suggestChanges(problem, plan, { timeLimitMs: DAY_MS, chance: how.chance, spread });
  },
  /** What else a planned day has room for where it goes anyway. */
  dayExtras(problem: DayProblem, on: string[], plan: DayPlan, how: Omit<ProposeHow, "reasons">): DayExtra[] {
    return dayExtras(problem, on, plan, { chance: how.chance, spread: (job) => how.spread[job] ?? UNKNOWN_SPREAD });
  },
  /** What to ask each customer for before a day's visits. */
  bestRequests(visits: AskedVisit[], nodeLimit: number): BestRequests[] {
    return visits.map((visit) => bestRequests(visit, { nodeLimit }));
  },
  assignWeek(problem: WeekProblem, nodeLimit: number): WeekPlan {
    return assignWeek(problem, { nodeLimit });
  },
  levelWeeks,
  judgeSheet,
};

export type Searches = typeof searches;
