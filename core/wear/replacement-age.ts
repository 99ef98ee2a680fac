import jstat from "jstat";

import { requireRecord } from "../inputs";
import { requireNotNegative, requirePositive } from "../numbers";

/** By then hardly one of 10²⁰ runs on: a replacement at a later age is none. */
const ALL_FAILED = 46;
const HALVINGS = 200;

/**
 * The age at which replacing a part as planned costs least by the time: age replacement (R. E. Barlow, F. Proschan, "Mathematical
 * Theory of Reliability", 1965, chapter 4), costs of a planned replacement and of a failure over the mean time to either.
 *
 * @param input.shape and `scale` of the Weibull distribution of its age at failure
 * @param input.plannedCost and `failureCost` in one unit of money
 * @returns `age` null: it never pays, run it till it fails; costs are by one unit of age
 * @throws CoreError `bad-number`
 */
export function replacementAge(input: { shape: number; scale: number; plannedCost: number; failureCost: number }): {
  age: number | null;
  costRate: number;
  runToFailureCostRate: number;
} {
  const { shape, scale, plannedCost, failureCost } = requireRecord(input, "input");
  requirePositive(shape, "shape");
  requirePositive(scale, "scale");
  const planned = requirePositive(plannedCost, "plannedCost");
  const failed = requireNotNegative(failureCost, "failureCost");
  const mean = jstat.gammafn(1 + 1 / shape);
  const runToFailureCostRate = failed / (mean * scale);
  const never = { age: null, costRate: runToFailureCostRate, runToFailureCostRate };
  if (shape <= 1 || failed <= planned) return never;
  // In units of the scale: mean time in use up to an age.
  const used = (age: number): number => mean * jstat.lowRegGamma(1 / shape, age ** shape);
  const failedBy = (age: number): number => -Math.expm1(-(age ** shape));
  // Rises with age: what another unit of age adds is as dear as the mean where it is planned / (failed − planned).
  const wanted = planned / (failed - planned);
  const weighs = (age: number): number => shape * age ** (shape - 1) * used(age) - failedBy(age);
  let [low, high] = [0, ALL_FAILED ** (1 / shape)];
  if (weighs(high) < wanted) return never;
  for (let i = 0; i < HALVINGS && high - low > Number.EPSILON * high; i++) {
    const middle = (low + high) / 2;
    if (weighs(middle) < wanted) low = middle;
    else high = middle;
  }
  const age = high;
  const costRate = (planned + (failed - planned) * failedBy(age)) / (used(age) * scale);
  return costRate < runToFailureCostRate ? { age: age * scale, costRate, runToFailureCostRate } : never;
}
