import { dayOrNaN, parseDay } from "../days/parse-day";
import { instantMs } from "../days/parse-instant";
import { isRecord, requireList, requireRecord } from "../inputs";
import { must } from "../must";
import { requireFinite, requireNotNegative, requirePositive } from "../numbers";
import { type FaceValue, increase, inLeastUse } from "./least-use";
import type { DatedValue } from "./types";

/** Readings older than this say little about how a machine is used now (common practice: about one quarter). */
export const DEFAULT_RATE_WINDOW_DAYS = 90;

/** A parsed reading: day number and value. */
export type DayValue = FaceValue;

/** Parses readings and puts them in day order; a meter's readings of one day in the order of least use. */
export function parseReadings(readings: readonly DatedValue[], path: string, requireMeter: boolean): DayValue[] {
  requireList(readings, path);
  const parsed: DayValue[] = new Array<DayValue>(readings.length);
  let sorted = true;
  for (let i = 0; i < readings.length; i++) {
    const reading = isRecord(readings[i]) ? must(readings[i]) : requireRecord(readings[i], `${path}[${i}]`);
    const on = dayOrNaN(reading.on);
    const { value } = reading;
    // Field names are built for an error only: this is the hottest loop of the engine.
    if (on !== on) parseDay(reading.on, `${path}[${i}].on`);
    // A quantity may be negative (a temperature), a meter may not.
    if (!Number.isFinite(value) || (requireMeter && value < 0))
      (requireMeter ? requireNotNegative : requireFinite)(value, `${path}[${i}].value`);
    const { at } = reading;
    parsed[i] = { on, value, at: at ? instantMs(at, `${path}[${i}].at`) : null };
    if (i > 0 && must(parsed[i - 1]).on > on) sorted = false;
  }
  if (!sorted) parsed.sort((a, b) => a.on - b.on);
  return requireMeter ? inLeastUse(parsed) : parsed;
}

/** Rate over parsed, day-ordered readings; see {@link usageRate}. */
export function rateOf(readings: readonly DayValue[], today: number, windowDays: number): number | null {
  const from = today - windowDays;
  let sum = 0;
  let first: DayValue | null = null;
  let last: DayValue | null = null;
  for (const reading of readings) {
    if (reading.on < from) continue;
    if (reading.on > today) break;
    if (last === null) first = reading;
    else sum += increase(last.value, reading.value);
    last = reading;
  }
  if (first === null || last === null || first.on === last.on) return null;
  return sum / (last.on - first.on);
}

/**
 * Mean use per day: the sum of increases divided by the days between the first and the last reading in
 * [today − windowDays, today].
 *
 * @param readings meter readings in any order; a value lower than the one before is a replaced meter
 * @param today 'YYYY-MM-DD'
 * @param windowDays length of the window in days, above zero; default 90
 * @returns use per day in the meter's unit, or null with fewer than two different days in the window
 * @throws CoreError on impossible dates, or values that are negative or not finite
 * @example usageRate([{ on: '2026-01-01', value: 100 }, { on: '2026-01-11', value: 150 }], '2026-01-20') // => 5
 */
export function usageRate(
  readings: readonly DatedValue[],
  today: string,
  windowDays = DEFAULT_RATE_WINDOW_DAYS,
): number | null {
  requirePositive(windowDays, "windowDays");
  return rateOf(parseReadings(readings, "readings", true), parseDay(today, "today"), windowDays);
}
