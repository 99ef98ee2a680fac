import { must } from "../must";
import { leastSquares } from "./least-squares";
import { drawnTowards, poolOf, type SlopePool } from "./pool-slopes";
import type { WearLine, Worse } from "./wear-line";
import type { WearValue } from "./wear-pieces";

/** What the values of one piece come to. */
export interface PieceSums {
  n: number;
  meanAt: number;
  level: number;
  /** Null with all values at one place. */
  slope: number | null;
  /** Weighted sum of squares of the places about their mean, the mean weight being 1. */
  sumSquares: number;
  /** Weighted sum of squares of the values about their line, at least what rounding to their last digit makes. */
  residual: number;
  /** What each value weighs, in their order. */
  weights: number[];
}

/** Huber's constant: 95 % as good as least squares where nothing is out of place (P. J. Huber, Robust Statistics, 1981). */
const HUBER = 1.345;
const FEWEST_FOR_OUTLIERS = 5;
/** Fewer pieces say too little of how they differ. */
export const POOLED_FROM = 5;
/** Student's t with more degrees of freedom is the normal distribution to two digits: more only cost time. */
const MOST_DEGREES = 500;

/**
 * The straight line through a piece's values. A value that looked wrong and was confirmed is kept and weighs less, the more it
 * lies off the line through the others: 1.345 of their standard deviations off, it counts whole, further off by that share
 * (Huber's weight). With fewer than four others every value counts whole.
 */
export function pieceSums(values: readonly Pick<WearValue, "use" | "value" | "confirmed">[]): PieceSums | null {
  if (values.length === 0) return null;
  const whole = values.map(() => 1);
  const others = values.filter((one) => !one.confirmed);
  if (others.length === values.length || values.length < FEWEST_FOR_OUTLIERS || others.length < 3)
    return sums(values, whole);
  const line = sums(
    others,
    others.map(() => 1),
  );
  const sd = Math.sqrt(line.residual / (others.length - 2));
  if (line.slope === null || sd === 0) return sums(values, whole);
  const { slope, level, meanAt } = line;
  return sums(
    values,
    values.map(({ use, value, confirmed }) => {
      const off = Math.abs(value - level - slope * (use - meanAt));
      return confirmed && off > HUBER * sd ? (HUBER * sd) / off : 1;
    }),
  );
}

/** The last digit in which values are read: whoever reads in twentieths is held to hundredths. */
function lastDigit(values: readonly number[]): number {
  const digits = values.map(
    (value) => (Number(value.toPrecision(9)).toFixed(9).replace(/0+$/, "").split(".")[1] ?? "").length,
  );
  return 10 ** -Math.max(...digits);
}

function sums(values: readonly Pick<WearValue, "use" | "value">[], weights: number[]): PieceSums {
  const { n, meanAt, mean, slope, sumSquares, residual } = leastSquares(
    values.map(({ use: at, value }, i) => ({ at, value, weight: must(weights[i]) })),
  );
  // Values on a line are as good as the last digit they are read in: a rounding error is spread evenly over it.
  const rounding = slope === null ? 0 : ((n - 2) * lastDigit(values.map(({ value }) => value)) ** 2) / 12;
  return { n, meanAt, level: mean, slope, sumSquares, residual: Math.max(residual, rounding), weights };
}

/** What like pieces have in common: how fast they wear, how that differs, and how far single values lie off their lines. */
export interface WearPool extends SlopePool {
  sd: number;
  degrees: number;
}

type Summed = Pick<PieceSums, "n" | "slope" | "sumSquares" | "residual">;

/**
 * Pools pieces of one item on machines of one family, which wear by the same thing. Each slope's standard error is of the scatter
 * that all of them share, as three rounded values on a line have none of their own.
 *
 * @returns null with fewer than five slopes, or where nothing scatters
 */
export function poolPieces(pieces: readonly Summed[]): WearPool | null {
  const own = pieces.filter((one) => one.slope !== null && one.n > 1);
  const known = own.filter(({ n }) => n > 2);
  const degrees = known.reduce((all, { n }) => all + n - 2, 0);
  const sd = Math.sqrt(known.reduce((all, { residual }) => all + residual, 0) / degrees);
  if (own.length < POOLED_FROM || !(sd > 0)) return null;
  const slopes = own.map(({ slope, sumSquares }) => ({ slope: must(slope), variance: sd ** 2 / sumSquares }));
  return { ...poolOf(slopes), sd, degrees: Math.min(MOST_DEGREES, degrees) };
}

/**
 * The line of a piece with what is not known of it: its own slope drawn towards its fellows', or its own alone. One value with a
 * pool says something; without one three are needed.
 *
 * @param worse the side on which it gets worse
 * @returns null while there is too little to say
 */
export function pieceLine(
  sums: Omit<PieceSums, "weights">,
  pool: WearPool | null,
  worse: Worse,
): (WearLine & { ownWeight: number }) | null {
  const { n, meanAt, level, slope, sumSquares, residual } = sums;
  if (pool) {
    const variance = slope === null ? Infinity : pool.sd ** 2 / sumSquares;
    const drawn = drawnTowards(pool, { slope: slope ?? 0, variance });
    return {
      ...{ meanAt, level, levelSe: pool.sd / Math.sqrt(n), slope: drawn.slope, slopeSe: drawn.se },
      ...{ sd: pool.sd, degrees: pool.degrees, worse, ownWeight: drawn.weight },
    };
  }
  if (n < 3 || slope === null) return null;
  const sd = Math.sqrt(residual / (n - 2));
  return {
    ...{ meanAt, level, levelSe: sd / Math.sqrt(n), slope, slopeSe: sd / Math.sqrt(sumSquares) },
    ...{ sd, degrees: n - 2, worse, ownWeight: 1 },
  };
}
