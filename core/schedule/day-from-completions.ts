import { addDays } from "../days/add-days";
import { daysBetween } from "../days/days-between";
import { parseDay } from "../days/parse-day";
import { requireList } from "../inputs";
import { must } from "../must";
import { median } from "../quantile";

/** So many of the latest intervals: how it went years ago says little. */
const LATEST = 6;

/**
 * About when work comes round again that nothing but its past tells of: the last completion plus the median of the latest
 * six intervals. A stand-in for a meter that nobody has read; common practice, no due day.
 *
 * @param completedOn days YYYY-MM-DD, in any order; several on one day count once
 * @returns the day, and how many intervals it rests on; null with fewer than two days
 * @throws CoreError `bad-date`
 * @example dayFromCompletions(["2026-01-01", "2026-01-31", "2026-03-02"]) // => { on: "2026-04-01", intervals: 2 }
 */
export function dayFromCompletions(completedOn: readonly string[]): { on: string; intervals: number } | null {
  requireList(completedOn, "completedOn");
  completedOn.forEach((day, i) => parseDay(day, `completedOn[${i}]`));
  const days = [...new Set(completedOn)].sort();
  if (days.length < 2) return null;
  const gaps = days
    .slice(1)
    .map((day, i) => daysBetween(must(days[i]), day))
    .slice(-LATEST);
  return { on: addDays(must(days.at(-1)), Math.round(median(gaps))), intervals: gaps.length };
}
