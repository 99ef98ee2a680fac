export { driveRound, orderRound } from "./order-round";
export type { OrderedRound, RoundOptions, RoundProblem, RoundStop, RoundTimes, Timetable } from "./types";
