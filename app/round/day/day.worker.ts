import { type DayChange, type DayPlan, type DayProblem, planDay, suggestChanges } from "@core";
import { expose } from "comlink";

const MILLISECONDS = 4000;

export interface DayPlanner {
  /** `onBetter` answers false to stop. */
  plan(problem: DayProblem, onBetter: (plan: DayPlan) => void): Promise<DayPlan>;
  /** The day in an order chosen by hand. */
  inOrder(problem: DayProblem, order: string[]): Promise<DayPlan>;
  /** What would make a day hold that does not. */
  changes(problem: DayProblem, plan: DayPlan): Promise<DayChange[]>;
}

/** Planning goes on here, so that the page never waits for it. Ended from outside by `terminate`. */
expose({
  plan: (problem: DayProblem, onBetter: (plan: DayPlan) => void) =>
    Promise.resolve(planDay(problem, { timeLimitMs: MILLISECONDS, onProgress: (plan) => onBetter(plan) })),
  inOrder: (problem: DayProblem, order: string[]) => Promise.resolve(planDay({ ...problem, order })),
  changes: (problem: DayProblem, plan: DayPlan) => Promise.resolve(suggestChanges(problem, plan)),
} satisfies DayPlanner);
