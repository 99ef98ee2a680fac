import { shipped } from "../../sheet/testing/shipped";

/** A weekly service of an oven written with states and paths, and the daily clean that it holds. */
export const OVEN = { daily: shipped("conveyor-oven-daily"), weekly: shipped("conveyor-oven-weekly") };

/** What the same service came to as one list that made safe and cooled down in each part, minutes. */
export const AS_ONE_LIST = 260;
