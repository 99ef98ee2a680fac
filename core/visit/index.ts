export { type Beforehand, beforehandOf, COOL_BEFOREHAND } from "./beforehand";
export { allPhases, benchJobId, type BenchPath, dutyOfJob, MACHINE, visitJobs } from "./bench-jobs";
export { checkVisit } from "./check-visit";
export { packVisit } from "./pack-visit";
export type { FixedPhase, Phase, PhaseRef, VisitJob, VisitProblem, VisitSchedule } from "./types";
export { type ProcedurePhases, procedurePhases } from "./procedure-phases";
export { type RemainingPhases, remainingPhases } from "./remaining-phases";
