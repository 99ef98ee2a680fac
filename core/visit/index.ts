export { checkVisit } from "./check-visit";
export { packVisit } from "./pack-visit";
export type { FixedPhase, PackedPhase, PackOptions, Phase, VisitJob, VisitProblem, VisitSchedule } from "./types";
export { procedurePhases, type ProcedurePhases } from "./procedure-phases";
export { remainingPhases, type RemainingPhases } from "./remaining-phases";
