import { CoreError } from "../errors";
import { dayNumberOf, daysInMonth } from "./civil";

/** Last day a 'YYYY-MM-DD' can name: 9999-12-31. */
export const LAST_DAY = 2_932_896;

/**
 * Reads a calendar day, without building a field name that only an error needs.
 *
 * @returns whole days since 1970-01-01, or NaN when the text has another form or names a day that does not exist
 */
export function dayOrNaN(text: unknown): number {
  if (typeof text === "string" && text.length === 10 && text.charCodeAt(4) === 45 && text.charCodeAt(7) === 45) {
    const year = digits(text, 0, 4);
    const month = digits(text, 5, 7);
    const day = digits(text, 8, 10);
    if (year >= 0 && month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year, month)) {
      return dayNumberOf(year, month, day);
    }
  }
  return NaN;
}

/**
 * Reads a calendar day.
 *
 * @param text 'YYYY-MM-DD'
 * @param path field name for the error
 * @returns whole days since 1970-01-01
 * @throws CoreError `bad-date` when the text has another form or names a day that does not exist
 * @example parseDay('2026-02-28', 'on') // => 20512
 */
export function parseDay(text: unknown, path: string): number {
  const day = dayOrNaN(text);
  if (day !== day)
    throw new CoreError(
      "bad-date",
      path,
      `${path} must be a day that exists, written YYYY-MM-DD, not "${String(text)}".`,
    );
  return day;
}

/** The number written in text[from, to), or −1000 when a character is not a digit. */
function digits(text: string, from: number, to: number): number {
  let value = 0;
  for (let i = from; i < to; i++) {
    const digit = text.charCodeAt(i) - 48;
    if (digit < 0 || digit > 9) return -1000;
    value = value * 10 + digit;
  }
  return value;
}
