/** How a calendar day is written: YYYY-MM-DD. Whether the day exists, the core says. */
export const DAY = /^\d{4}-\d{2}-\d{2}$/;
