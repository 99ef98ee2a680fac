export { allRounds } from "./all-rounds";
export { baselineReadings, withBaselines } from "./baselines";
export { chemicalClash, harmsOf } from "./chemicals";
export { checkProcedure } from "./check-procedure";
export { type FollowUp, followUps } from "./follow-ups";
export { UNKNOWN_CAUSE } from "./readable-events";
export { foldRun } from "./fold-run";
export { type LoggedClock, loggedClocks } from "./logged-clocks";
export { lastResults } from "./logged-facts";
export { compareProcedures } from "./compare-procedures";
export { creditedPlans } from "./credited-plans";
export { expandNested } from "./expand-nested";
export { judgeReading, limitWords, summaryOf, timedBounds, timerNow, type TimedBounds, type TimerNow } from "./judge";
export { trialScatter } from "./trial-scatter";
export { lintProcedure, type LintFinding } from "./lint-procedure";
export { type Lock, locksOf } from "./locks";
export { missingSteps, nextSteps, sheetSteps, type MissingStep, type SheetStep } from "./next-steps";
export { closesRun, orderEvents, undoneIds } from "./order-events";
export {
  type ItemClosing,
  type OpenItem,
  openItems,
  settledBy,
  settlesItem,
  severityOf,
  type SheetEffects,
  sheetEffects,
} from "./open-items";
export { itemMinutes, WANTED_WITHIN_DAYS, wantedBy } from "./open-item-terms";
export { type DrawingName, drawingNames, type Figure } from "./figure";
export { placeGates } from "./place-gates";
export { statesInForce } from "./standing-gates";
export type {
  Begins,
  Calculator,
  GateKind,
  HazardKind,
  Ledger,
  Limits,
  MachineFacts,
  MachineState,
  Material,
  MixRecipe,
  Procedure,
  Step,
  StepRef,
} from "./procedure";
export type { AskedValue, Correction, Outcome, RunEvent, RunEventBody, RunEventType } from "./run-event";
export { runResults, type RunResults } from "./run-results";
export { stepsThatBringSomething, unsafeWork } from "./unsafe-work";
export { type SummedMaterial, sumMaterials } from "./sum-materials";
export { terse, withDefaults } from "./terse";
export { usualSteps } from "./usual-steps";
export {
  type AppliedCorrection,
  type LoggedCheck,
  type MixedSolution,
  type RunState,
  stepKey,
  type StepStatus,
} from "./run-state";
export { meantValue, type PastValues, questionValue, valueOfStep } from "./question-value";
