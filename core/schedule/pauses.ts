import { formatDay } from "../days/format-day";
import { parseDay } from "../days/parse-day";
import { CoreError } from "../errors";
import { must } from "../must";
import type { PauseSpan } from "./types";

/** A pause as day numbers: `to` is the first day that counts again, null while nobody knows when that is. */
export interface Pause {
  from: number;
  to: number | null;
  reason: string;
}

/** Pauses in day order, those that touch or overlap joined into one. */
export function parsePauses(spans: readonly PauseSpan[] | undefined): Pause[] {
  if (spans === undefined || spans.length === 0) return [];
  const pauses = spans.map((span, i): Pause => {
    const from = parseDay(span.from, `pauses[${i}].from`);
    const to = span.to === undefined || span.to === null ? null : parseDay(span.to, `pauses[${i}].to`);
    if (to !== null && to < from)
      throw new CoreError(
        "bad-value",
        `pauses[${i}].to`,
        `A pause cannot end on ${must(span.to)}, before it begins on ${span.from}.`,
      );
    return { from, to, reason: span.reason ?? "" };
  });
  const joined: Pause[] = [];
  for (const pause of pauses.filter((one) => one.to !== one.from).sort((a, b) => a.from - b.from)) {
    const last = joined[joined.length - 1];
    if (last && (last.to === null || last.to >= pause.from)) {
      if (last.to !== null && (pause.to === null || pause.to > last.to)) last.to = pause.to;
      if (pause.reason && !last.reason.includes(pause.reason))
        last.reason = last.reason ? `${last.reason}; ${pause.reason}` : pause.reason;
    } else joined.push({ ...pause });
  }
  return joined;
}

/**
 * A calendar interval's end with the days of its pauses left out: a machine in store does not age by the calendar.
 *
 * @returns null when the interval runs into a pause without an end
 */
export function extendOverPauses(anchor: number, due: number, pauses: readonly Pause[]): number | null {
  let end = due;
  for (const pause of pauses) {
    if (pause.to !== null && pause.to <= anchor) continue;
    if (end < pause.from) break;
    if (pause.to === null) return null;
    end += pause.to - Math.max(pause.from, anchor);
  }
  return end;
}

/**
 * A due day that fell into a pause, or was already past when one began, waits for the first day after it: work that is
 * open when a machine comes back is due then, not overdue since.
 *
 * @returns null in a pause without an end
 */
export function postponeToResume(due: number, pauses: readonly Pause[], today: number): number | null {
  let on = due;
  for (const pause of pauses) {
    if (pause.to === null) {
      if (on >= pause.from || today >= pause.from) return null;
    } else if (on < pause.to && (on >= pause.from || today >= pause.from)) on = pause.to;
  }
  return on;
}

/** What the pauses since `anchor` did, in plain sentences. */
export function pauseWords(pauses: readonly Pause[], anchor: number | null, due: number | null): string[] {
  return pauses
    .filter(
      (pause) => (anchor === null || pause.to === null || pause.to > anchor) && (due === null || pause.from <= due),
    )
    .map((pause) => {
      const why = pause.reason ? ` (${pause.reason})` : "";
      return pause.to === null
        ? `Paused since ${formatDay(pause.from)}${why}: no due day until it is resumed.`
        : `Paused from ${formatDay(pause.from)} to ${formatDay(pause.to)}${why}: those days do not count, and what was open waits for the day after.`;
    });
}
