import { CoreError } from "../errors";
import { civilOf } from "./civil";

/**
 * Writes a day number as 'YYYY-MM-DD'.
 *
 * @throws CoreError `out-of-range` outside the years 0000–9999, which that form cannot write
 * @example formatDay(20512) // => '2026-02-28'
 */
export function formatDay(dayNumber: number): string {
  const { year, month, day } = civilOf(dayNumber);
  if (!(year >= 0 && year <= 9999)) {
    throw new CoreError(
      "out-of-range",
      "day",
      "The interval leads to a day outside the years 0000 to 9999; use a shorter one.",
    );
  }
  const y = year < 1000 ? String(year).padStart(4, "0") : String(year);
  return `${y}-${month < 10 ? "0" : ""}${month}-${day < 10 ? "0" : ""}${day}`;
}
