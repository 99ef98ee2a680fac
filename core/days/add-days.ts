import { CoreError } from "../errors";
import { formatDay } from "./format-day";
import { parseDay } from "./parse-day";

/**
 * A calendar day some days later, or earlier with a negative count.
 *
 * @param day 'YYYY-MM-DD' @param count whole days
 * @throws CoreError `bad-date` when `day` is no day, `bad-number` when `count` is not whole
 * @example addDays('2026-02-27', 2) // => '2026-03-01'
 */
export function addDays(day: string, count: number): string {
  if (!Number.isInteger(count))
    throw new CoreError("bad-number", "count", `count must be whole days, not ${String(count)}.`);
  return formatDay(parseDay(day, "day") + count);
}
