import type { DueState } from "./types";

/**
 * State of a duty on a day, from its three stored days.
 *
 * Works on day numbers as well as on 'YYYY-MM-DD' texts, whose alphabetical order is their order in time.
 *
 * @param days due day and alert days, null when there is none
 * @param today the site's own day
 */
export function dueState<Day extends string | number>(
  days: { dueOn: Day | null; warningFrom: Day | null; noticeFrom: Day | null; hardStop: boolean },
  today: Day,
): DueState {
  const { dueOn, warningFrom, noticeFrom } = days;
  if (dueOn === null) return "later";
  if (today > dueOn) return days.hardStop ? "stopped" : "overdue";
  if (today === dueOn) return "due";
  if (warningFrom !== null && today >= warningFrom) return "warning";
  if (noticeFrom !== null && today >= noticeFrom) return "notice";
  return "later";
}
