export { checkVisit } from "./check-visit";
export { packVisit } from "./pack-visit";
export type { FixedPhase, Phase, PhaseRef, VisitJob, VisitProblem, VisitSchedule } from "./types";
export { procedurePhases } from "./procedure-phases";
export { remainingPhases } from "./remaining-phases";
