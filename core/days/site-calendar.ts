import { requireList, requireRecord } from "../inputs";
import { requirePositiveWhole } from "../numbers";
import { formatDay } from "./format-day";
import { isoWeekday } from "./iso-weekday";
import { parseDay } from "./parse-day";

/** Days on which nobody works at a site. */
export interface SiteCalendar {
  /** ISO weekdays (1 = Monday … 7 = Sunday) on which the site is always closed. */
  closedWeekdays: readonly number[];
  /** Holidays and closures, first and last day included. */
  closed: readonly { from: string; to: string }[];
}

/** Whether a site is closed on a day, by its number. */
export function closedTest(calendar: SiteCalendar): (day: number) => boolean {
  const weekdays = new Set(requireList(requireRecord(calendar, "calendar").closedWeekdays, "closedWeekdays"));
  const spans = requireList(calendar.closed, "closed").map((span, i) => {
    const { from, to } = requireRecord(span, `closed[${i}]`);
    return [parseDay(from, `closed[${i}].from`), parseDay(to, `closed[${i}].to`)] as const;
  });
  return (day) => weekdays.has(isoWeekday(day)) || spans.some(([from, to]) => day >= from && day <= to);
}

/**
 * Days before a machine will stand idle: the last open day before each stretch of closed days of at least `minDays`.
 *
 * @param from first day looked at, 'YYYY-MM-DD'
 * @param until last day that may be an answer
 * @param minDays length of a stretch that counts, in days; 2 is a plain weekend
 * @returns days in order; [] for a site that never opens
 * @example idleAheadDays({ closedWeekdays: [6, 7], closed: [] }, '2026-02-02', '2026-02-15') // => ['2026-02-06', '2026-02-13']
 */
export function idleAheadDays(calendar: SiteCalendar, from: string, until: string, minDays = 2): string[] {
  requirePositiveWhole(minDays, "minDays");
  const isClosed = closedTest(calendar);
  const first = parseDay(from, "from");
  const last = parseDay(until, "until");
  const days: string[] = [];
  for (let day = first; day <= last; day++) {
    if (isClosed(day)) continue;
    let length = 0;
    while (length < minDays && isClosed(day + 1 + length)) length++;
    if (length === minDays) days.push(formatDay(day));
  }
  return days;
}

/** Longest closure looked through for an open day, in days. */
const SEARCH_DAYS = 400;

/**
 * First open day after a day: when the second half of a split duty falls due (drained on Friday, refilled on Monday).
 *
 * @returns null when the site stays closed for longer than 400 days
 */
export function nextOpenDay(calendar: SiteCalendar, after: string): string | null {
  const isClosed = closedTest(calendar);
  const day = parseDay(after, "after");
  for (let next = day + 1; next <= day + SEARCH_DAYS; next++) if (!isClosed(next)) return formatDay(next);
  return null;
}
