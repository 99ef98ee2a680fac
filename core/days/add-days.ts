import { formatDay } from "./format-day";
import { parseDay } from "./parse-day";

/**
 * A calendar day some days later, or earlier with a negative count.
 *
 * @param day 'YYYY-MM-DD' @param count whole days
 * @throws CoreError `bad-date` when `day` is no day
 * @example addDays('2026-02-27', 2) // => '2026-03-01'
 */
export function addDays(day: string, count: number): string {
  return formatDay(parseDay(day, "day") + count);
}
