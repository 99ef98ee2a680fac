export { clockTime, compareDays, planDay, type DayOptions } from "./plan-day";
export { changeInWords, keepJobs, leaveOut, suggestChanges, type DayChange } from "./suggest-changes";
export { leastEnd } from "./least-end";
export { dayRisk, type DayRisk } from "./risk";
export type { DayJob, DayPlan, DayProblem, DaySite, DayStop } from "./types";
export { proposeDay, type ProposedDay } from "./propose-day";
