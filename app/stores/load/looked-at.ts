/** What stays in the van is looked at once in so many days. */
export const LOOKED_AT_DAYS = 7;
