/** The computation's public list: plain data in, plain data out. Nothing here reads a clock, a database or the network. */
export { CoreError, type CoreErrorCode } from "./errors";
export { addDays } from "./days/add-days";
export { daysBetween } from "./days/days-between";
export { idleAheadDays, nextOpenDay, type SiteCalendar } from "./days/site-calendar";
export * from "./schedule/index";
export * from "./sheet/index";
export { hardnessClass, hardnessFactor, type HardnessClass } from "./water/hardness";
