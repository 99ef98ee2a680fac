export { poolCauses } from "./pool-causes";
export { learnCauses, type LearnedCause } from "./learn-causes";
export { nextCheck, type NextCheck, type NextCheckInput } from "./next-check";
export type {
  CheckFind,
  FaultCause,
  FaultCheck,
  FaultGuide,
  FaultSymptom,
  FindStep,
  OptionClause,
  RemedyKind,
  RemedyStep,
} from "./guide";
export {
  CAUSE_STEP,
  FAULT_EVENT,
  faultProcedureId,
  findStepOf,
  guideProcedure,
  isFaultProcedure,
  PROOF_STEP,
  SYMPTOM_STEP,
} from "./guide-procedure";
export { GuideSearch, isMeant, type OpenCheck, type SearchInput, typicalChances, UNKNOWN_SHARE } from "./guide-search";
export { type GuideFinding, guideRules, lintGuide } from "./lint-guide";
export { type SearchGate, wayInto } from "./way-into";
export { type UsualLife, usualLife } from "./usual-life";
