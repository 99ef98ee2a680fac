import { dayOrNaN, parseDay } from "../days/parse-day";
import { must } from "../must";
import { requireFinite, requireNotNegative, requirePositive } from "../numbers";
import type { DatedValue } from "./types";

/** Readings older than this say little about how a machine is used now (common practice: about one quarter). */
export const DEFAULT_RATE_WINDOW_DAYS = 90;

/** A parsed reading: day number and value. */
export interface DayValue {
  on: number;
  value: number;
}

/** Parses readings and puts them in day order; readings of one day keep the order given. */
export function parseReadings(readings: readonly DatedValue[], path: string, requireMeter: boolean): DayValue[] {
  const parsed: DayValue[] = new Array<DayValue>(readings.length);
  let sorted = true;
  for (let i = 0; i < readings.length; i++) {
    const reading = must(readings[i]);
    const on = dayOrNaN(reading.on);
    const { value } = reading;
    // Field names are built for an error only: this is the hottest loop of the engine.
    if (on !== on) parseDay(reading.on, `${path}[${i}].on`);
    // A quantity may be negative (a temperature), a meter may not.
    if (!Number.isFinite(value) || (requireMeter && value < 0))
      (requireMeter ? requireNotNegative : requireFinite)(value, `${path}[${i}].value`);
    parsed[i] = { on, value };
    if (i > 0 && must(parsed[i - 1]).on > on) sorted = false;
  }
  return sorted ? parsed : parsed.sort((a, b) => a.on - b.on);
}

/** Increase from one face value to the next: a lower value is a replaced meter that restarted from zero. */
export function increase(before: number, after: number): number {
  return after < before ? after : after - before;
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
