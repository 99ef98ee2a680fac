import { studentCdf, studentQuantile } from "./student";

/** The side on which a limit is passed. */
export type Worse = "up" | "down";

/** Where a line passes its limit; `high` null: its slope is not sure enough for a last place. */
export interface Crossing {
  at: number;
  low: number;
  high: number | null;
}

/** A line of wear with what is not known of it: of its level at the mean place, and of its slope. */
export interface WearLine {
  /** Mean place of its values: days, or a meter's use. */
  meanAt: number;
  /** Its value there. */
  level: number;
  levelSe: number;
  /** Change of the value for one of `at`. */
  slope: number;
  slopeSe: number;
  /** Scatter of a single value about it. */
  sd: number;
  /** Degrees of freedom behind `sd`. */
  degrees: number;
  worse: Worse;
}

/** Share of what is to be expected that lies within a band. */
export const LEVEL = 0.9;

/** What a new reading would be, with the band in which it lies: the line's uncertainty and a single value's scatter. */
export function lineValue(line: WearLine, at: number, level = LEVEL): { value: number; low: number; high: number } {
  const u = at - line.meanAt;
  const value = line.level + line.slope * u;
  const half =
    studentQuantile((1 + level) / 2, line.degrees) *
    Math.sqrt(line.sd ** 2 + line.levelSe ** 2 + (line.slopeSe * u) ** 2);
  return { value, low: value - half, high: value + half };
}

/** The chance that the line is past its limit at a place; without scatter 0 or 1, and a half at the limit itself. */
export function lineChance(line: WearLine, limit: number, at: number): number {
  const u = at - line.meanAt;
  const past = (line.worse === "up" ? 1 : -1) * (line.level + line.slope * u - limit);
  const se = Math.hypot(line.levelSe, line.slopeSe * u);
  // The series of t loses its last digits at either end.
  if (se > 0) return Math.min(1, Math.max(0, studentCdf(past / se, line.degrees)));
  return past > 0 ? 1 : past < 0 ? 0 : 0.5;
}

/**
 * Where the line passes its limit, with Fieller's band (E. C. Fieller, J. R. Stat. Soc. B 16, 1954): every place at which it can
 * be there. With u from the mean place: (slope·u − d)² <= t²·(levelSe² + slopeSe²·u²), a parabola in u.
 *
 * @returns null when it goes the other way, or nothing can be said
 */
export function lineCrossing(line: WearLine, limit: number, level = LEVEL): Crossing | null {
  const { meanAt, slope, worse } = line;
  if (slope === 0 || slope > 0 !== (worse === "up")) return null;
  const d = limit - line.level;
  const at = meanAt + d / slope;
  const t = studentQuantile((1 + level) / 2, line.degrees);
  const ofLevel = (t * line.levelSe) ** 2;
  const ofSlope = (t * line.slopeSe) ** 2;
  const a = slope ** 2 - ofSlope;
  const root = ofSlope * d ** 2 + a * ofLevel;
  if (root < 0) return null;
  // Only just not sure: the other root is beyond all measure.
  if (a === 0) return d === 0 ? null : { at, low: meanAt + (d ** 2 - ofLevel) / (2 * slope * d), high: null };
  const roots = [(slope * d - Math.sqrt(root)) / a, (slope * d + Math.sqrt(root)) / a].sort((x, y) => x - y);
  const [low = NaN, high = NaN] = roots.map((u) => meanAt + u);
  return { at, low, high: a > 0 ? high : null };
}
