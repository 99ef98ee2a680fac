export { allRounds } from "./all-rounds";
export { chemicalClash, type ChemicalClash } from "./chemicals";
export { checkProcedure, type ProcedureFault } from "./check-procedure";
export { foldRun } from "./fold-run";
export { compareProcedures, type ProcedureChange, type StepChange } from "./compare-procedures";
export { expandNested } from "./expand-nested";
export {
  coolEnough,
  judgeReading,
  judgeWait,
  limitsOf,
  limitWords,
  maxWarningMinutes,
  summaryOf,
  timedBounds,
  timerNow,
  type SoakVerdict,
  type TimedBounds,
  type TimerNow,
  type Verdict,
} from "./judge";
export { lintProcedure, lintRules, type LintFinding } from "./lint-procedure";
export { missingSteps, nextSteps, sheetSteps, type MissingStep, type SheetStep } from "./next-steps";
export { closesRun, instantMs, orderEvents, undoneIds } from "./order-events";
export type {
  Calculator,
  Figure,
  GateKind,
  Hazard,
  HazardKind,
  Limits,
  MachineFacts,
  Material,
  MixRecipe,
  Part,
  Procedure,
  ProcedurePlan,
  School,
  Step,
  StepCondition,
  StepKind,
  StepRef,
  Who,
} from "./procedure";
export type { Correction, EventOf, Outcome, RunEvent, RunEventBody, RunEventType } from "./run-event";
export { runResults, type RunResults } from "./run-results";
export { usualSteps } from "./usual-steps";
export {
  stepKey,
  type AppliedCorrection,
  type FittedPart,
  type LoggedPhoto,
  type LoggedReading,
  type LoggedText,
  type MixedSolution,
  type RunState,
  type StepState,
  type StepStatus,
  type TimerState,
  type UsedConsumable,
} from "./run-state";
