import { CoreError, daysBetween } from "@core";

/** Days that can stand in the books: machines are older than the firm, and nothing is planned further than this. */
export const FIRST_DAY = "1900-01-01";
export const LAST_DAY = "2199-12-31";
/** The earliest and latest instant that a log or a reading may name. */
export const FIRST_INSTANT = Date.UTC(2000, 0, 1);
export const LAST_INSTANT = Date.UTC(2199, 11, 31);

const INSTANT = /^(\d{4}-\d{2}-\d{2})T([01]\d|2[0-3]):([0-5]\d):([0-5]\d)(\.\d{1,3})?(Z|[+-](0\d|1[0-4]):[0-5]\d)$/;

/** Whether a text names a calendar day that exists, written YYYY-MM-DD, within the years that the books hold. */
export function isDay(text: unknown): text is string {
  if (typeof text !== "string" || text < FIRST_DAY || text > LAST_DAY) return false;
  try {
    daysBetween(text, text);
    return true;
  } catch (error) {
    if (error instanceof CoreError) return false;
    throw error;
  }
}

/** Whether a text names an instant with its offset, such as 2026-02-28T09:30:00Z, on a day that exists. */
export function isInstant(text: unknown): text is string {
  if (!isClockTime(text)) return false;
  const at = Date.parse(text);
  return at >= FIRST_INSTANT && at <= LAST_INSTANT;
}

/** Whether a text is what some clock may show, right or wrong: one that has lost its time says 1970. */
export function isClockTime(text: unknown): text is string {
  if (typeof text !== "string") return false;
  const found = INSTANT.exec(text);
  return found !== null && isDay(found[1]);
}
