import { CoreError } from "../errors";
import { requireList, requireRecord, requireText } from "../inputs";
import { requireFinite, requirePositive } from "../numbers";

export interface PooledSlope {
  id: string;
  slope: number;
  se: number;
  /** Share of its own slope in it. */
  weight: number;
}

/**
 * Slopes of wear of like pieces, each drawn towards what they have in common, the more the less it is known itself: random
 * effects (R. DerSimonian, N. Laird, Controlled Clinical Trials 7, 1986), and the best prediction of each.
 *
 * @param groups `slopeSe` null: it has no slope of its own yet, and gets the mean of the others; else above 0
 * @returns `between` is the variance of the true slopes about their mean (τ²)
 * @throws CoreError `missing` when none has a slope of its own, `bad-number`
 */
export function poolSlopes(groups: readonly { id: string; slope: number; slopeSe: number | null }[]): {
  mean: number;
  between: number;
  groups: PooledSlope[];
} {
  const given = requireList(groups, "groups").map((one, i) => {
    const { id, slope, slopeSe } = requireRecord(one, `groups[${i}]`);
    requireText(id, `groups[${i}].id`);
    if (slopeSe === null) return { id, slope: 0, variance: Infinity };
    const variance = requirePositive(slopeSe, `groups[${i}].slopeSe`) ** 2;
    return { id, slope: requireFinite(slope, `groups[${i}].slope`), variance };
  });
  const own = given.filter(({ variance }) => variance < Infinity);
  if (own.length === 0)
    throw new CoreError("missing", "groups", "None of them has a slope of its own: three values of one are needed.");
  const pool = poolOf(own);
  return {
    mean: pool.mean,
    between: pool.between,
    groups: given.map(({ id, slope, variance }) => ({ id, ...drawnTowards(pool, { slope, variance }) })),
  };
}

/** What slopes have in common. */
export interface SlopePool {
  mean: number;
  /** Variance of the true slopes about their mean (τ²). */
  between: number;
  /** Variance of the mean. */
  variance: number;
  /** How many slopes it is of. */
  of: number;
}

/** @param own slopes that are known by themselves, at least one */
export function poolOf(own: readonly { slope: number; variance: number }[]): SlopePool {
  const between = betweenGroups(own);
  const { mean, total } = weighted(own, between);
  return { mean, between, variance: 1 / total, of: own.length };
}

/** The best prediction of a slope; of one that is not known by itself (variance Infinity) the mean. */
export function drawnTowards(
  { mean, between, variance: ofMean, of }: SlopePool,
  { slope, variance }: { slope: number; variance: number },
): { slope: number; se: number; weight: number } {
  // One alone is what it is.
  const weight = of === 1 && variance < Infinity ? 1 : between / (between + variance);
  // Its own part: τ² where it has no slope of its own.
  const ownPart = variance === Infinity ? between : weight * variance;
  return {
    slope: weight * slope + (1 - weight) * mean,
    se: Math.sqrt(ownPart + (1 - weight) ** 2 * ofMean),
    weight,
  };
}

/** The method of moments: what Cochran's Q has more than its degrees of freedom. */
function betweenGroups(own: readonly { slope: number; variance: number }[]): number {
  if (own.length < 2) return 0;
  const { mean, total } = weighted(own, 0);
  const squares = own.reduce((all, { variance }) => all + variance ** -2, 0);
  const q = own.reduce((all, { slope, variance }) => all + (slope - mean) ** 2 / variance, 0);
  return Math.max(0, (q - (own.length - 1)) / (total - squares / total));
}

/** Mean of the slopes, each by how well it is known, and the sum of what they weigh. */
function weighted(
  own: readonly { slope: number; variance: number }[],
  between: number,
): { mean: number; total: number } {
  const total = own.reduce((all, { variance }) => all + 1 / (between + variance), 0);
  const mean = own.reduce((all, { slope, variance }) => all + slope / (between + variance) / total, 0);
  return { mean, total };
}
