import { parseDay } from "../days/parse-day";
import { CoreError } from "../errors";
import { requireList, requireRecord, requireText } from "../inputs";
import { plainNumber, requireFinite, requirePositive } from "../numbers";
import { median } from "../quantile";
import { type DayValue, DEFAULT_RATE_WINDOW_DAYS, parseReadings, rateOf } from "../schedule/usage-rate";
import { isHours, possibleOf, type Span } from "./possible";

export interface PlausibleInput {
  value: number;
  unit: string;
  /** What was read before, in any order; what is dated after `on` is left aside. */
  history: readonly { on: string; value: number }[];
  /** Day of the reading, YYYY-MM-DD. */
  on: string;
  /** What it can be at all, both ends included; the unit's physics when absent. */
  possible?: Span;
  /** A `meter` only counts up; a `level` comes and goes. */
  kind?: "level" | "meter";
  /** The last digit in use, in the unit: 0.1 of a scale that is read to tenths. Told by the history when absent. */
  step?: number;
}

export interface Plausible {
  verdict: "usual" | "unusual" | "impossible" | "unknown";
  /** Where the value is expected, both ends included; null while too little is known. */
  usual: Span | null;
  because: string;
}

/** So many of the last values say what is usual, and from so many on they say it; from so many on as a trend. */
const [LAST, FEWEST, TREND] = [12, 5, 8];
/** A median absolute deviation as a standard deviation of normal values (Rousseeuw, Croux 1993). */
const MAD_AS_SD = 1.4826;
const HOURS_A_DAY = 24;
/** A value on the edge of the band is within it, however it was rounded. */
const SLACK = 1e-9;

/**
 * Whether a value can be, and whether it is what this machine shows: what can slip past nobody who looks at the last values.
 * Levels are held against the median of the last twelve, or the Theil–Sen line through them; meters go up, and not faster
 * than three times as fast as they did.
 *
 * @returns `unknown` with too little history and nothing against the value
 * @throws CoreError for values that are no numbers, impossible dates, a `possible` whose ends are the wrong way round
 */
export function plausible(input: PlausibleInput): Plausible {
  const { unit, kind = "level" } = requireRecord(input, "input");
  const value = requireFinite(input.value, "value");
  requireText(unit, "unit");
  if (!["level", "meter"].includes(kind))
    throw new CoreError("bad-value", "kind", `kind is "level" or "meter", not ${JSON.stringify(kind)}.`);
  const on = parseDay(input.on, "on");
  const history = parseReadings(input.history, "history", kind === "meter").filter((one) => one.on <= on);
  const possible = input.possible ? readSpan(input.possible) : possibleOf(unit);
  const expected = kind === "meter" ? ofMeter(history, on) : ofLevel(history, on, input.step);
  const said = `${plainNumber(value)} ${unit}`.trim();
  const against =
    isImpossible(value, possible, unit) ?? (kind === "meter" ? isTooFast(value, unit, history, on) : null);
  if (against !== null) return { verdict: "impossible", usual: expected?.usual ?? null, because: against };
  if (expected === null)
    return { verdict: "unknown", usual: null, because: `Too little is known to judge ${said} by.` };
  const [low, high] = expected.usual;
  const slack = SLACK * Math.max(1, Math.abs(value));
  const within = (low === null || value >= low - slack) && (high === null || value <= high + slack);
  const band = bandWords(expected.usual, unit);
  return within
    ? { verdict: "usual", usual: expected.usual, because: `${said} is ${band}: ${expected.from}.` }
    : { verdict: "unusual", usual: expected.usual, because: `${said} is not ${band}: ${expected.from}.` };
}

interface Expected {
  usual: Span;
  /** What it is expected from, in words. */
  from: string;
}

function isImpossible(value: number, [low, high]: Span, unit: string): string | null {
  const said = `${plainNumber(value)} ${unit}`;
  if (low !== null && value < low) return `${said} cannot be: less than ${plainNumber(low)} ${unit} is not possible.`;
  if (high !== null && value > high)
    return `${said} cannot be: more than ${plainNumber(high)} ${unit} is not possible.`;
  return null;
}

/** A meter of hours counts no more than there are. */
function isTooFast(value: number, unit: string, history: readonly DayValue[], on: number): string | null {
  const last = history.at(-1);
  if (!isHours(unit) || !last) return null;
  const most = HOURS_A_DAY * (on - last.on + 1);
  if (value - last.value <= most + SLACK * most) return null;
  return `${plainNumber(value)} ${unit} cannot be: that is ${plainNumber(value - last.value)} h more than the last value, in ${plainNumber(most)} h.`;
}

function ofMeter(history: readonly DayValue[], on: number): Expected | null {
  const last = history.at(-1);
  if (!last) return null;
  const rate = rateOf(history, on, DEFAULT_RATE_WINDOW_DAYS);
  const from = `the last value was ${plainNumber(last.value)}`;
  if (rate !== null)
    return {
      usual: [last.value, last.value + 3 * rate * (on - last.on)],
      from: `${from}, ${on === last.on ? "the same day" : on - last.on === 1 ? "a day ago" : `${on - last.on} days ago`}, and it counts about ${plainNumber(rate)} a day`,
    };
  return {
    usual: [last.value, last.value === 0 ? null : 5 * last.value],
    from: `${from}, and how fast it counts is unknown`,
  };
}

function ofLevel(history: readonly DayValue[], on: number, given: number | undefined): Expected | null {
  const step = (given ?? null) === null ? lastDigit(history) : requirePositive(given, "step");
  if (history.length < FEWEST) return null;
  const last = history.slice(-LAST);
  const slope = last.length >= TREND ? theilSen(last) : 0;
  // Days are counted from the reading's own: the line's value there is its intercept.
  const level = (one: DayValue): number => one.value - slope * (one.on - on);
  const centre = median(last.map(level));
  const mad = median(last.map((one) => Math.abs(level(one) - centre)));
  const half = Math.max(5 * MAD_AS_SD * mad, Math.abs(centre) / 10, 3 * step);
  return {
    usual: [centre - half, centre + half],
    from: `the last ${last.length} values were between ${plainNumber(Math.min(...last.map((one) => one.value)))} and ${plainNumber(Math.max(...last.map((one) => one.value)))}`,
  };
}

/** Median of the slopes between all values of different days (Theil 1950, Sen 1968). */
function theilSen(values: readonly DayValue[]): number {
  const slopes = values.flatMap((one, i) =>
    values
      .slice(i + 1)
      .filter((other) => other.on !== one.on)
      .map((other) => (other.value - one.value) / (other.on - one.on)),
  );
  return slopes.length > 0 ? median(slopes) : 0;
}

/** More decimals than an instrument shows come of arithmetic. */
const MOST_DECIMALS = 6;

function lastDigit(history: readonly DayValue[]): number {
  const decimals = history.map(({ value }) => {
    const [, behind = ""] = String(Number(value.toFixed(MOST_DECIMALS))).split(".");
    return behind.length;
  });
  return 10 ** -Math.max(0, ...decimals);
}

function readSpan(span: Span): Span {
  const ends = requireList(span, "possible");
  if (ends.length !== 2)
    throw new CoreError("bad-value", "possible", "possible is a list of two: the lowest and the highest, or null.");
  const [low, high] = ends.map((end, i) => ((end ?? null) === null ? null : requireFinite(end, `possible[${i}]`)));
  if (low != null && high != null && low > high)
    throw new CoreError("bad-value", "possible", `The lowest, ${low}, is above the highest, ${high}.`);
  return [low ?? null, high ?? null];
}

function bandWords([low, high]: Span, unit: string): string {
  const number = (end: number): string => `${plainNumber(end)} ${unit}`.trim();
  if (low !== null && high !== null) return `between ${plainNumber(low)} and ${number(high)}`;
  return low === null ? `at most ${number(high ?? 0)}` : `at least ${number(low)}`;
}
