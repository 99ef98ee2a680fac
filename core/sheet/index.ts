export { allRounds } from "./all-rounds";
export { checkProcedure, type ProcedureFault } from "./check-procedure";
export { foldRun } from "./fold-run";
export { judgeReading, judgeWait, limitWords, maxWarningMinutes, timerNow, type SoakVerdict, type TimerNow, type Verdict } from "./judge";
export { missingSteps, nextSteps, sheetSteps, type MissingStep, type SheetStep } from "./next-steps";
export { closesRun, instantMs, orderEvents } from "./order-events";
export type {
  Hazard,
  HazardKind,
  Limits,
  MachineFacts,
  Material,
  Part,
  Procedure,
  ProcedurePlan,
  Step,
  StepCondition,
  StepKind,
  StepRef,
  Who,
} from "./procedure";
export type { Correction, EventOf, Outcome, RunEvent, RunEventBody, RunEventType } from "./run-event";
export { runResults, type RunResults } from "./run-results";
export {
  stepKey,
  type AppliedCorrection,
  type FittedPart,
  type LoggedReading,
  type LoggedText,
  type RunState,
  type StepState,
  type StepStatus,
  type TimerState,
  type UsedConsumable,
} from "./run-state";
