import { must } from "@core";
/** Opening times of one weekday, each from–to as HH:MM. */
export type DayHours = [from: string, to: string][];
/** By ISO weekday, 1 = Monday. An empty list: nobody lets us in, though the site may be working; `closed`: it stands still. */
export type WeekHours = Record<number, DayHours | "closed">;

const NAMES = ["mo", "tu", "we", "th", "fr", "sa", "su"];
export const WEEKDAY_NAMES = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
/** More than any firm's week takes. */
const LONGEST = 1000;
const ALL = [1, 2, 3, 4, 5, 6, 7];
const TIMES = /^([01]?\d|2[0-4]):([0-5]\d)\s*[-–]\s*([01]?\d|2[0-4]):([0-5]\d)$/;

/**
 * Reads access hours as people write them: `05:30-09:00` for every day, or by weekday
 * `Mon-Fri 07:00-11:30, 14:00-18:00; Sat 08:00-12:00; Sun closed`. Once any day is named, the others are without access.
 *
 * @returns null for an empty text: nothing is known, nothing is closed
 * @throws Error with what is not understood
 */
export function parseAccessHours(typed: string): WeekHours | null {
  if (typed.length > LONGEST) throw new Error(`Hours of more than ${LONGEST} signs are not understood.`);
  // Many blanks are one: how long reading takes may not depend on them.
  const text = typed.replaceAll(/\s+/g, " ");
  if (text.trim() === "") return null;
  const week: WeekHours = Object.fromEntries(ALL.map((day) => [day, []]));
  for (const part of text.split(";").map((one) => one.trim())) {
    if (part === "") continue;
    const split = /^((?:[a-z]+\s*(?:[-–,]\s*[a-z]+\s*)*)\s)?\s*(closed|[\d:,\s–-]+)$/i.exec(part);
    if (!split) throw new Error(`"${part}" is not understood. Write for example Mon-Fri 07:00-15:00; Sat 08:00-12:00.`);
    const days = split[1] ? daysOf(split[1].trim()) : ALL;
    const hours = must(split[2]).toLowerCase() === "closed" ? "closed" : must(split[2]).split(",").map(timesOf);
    for (const day of days) week[day] = hours;
  }
  return week;
}

function daysOf(text: string): number[] {
  return text.split(",").flatMap((span) => {
    const [from, to] = span.split(/[-–]/).map((name) => {
      const index = NAMES.indexOf(name.trim().slice(0, 2).toLowerCase());
      if (index < 0) throw new Error(`"${name.trim()}" is no weekday.`);
      return index;
    }) as [number, number | undefined];
    if (to === undefined) return [from + 1];
    return Array.from({ length: ((to - from + 7) % 7) + 1 }, (_, i) => ((from + i) % 7) + 1);
  });
}

function timesOf(text: string): [string, string] {
  const found = TIMES.exec(text.trim());
  if (!found) throw new Error(`"${text.trim()}" is no span of time. Write for example 07:00-15:00.`);
  const from = `${must(found[1]).padStart(2, "0")}:${found[2]}`;
  const to = `${must(found[3]).padStart(2, "0")}:${found[4]}`;
  if (to <= from || to > "24:00") throw new Error(`${from}–${to} ends before it begins.`);
  return [from, to];
}

/** Weekdays on which the site stands still; [] when nothing is known or the text is not understood. */
export function closedWeekdays(text: string): number[] {
  try {
    const week = parseAccessHours(text);
    return week === null ? [] : ALL.filter((day) => week[day] === "closed");
  } catch {
    return [];
  }
}

/** One line a weekday, equal days together: for showing what was understood. */
export function accessLines(text: string): string[] {
  const week = parseAccessHours(text);
  if (week === null) return [];
  const words = (day: number): string => {
    const hours = must(week[day]);
    if (hours === "closed") return "closed";
    return hours.length === 0 ? "no access" : hours.map(([from, to]) => `${from}–${to}`).join(", ");
  };
  const lines: { from: number; to: number; words: string }[] = [];
  for (const day of ALL) {
    const last = lines[lines.length - 1];
    if (last?.words === words(day)) last.to = day;
    else lines.push({ from: day, to: day, words: words(day) });
  }
  return lines.map(
    ({ from, to, words: hours }) =>
      `${WEEKDAY_NAMES[from - 1]}${to > from ? ` to ${WEEKDAY_NAMES[to - 1]}` : ""} ${hours}`,
  );
}
