import { requireList } from "../inputs";
import { must } from "../must";
import { requireNotNegative } from "../numbers";

/** So many times a cause has to have come back before that says how long it usually holds. Our choice. */
export const ENOUGH_GAPS = 5;

export interface UsualLife {
  days: number;
  /** Times that it came back, when it was measured; null while the guide's typical figure stands. */
  measured: number | null;
}

/**
 * How long a remedy usually holds: the median of the days between a cause and the same cause again on the same machine, once there are
 * enough; the typical figure until then. Causes that have not come back are not counted, so that it is the life of what comes back
 * (common practice; short of a survival analysis).
 *
 * @param gaps days between each and the one before on its machine
 * @param typical days, of the guide; null where it has none
 * @returns null where nothing is known
 */
export function usualLife(gaps: readonly number[], typical: number | null): UsualLife | null {
  const sorted = requireList(gaps, "gaps")
    .map((days, i) => requireNotNegative(days, `gaps[${i}]`))
    .sort((a, b) => a - b);
  if (sorted.length < ENOUGH_GAPS) return typical === null ? null : { days: typical, measured: null };
  const middle = sorted.length >> 1;
  const median = sorted.length % 2 === 1 ? must(sorted[middle]) : (must(sorted[middle - 1]) + must(sorted[middle])) / 2;
  return { days: median, measured: sorted.length };
}
