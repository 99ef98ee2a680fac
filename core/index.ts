/** The computation's public list: plain data in, plain data out. Nothing here reads a clock, a database or the network. */
export { CoreError, type CoreErrorCode } from "./errors";
export { must } from "./must";
export { addDays } from "./days/add-days";
export { daysBetween } from "./days/days-between";
export { idleAheadDays, nextOpenDay, type SiteCalendar } from "./days/site-calendar";
export * from "./schedule/index";
export * from "./sheet/index";
export { hardnessClass, hardnessFactor, type HardnessClass } from "./water/hardness";
export { AHEAD_CELLS, AHEAD_DAYS, aheadCell, cellDays, type AheadCell, type SpanName } from "./ahead/spans";
export { levelledWeeks, levelModel, weeklyMinutes, type LevelItem, type LevelModel } from "./ahead/level-weeks";
export { expectedRange, type ExpectedRange } from "./meters/expected-range";
export * from "./mix/index";
export * from "./qc/index";
export * from "./tools/index";
export * from "./visit/index";
export * from "./round/index";
export { greatCircleKm, roadMinutes, type Position } from "./travel/great-circle";
export * from "./day/index";
export * from "./stock/index";
export { handsOnMinutes } from "./minutes/hands-on-minutes";
export { learnMinutes, type LearnedMinutes, type MinutesSample } from "./minutes/learn-minutes";
export {
  assignWeek,
  type WeekDuty,
  type WeekOptions,
  type WeekPlan,
  type WeekProblem,
  type WeekRoute,
} from "./week/assign-week";
