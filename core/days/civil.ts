/**
 * Proleptic Gregorian calendar ↔ day number, without date objects: the due engine assesses hundreds of thousands of
 * duties, and plain integers measured 3–4 times faster than calendar objects.
 *
 * Method: era arithmetic over 400-year cycles of 146,097 days with the year starting in March, so that the leap day
 * falls at its end (H. Hinnant, "chrono-Compatible Low-Level Date Algorithms", days_from_civil / civil_from_days).
 * Day 0 is 1970-01-01.
 */

const DAYS_PER_ERA = 146_097;
/** Days from 0000-03-01 to 1970-01-01. */
const EPOCH_SHIFT = 719_468;

/** @param month 1–12 @param day 1–31, must exist in the month */
export function dayNumberOf(year: number, month: number, day: number): number {
  const marchYear = month <= 2 ? year - 1 : year;
  const era = Math.floor(marchYear / 400);
  const yearOfEra = marchYear - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear;
  return era * DAYS_PER_ERA + dayOfEra - EPOCH_SHIFT;
}

/** Year, month (1–12) and day (1–31) of a day number. */
export function civilOf(dayNumber: number): { year: number; month: number; day: number } {
  const shifted = dayNumber + EPOCH_SHIFT;
  const era = Math.floor(shifted / DAYS_PER_ERA);
  const dayOfEra = shifted - era * DAYS_PER_ERA;
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36_524) - Math.floor(dayOfEra / 146_096)) / 365,
  );
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const marchMonth = Math.floor((5 * dayOfYear + 2) / 153);
  const day = dayOfYear - Math.floor((153 * marchMonth + 2) / 5) + 1;
  const month = marchMonth < 10 ? marchMonth + 3 : marchMonth - 9;
  return { year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0), month, day };
}

/** Days in a month (1–12). */
export function daysInMonth(year: number, month: number): number {
  if (month === 2) return year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28;
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
}
