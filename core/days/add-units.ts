import { CoreError } from "../errors";
import { civilOf, dayNumberOf, daysInMonth } from "./civil";

export type Unit = "day" | "week" | "month" | "year";

/**
 * Adds whole units to a day in one addition; months and years keep the day of the month, clamped to the month's end.
 *
 * @param dayNumber days since 1970-01-01
 * @param count whole number, may be negative
 * @example 31 Jan 2026 + 1 month // => 28 Feb 2026; 28 Feb 2026 + 1 month // => 28 Mar 2026
 */
export function addUnits(dayNumber: number, count: number, unit: Unit): number {
  if (unit === "day") return dayNumber + count;
  if (unit === "week") return dayNumber + 7 * count;
  const from = civilOf(dayNumber);
  const months = from.year * 12 + (from.month - 1) + (unit === "year" ? 12 * count : count);
  const year = Math.floor(months / 12);
  if (!(year >= 0 && year <= 9999)) {
    throw new CoreError(
      "out-of-range",
      "every",
      "The interval leads to a day outside the years 0000 to 9999; use a shorter one.",
    );
  }
  const month = months - year * 12 + 1;
  return dayNumberOf(year, month, Math.min(from.day, daysInMonth(year, month)));
}

/** Mean days of the units, over the 400 years after which the calendar comes back. */
export const MEAN_DAYS: Readonly<Record<Unit, number>> = { day: 1, week: 7, month: 30.436875, year: 365.2425 };
