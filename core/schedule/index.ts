export { assessDue } from "./assess-due";
export { coveredBy, creditCovered } from "./credit-covered";
export { dayFromCompletions } from "./day-from-completions";
export { dueState } from "./due-state";
export { firstDays, startingOn, type FirstDay } from "./first-days";
export { projectDue } from "./project-due";
export { usableAgain, type NotUntil, type UsableAgain } from "./usable-again";
export { usageRate } from "./usage-rate";
export type {
  Completion,
  DatedValue,
  DueAssessment,
  DueInput,
  DueState,
  Lead,
  PauseSpan,
  Plan,
  Trigger,
  Unit,
} from "./types";
