import { CoreError } from "../errors";
import { requireList, requireRecord } from "../inputs";
import { requirePositive } from "../numbers";

/** A service: days since the one before, and whether the machine was found poor or failed. */
export interface FoundAfter {
  days: number;
  poor: boolean;
}

/** Shapes between which getting poor lies: by chance alone, as likely on any day, and by wear, hardly at first and then soon (common practice). */
export const BY_CHANCE = 1;
export const BY_WEAR = 3;

/**
 * The chance that a machine is found poor after so many days, from services at which it was or was not: nobody saw the day on which
 * it became so. The time until then is Weibull with a given shape; its scale is the likeliest one (maximum likelihood of
 * current-status data), with half a service found poor and half a one found well added at the mean interval, so that none of few is
 * not never (Jeffreys).
 *
 * Where all services came after the same interval, this is 1 − (1 − p)^((days / interval)^shape), p = (poor + ½) ÷ (n + 1).
 *
 * @param found at least one service; days above zero
 * @param days after the service before, above zero
 * @param shape above zero
 * @returns a chance from 0 to 1
 * @throws CoreError `bad-number`, `out-of-range` when there is no service
 */
export function poorChance(found: readonly FoundAfter[], days: number, shape: number): number {
  requireList(found, "found");
  if (found.length === 0) throw new CoreError("out-of-range", "found", "found must hold at least one service.");
  found.forEach((one, i) => requirePositive(requireRecord(one, `found[${i}]`).days, `found[${i}].days`));
  requirePositive(days, "days");
  requirePositive(shape, "shape");
  const mean = found.reduce((sum, one) => sum + one.days, 0) / found.length;
  // In units of the mean interval: whatever the shape, no power of it runs away.
  const seen = [
    ...found.map((one) => ({ at: (one.days / mean) ** shape, poor: one.poor, weight: 1 })),
    { at: 1, poor: true, weight: 0.5 },
    { at: 1, poor: false, weight: 0.5 },
  ];
  // The likelihood's slope falls as the rate grows: it is halved in on.
  const slope = (rate: number): number =>
    seen.reduce((sum, { at, poor, weight }) => sum + weight * (poor ? at / Math.expm1(rate * at) : -at), 0);
  let [low, high] = [0, 1];
  while (slope(high) > 0 && high < 1e6) [low, high] = [high, high * 2];
  for (let i = 0; i < 200 && high - low > 1e-15 * high; i++) {
    const middle = (low + high) / 2;
    if (slope(middle) > 0) low = middle;
    else high = middle;
  }
  return -Math.expm1(-((low + high) / 2) * (days / mean) ** shape);
}
