/** A straight line through weighted points. */
export interface StraightLine {
  n: number;
  meanAt: number;
  /** Weighted mean of the values: the line's value at `meanAt`. */
  mean: number;
  /** Null with all points at one place. */
  slope: number | null;
  /** Weighted sum of squares of the places about their mean, the mean weight being 1. */
  sumSquares: number;
  /** Weighted sum of squares of the values about the line. */
  residual: number;
  /** And about their mean. */
  scatter: number;
}

/** Weighted least squares; weights are told against each other: their mean counts as 1. At least one point. */
export function leastSquares(points: readonly { at: number; value: number; weight: number }[]): StraightLine {
  const n = points.length;
  let total = 0;
  for (const { weight } of points) total += weight;
  const scale = n / total;
  let [sumAt, sumValues] = [0, 0];
  for (const { at, value, weight } of points) {
    sumAt += weight * scale * at;
    sumValues += weight * scale * value;
  }
  const [meanAt, mean] = [sumAt / n, sumValues / n];
  let [sumSquares, products, scatter] = [0, 0, 0];
  for (const { at, value, weight } of points) {
    sumSquares += weight * scale * (at - meanAt) ** 2;
    products += weight * scale * (at - meanAt) * (value - mean);
    scatter += weight * scale * (value - mean) ** 2;
  }
  if (!(sumSquares > 0)) return { n, meanAt, mean, slope: null, sumSquares: 0, residual: 0, scatter };
  const slope = products / sumSquares;
  let residual = 0;
  for (const { at, value, weight } of points) residual += weight * scale * (value - mean - slope * (at - meanAt)) ** 2;
  return { n, meanAt, mean, slope, sumSquares, residual, scatter };
}
