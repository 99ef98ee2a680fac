import { must } from "./must";

/** Linear interpolation between order statistics (type 7 of R. Hyndman, Y. Fan, The American Statistician 50, 1996). */
export function quantileSorted(sorted: readonly number[], p: number): number {
  const at = (sorted.length - 1) * p;
  const below = Math.floor(at);
  return must(sorted[below]) + (at - below) * ((sorted[below + 1] ?? must(sorted[below])) - must(sorted[below]));
}

/** The middle of at least one value, of an even number the mean of the middle two. */
export const median = (values: readonly number[]): number =>
  quantileSorted(
    [...values].sort((a, b) => a - b),
    0.5,
  );
