import { parseDay } from "../days/parse-day";
import { must } from "../must";
import type { DatedValue } from "../schedule/types";
import { DEFAULT_RATE_WINDOW_DAYS, parseReadings, rateOf } from "../schedule/usage-rate";

/** Use may be this many times the usual rate before a value looks like a slip (common practice). */
const SPREAD = 3;
/** Without a known rate: this many times the last value (common practice). */
const GROWTH = 5;

export interface ExpectedRange {
  last: number;
  lastOn: string;
  /** Use per day over the last quarter, null when unknown. */
  perDay: number | null;
  /** The next value is expected between these, both included. */
  low: number;
  high: number;
}

/**
 * Where the next value of a meter is expected: from the last value up to what three times the usual use would give, so
 * that a slip of the finger or a replaced meter is asked about and a busy week is not.
 *
 * @param readings the meter's readings in any order; a lower value is a replaced meter
 * @param today 'YYYY-MM-DD'
 * @returns null before the first reading
 * @throws CoreError on impossible dates or values
 * @example expectedRange([{ on: '2026-01-01', value: 1200 }, { on: '2026-01-12', value: 1233 }], '2026-01-15') // => { low: 1233, high: 1260, … }
 */
export function expectedRange(readings: readonly DatedValue[], today: string): ExpectedRange | null {
  const parsed = parseReadings(readings, "readings", true);
  const last = parsed[parsed.length - 1];
  if (!last) return null;
  const now = parseDay(today, "today");
  const perDay = rateOf(parsed, now, DEFAULT_RATE_WINDOW_DAYS);
  const days = Math.max(1, now - last.on);
  const high =
    perDay !== null && perDay > 0
      ? last.value + SPREAD * perDay * days
      : last.value === 0
        ? Infinity
        : last.value * GROWTH;
  const lastOn = readings.reduce((latest, one) => (one.on >= latest ? one.on : latest), must(readings[0]).on);
  return { last: last.value, lastOn, perDay, low: last.value, high };
}
