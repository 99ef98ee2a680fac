/** Row types of every table, inferred from the tables. Days are 'YYYY-MM-DD', instants Date in UTC. */
export type * from "./tables/people";
export type * from "./tables/register";
export type * from "./tables/duties";
export type * from "./tables/faults";
export type * from "./tables/sheets";
export type * from "./tables/days";
export type * from "./tables/stores";
export type * from "./tables/outside";
export type * from "./tables/jobs";
export type * from "./tables/messages";
export type * from "./tables/wear";
export type * from "./values";
