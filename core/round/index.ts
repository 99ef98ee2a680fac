export { orderRound } from "./order-round";
export type { RoundProblem, Timetable } from "./types";
