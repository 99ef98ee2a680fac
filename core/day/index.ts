export { type AskedJob, type AskedVisit, bestRequests, type BestRequests } from "./best-requests";
export { type DayFigures, dayFigures } from "./day-figures";
export { dayHours, type DayHours } from "./day-hours";
export { clockTime, planDay } from "./plan-day";
export { changeInWords, suggestChanges, type DayChange } from "./suggest-changes";
export { leastEnd } from "./least-end";
export { dayRisk, type DayRisk } from "./risk";
export type { DayJob, DayPlan, DayProblem, DaySite, DayStop } from "./types";
export { type LeftOut, proposeDay, type ProposedDay, type ProposeOptions, whyLeft } from "./propose-day";
