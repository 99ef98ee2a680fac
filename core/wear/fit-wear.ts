import { CoreError } from "../errors";
import { requireList, requireRecord } from "../inputs";
import { requireFinite, requireNotNegative, requirePositive, requirePositiveWhole } from "../numbers";
import { leastSquares } from "./least-squares";
import { type Crossing, LEVEL, lineChance, lineCrossing, lineValue, type WearLine, type Worse } from "./wear-line";

export interface WearPoint {
  /** Days, or a meter's value. */
  at: number;
  value: number;
  /** What it weighs beside the others; 1 when not given. */
  weight?: number;
}

export interface WearFit {
  /** Change of the value for one of `at`. */
  slope: number;
  /** Value at 0. */
  intercept: number;
  /** Of the values about the line, with n − 2 degrees of freedom. */
  residualSd: number;
  /** Share of the values' scatter that the line explains; 0 of a constant. */
  r2: number;
  n: number;
  slopeSe: number;
  interceptSe: number;
  meanAt: number;
  /** Weighted sum of squares of `at` about its mean. */
  sumSquares: number;
  worse: Worse;
  /** Null when the line does not go there, or nothing can be said of where it does. */
  crossing: Crossing | null;
}

const FEWEST = 3;
const MOST = 100_000;

/**
 * A straight line of wear by (weighted) least squares, and where it passes its limit.
 *
 * The band of the crossing is Fieller's: every place at which the line, with its uncertainty, can be at the limit
 * (E. C. Fieller, J. R. Stat. Soc. B 16, 1954; the inverse of the line's confidence band). Weights are told against each other:
 * their mean counts as 1.
 *
 * @param input.points at least three, not all at one place
 * @param input.level share of the band, between 0 and 1; 0.9 when not given
 * @param input.worse the side on which the limit is passed; the slope's when not given
 * @throws CoreError `missing` (fewer than three points, or all at one place), `bad-number`, `out-of-range`
 * @example fitWear({ points: [{ at: 0, value: 3 }, { at: 10, value: 2.9 }, { at: 20, value: 2.8 }], limit: 2 }).crossing?.at // => 100
 */
export function fitWear(input: {
  points: readonly WearPoint[];
  limit: number;
  level?: number;
  worse?: Worse;
}): WearFit {
  const { points, limit, level = LEVEL, worse } = requireRecord(input, "input");
  requireFinite(limit, "limit");
  requireLevel(level);
  const wanted = worse === undefined ? null : requireSide(worse, "worse");
  const line = lineThrough(points);
  const side = wanted ?? (line.slope < 0 ? "down" : "up");
  return { ...line, worse: side, crossing: lineCrossing(lineOf({ ...line, worse: side }), limit, level) };
}

type Line = Omit<WearFit, "worse" | "crossing">;

function lineThrough(points: readonly WearPoint[]): Line {
  const given = requireList(points, "points").map((one, i) => {
    const { at, value, weight = 1 } = requireRecord(one, `points[${i}]`);
    requireFinite(at, `points[${i}].at`);
    requireFinite(value, `points[${i}].value`);
    return { at, value, weight: requirePositive(weight, `points[${i}].weight`) };
  });
  if (given.length > MOST)
    throw new CoreError("out-of-range", "points", `${given.length} values are more than one piece ever has.`);
  if (given.length < FEWEST)
    throw new CoreError("missing", "points", `A line of wear needs three measured values, not ${given.length}.`);
  const { n, meanAt, mean, slope, sumSquares, residual, scatter } = leastSquares(given);
  if (slope === null)
    throw new CoreError("missing", "points", "All values were measured at one place: they tell no wear.");
  const residualSd = Math.sqrt(residual / (n - 2));
  return {
    slope,
    intercept: mean - slope * meanAt,
    residualSd,
    r2: scatter > 0 ? Math.max(0, 1 - residual / scatter) : 0,
    n,
    slopeSe: residualSd / Math.sqrt(sumSquares),
    interceptSe: residualSd * Math.sqrt(1 / n + meanAt ** 2 / sumSquares),
    meanAt,
    sumSquares,
  };
}

function lineOf({ slope, intercept, residualSd, n, meanAt, sumSquares, worse }: Told & { worse: Worse }): WearLine {
  return {
    meanAt,
    level: intercept + slope * meanAt,
    levelSe: residualSd / Math.sqrt(n),
    slope,
    slopeSe: residualSd / Math.sqrt(sumSquares),
    sd: residualSd,
    degrees: n - 2,
    worse,
  };
}

/**
 * What a new reading would be, with the band in which it lies: of the line's uncertainty and of a single value's scatter.
 *
 * @param level share of the band, between 0 and 1; 0.9 when not given
 * @throws CoreError `bad-number`, `out-of-range`
 */
export function predictWear(fit: Told, at: number, level = LEVEL): { value: number; low: number; high: number } {
  const line = lineOf({ ...requireLine(fit), worse: "up" });
  return lineValue(line, requireFinite(at, "at"), requireLevel(level));
}

/**
 * The chance that the line is past the limit at a place: of t with n − 2 degrees of freedom, by the standard error of the line
 * there. On a line without scatter it is 0 or 1, and a half at the limit itself.
 *
 * @returns from 0 to 1
 * @throws CoreError `bad-number`, `out-of-range`
 */
export function chanceBeyond(fit: Told & Pick<WearFit, "worse">, limit: number, at: number): number {
  const line = lineOf({ ...requireLine(fit), worse: requireSide(fit.worse, "fit.worse") });
  return lineChance(line, requireFinite(limit, "limit"), requireFinite(at, "at"));
}

type Told = Pick<WearFit, "slope" | "intercept" | "residualSd" | "n" | "meanAt" | "sumSquares">;

function requireLine<Fit extends Told>(fit: Fit): Fit {
  const { slope, intercept, residualSd, n, meanAt, sumSquares } = requireRecord(fit, "fit");
  requireFinite(slope, "fit.slope");
  requireFinite(intercept, "fit.intercept");
  requireNotNegative(residualSd, "fit.residualSd");
  requirePositiveWhole(n, "fit.n");
  if (n < FEWEST || n > MOST)
    throw new CoreError("out-of-range", "fit.n", `fit.n must be from ${FEWEST} to ${MOST}, not ${n}.`);
  requireFinite(meanAt, "fit.meanAt");
  requirePositive(sumSquares, "fit.sumSquares");
  return fit;
}

function requireSide(side: unknown, path: string): Worse {
  if (side === "up" || side === "down") return side;
  throw new CoreError("bad-value", path, `${path} must be "up" or "down".`);
}

function requireLevel(level: number): number {
  requireFinite(level, "level");
  if (level <= 0 || level >= 1)
    throw new CoreError("out-of-range", "level", `level must be between 0 and 1, not ${level}.`);
  return level;
}
