import { formatDay } from "../days/format-day";
import { parseDay } from "../days/parse-day";

/** The stretched scale of what is ahead: near days one by one, far ones together. */
export type SpanName = "overdue" | "today" | "week" | "month" | "quarter" | "year";

export interface AheadCell {
  span: SpanName;
  /** First and last day, as days from today; `-Infinity` is written as null for what is overdue. */
  fromDay: number | null;
  toDay: number;
}

/** Days from today to the end of each span, last day included. */
export const AHEAD_DAYS = 365;
const WEEK_END = 6;
const MONTH_END = 30;
const MONTH_STEP = 6;
const QUARTER_END = 91;
const QUARTER_STEP = 15;
const YEAR_STEP = 31;

/** The cells of the scale, in order. Together they hold every day up to {@link AHEAD_DAYS}, each once. */
export const AHEAD_CELLS: readonly AheadCell[] = [
  { span: "overdue", fromDay: null, toDay: -1 },
  { span: "today", fromDay: 0, toDay: 0 },
  ...steps("week", 1, WEEK_END, 1),
  ...steps("month", WEEK_END + 1, MONTH_END, MONTH_STEP),
  ...steps("quarter", MONTH_END + 1, QUARTER_END, QUARTER_STEP),
  ...steps("year", QUARTER_END + 1, AHEAD_DAYS, YEAR_STEP),
];

function steps(span: SpanName, from: number, to: number, step: number): AheadCell[] {
  const cells: AheadCell[] = [];
  for (let day = from; day <= to; day += step) cells.push({ span, fromDay: day, toDay: Math.min(to, day + step - 1) });
  return cells;
}

/**
 * The cell that a day falls into.
 *
 * @param on 'YYYY-MM-DD' @param today the site's own day
 * @returns index into {@link AHEAD_CELLS}, −1 beyond the scale
 */
export function aheadCell(on: string, today: string): number {
  const days = parseDay(on, "on") - parseDay(today, "today");
  if (days < 0) return 0;
  return AHEAD_CELLS.findIndex((cell) => cell.fromDay !== null && days >= cell.fromDay && days <= cell.toDay);
}

/** First and last calendar day of a cell; `from` is null for what is overdue. */
export function cellDays(cell: AheadCell, today: string): { from: string | null; to: string } {
  const day = parseDay(today, "today");
  return { from: cell.fromDay === null ? null : formatDay(day + cell.fromDay), to: formatDay(day + cell.toDay) };
}
