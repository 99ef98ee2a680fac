import { parseDay } from "./parse-day";

/**
 * Calendar days from one day to another; negative when `to` is the earlier.
 *
 * @param from 'YYYY-MM-DD' @param to 'YYYY-MM-DD'
 * @throws CoreError `bad-date` when one of them is no day
 * @example daysBetween('2026-02-27', '2026-03-01') // => 2
 */
export function daysBetween(from: string, to: string): number {
  return parseDay(to, "to") - parseDay(from, "from");
}
