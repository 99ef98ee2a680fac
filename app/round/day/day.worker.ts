import { type DayChange, type DayPlan, type DayProblem, planDay, suggestChanges, UNKNOWN_SPREAD } from "@core";
import { expose } from "comlink";

const MILLISECONDS = 4000;

/** How often the day has to hold, by how its duties' minutes scatter. */
export interface HoldsHow {
  chance: number;
  spread: Record<string, number>;
}

export interface DayPlanner {
  /** `onBetter` answers false to stop. */
  plan(problem: DayProblem, onBetter: (plan: DayPlan) => void): Promise<DayPlan>;
  /** The day in an order chosen by hand. */
  inOrder(problem: DayProblem, order: string[]): Promise<DayPlan>;
  /** What would make a day hold that does not. */
  changes(problem: DayProblem, plan: DayPlan, how: HoldsHow): Promise<DayChange[]>;
}

/** Planning goes on here, so that the page never waits for it. Ended from outside by `terminate`. */
expose({
  plan: (problem: DayProblem, onBetter: (plan: DayPlan) => void) =>
    Promise.resolve(planDay(problem, { timeLimitMs: MILLISECONDS, onProgress: (plan) => onBetter(plan) })),
  inOrder: (problem: DayProblem, order: string[]) => Promise.resolve(planDay({ ...problem, order })),
  changes: (problem: DayProblem, plan: DayPlan, { chance, spread }: HoldsHow) =>
    Promise.resolve(suggestChanges(problem, plan, { chance, spread: (job) => spread[job] ?? UNKNOWN_SPREAD })),
} satisfies DayPlanner);
