import { requireList } from "../inputs";
import { requireNotNegative } from "../numbers";

/**
 * Counts with the largest first, each with its share and what it comes to with those above it: the table of
 * a Pareto chart (common practice in quality control). What did not occur is left out; of equal counts the order given.
 *
 * @param counts how often each occurred
 * @returns shares from 0 to 1
 * @example pareto([{ id: "a", n: 1 }, { id: "b", n: 3 }])
 * // => [{ id: "b", n: 3, share: 0.75, together: 0.75 }, { id: "a", n: 1, share: 0.25, together: 1 }]
 */
export function pareto<One extends { n: number }>(
  counts: readonly One[],
): (One & { share: number; together: number })[] {
  const given = requireList(counts, "counts");
  const all = given.reduce((sum, { n }, i) => sum + requireNotNegative(n, `counts[${i}].n`), 0);
  let together = 0;
  return given
    .filter(({ n }) => n > 0)
    .sort((a, b) => b.n - a.n)
    .map((one) => {
      together += one.n;
      return { ...one, share: one.n / all, together: together / all };
    });
}
