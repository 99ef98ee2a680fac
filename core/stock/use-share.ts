import { CoreError } from "../errors";
import { requireNotNegative, requirePositive } from "../numbers";

/** Two-sided 90 % quantile of the standard normal distribution. */
const Z_90 = 1.6448536269514722;

export interface UseShare {
  share: number;
  low: number;
  high: number;
}

/**
 * Share of past services that needed a part, with its uncertainty: the Wilson score interval (E. B. Wilson, Journal of the
 * American Statistical Association 22, 1927), which holds for few services and for none or all of them.
 *
 * @param used services that needed it @param services how many there were, at least one
 * @param z standard normal quantile of the interval's level; 90 % when absent
 * @throws CoreError unless 0 ≤ used ≤ services and services > 0
 */
export function useShare(used: number, services: number, z = Z_90): UseShare {
  const n = requirePositive(services, "services");
  if (requireNotNegative(used, "used") > n)
    throw new CoreError("out-of-range", "used", `Of ${n} services ${used} cannot have needed it.`);
  requirePositive(z, "z");
  const p = used / n;
  const middle = (p + (z * z) / (2 * n)) / (1 + (z * z) / n);
  const half = (z / (1 + (z * z) / n)) * Math.sqrt((p * (1 - p)) / n + (z * z) / (4 * n * n));
  return {
    share: p,
    low: used === 0 ? 0 : Math.max(0, middle - half),
    high: used === n ? 1 : Math.min(1, middle + half),
  };
}
