import { isDay } from "./is-day";

/** Which figure comes first in days such as 03/04/2026. */
export type DayOrder = "day-first" | "month-first";

const FIGURES = /^(\d{1,2})([./-])(\d{1,2})\2(\d{4})$/;
const YEAR_FIRST = /^(\d{4})[./](\d{1,2})[./](\d{1,2})$/;
const IN_WORDS = /^(\d{1,2})\.?[ -]([a-z]{3,9})\.?,?[ -](\d{4})$|^([a-z]{3,9})\.? (\d{1,2}),? (\d{4})$/i;
const MONTHS = [
  "january",
  "february",
  "march",
  "april",
  "may",
  "june",
  "july",
  "august",
  "september",
  "october",
  "november",
  "december",
];

const made = (year: string, month: number, day: string): string | null => {
  const text = `${year}-${String(month).padStart(2, "0")}-${day.padStart(2, "0")}`;
  return isDay(text) ? text : null;
};

/**
 * A day as people and spreadsheets write it: 2026-04-03, 2026/4/3, 3.4.2026, 3 April 2026, Apr 3, 2026, and 3/4/2026 or
 * 3-4-2026 where it is known which figure comes first.
 *
 * @param order how the last two are meant; points have the day first everywhere
 * @returns YYYY-MM-DD; null for what is no day, two that may be meant otherwise when that is not known
 */
export function readDay(text: string, order: DayOrder | null): ReadDay {
  const said = text.trim();
  if (isDay(said)) return { day: said };
  const [, year = "", month = "", day = ""] = YEAR_FIRST.exec(said) ?? [];
  return year === "" ? (inWords(said) ?? inFigures(said, order)) : one(made(year, Number(month), day));
}

type ReadDay = { day: string } | { either: [string, string] } | null;

const one = (day: string | null) => (day === null ? null : { day });

function inWords(said: string): ReadDay {
  const words = IN_WORDS.exec(said);
  if (!words) return null;
  const [, day = words[5] ?? "", name = words[4] ?? "", year = words[6] ?? ""] = words;
  const month = MONTHS.findIndex((full) => full.startsWith(name.toLowerCase()));
  return month < 0 ? null : one(made(year, month + 1, day));
}

function inFigures(said: string, order: DayOrder | null): ReadDay {
  const [, first = "", mark, second = "", year = ""] = FIGURES.exec(said) ?? [];
  if (year === "") return null;
  const dayFirst = made(year, Number(second), first);
  const monthFirst = made(year, Number(first), second);
  if (mark === "." || order === "day-first") return one(dayFirst);
  if (order === "month-first") return one(monthFirst);
  if (dayFirst === null || monthFirst === null || dayFirst === monthFirst) return one(dayFirst ?? monthFirst);
  return { either: [dayFirst, monthFirst] };
}

/**
 * Which figure comes first in the days of a column: told by those that can be read in one way only.
 *
 * @returns null when none tells, or some tell otherwise
 */
export function dayOrderOf(texts: Iterable<string>): DayOrder | null {
  let [dayFirst, monthFirst] = [false, false];
  for (const text of texts) {
    const [, first, mark, second] = FIGURES.exec(text.trim()) ?? [];
    if (mark === undefined || mark === ".") continue;
    if (Number(first) > 12) dayFirst = true;
    if (Number(second) > 12) monthFirst = true;
  }
  if (dayFirst === monthFirst) return null;
  return dayFirst ? "day-first" : "month-first";
}

/** A cell of a file that holds a day: the day, or in words why it is none. */
export function dayCell(text: string, order: DayOrder | null): { day: string } | { reason: string } {
  const read = readDay(text, order);
  if (read === null) return { reason: "Must be a day that exists, such as 2026-04-03." };
  if ("day" in read) return read;
  return { reason: `May be ${read.either.join(" or ")}: say beside the file which figure comes first.` };
}
