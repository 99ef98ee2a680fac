import { AHEAD_CELLS, cellDays, must, type SpanName } from "@core";

export const SPAN_NAMES: Record<SpanName, string> = {
  overdue: "Overdue",
  today: "Today",
  week: "Next 6 days",
  month: "To 30 days",
  quarter: "To 3 months",
  year: "To a year",
};

const dayName = new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", timeZone: "UTC" });
const monthDay = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", timeZone: "UTC" });
const dateOf = (day: string): Date => new Date(`${day}T00:00:00Z`);

/** Short head of a cell's column. */
export function cellHead(index: number, today: string): string {
  const cell = must(AHEAD_CELLS[index]);
  if (cell.span === "overdue") return "";
  const { from } = cellDays(cell, today);
  if (cell.span === "today" || cell.span === "week") return dayName.format(dateOf(must(from)));
  return monthDay.format(dateOf(must(from)));
}

/** A cell's span in words, for screen readers and the panel. */
export function cellWords(index: number, today: string): string {
  const cell = must(AHEAD_CELLS[index]);
  if (cell.span === "overdue") return "overdue";
  const { from, to } = cellDays(cell, today);
  if (cell.span === "today") return "today";
  return from === to
    ? dayName.format(dateOf(from))
    : `${monthDay.format(dateOf(must(from)))} to ${monthDay.format(dateOf(to))}`;
}

/** Minutes as hours and minutes. */
export function hoursWords(minutes: number): string {
  const whole = Math.round(minutes);
  const hours = Math.floor(whole / 60);
  return hours === 0 ? `${whole} min` : `${hours} h${whole % 60 > 0 ? ` ${whole % 60} min` : ""}`;
}
