import { CoreError } from "../errors";

const MOST_STEPS = 100;

/**
 * The distribution function of Student's t with a whole number of degrees of freedom, by its finite series: Abramowitz and
 * Stegun, "Handbook of Mathematical Functions", 26.7.3 and 26.7.4. Good to the last digits, where general-purpose libraries of
 * a size for the browser are to eight.
 *
 * @param dof degrees of freedom, whole, at least 1
 * @returns from 0 to 1
 */
export function studentCdf(t: number, dof: number): number {
  if (!Number.isInteger(dof) || dof < 1)
    throw new CoreError("out-of-range", "dof", `dof must be a whole number, at least 1, not ${dof}.`);
  const angle = Math.atan(t / Math.sqrt(dof));
  const cos2 = Math.cos(angle) ** 2;
  const isOdd = dof % 2 === 1;
  let term = isOdd ? Math.cos(angle) : 1;
  let sum = dof === 1 ? 0 : term;
  for (let k = isOdd ? 3 : 2; k < dof; k += 2) {
    term *= (cos2 * (k - 1)) / k;
    sum += term;
  }
  const within = isOdd ? ((angle + Math.sin(angle) * sum) * 2) / Math.PI : Math.sin(angle) * sum;
  return (1 + within) / 2;
}

/** Density of Student's t, with Γ((ν + 1)/2) / Γ(ν/2) by its recurrence. */
function studentDensity(t: number, dof: number): number {
  let ratio = dof % 2 === 1 ? 1 / Math.sqrt(Math.PI) : Math.sqrt(Math.PI) / 2;
  for (let k = dof % 2 === 1 ? 1 : 2; k < dof; k += 2) ratio *= (k + 1) / k;
  return (ratio / Math.sqrt(dof * Math.PI)) * (1 + t ** 2 / dof) ** (-(dof + 1) / 2);
}

/**
 * Quantile of Student's t, by Newton's steps held in a bracket.
 *
 * @param p between 0 and 1
 * @param dof degrees of freedom, whole, at least 1
 */
export function studentQuantile(p: number, dof: number): number {
  // Symmetric to the last digit.
  if (p < 0.5) return -studentQuantile(1 - p, dof);
  let [low, high] = [0, Infinity];
  let t = 1;
  for (let i = 0; i < MOST_STEPS; i++) {
    const over = studentCdf(t, dof) - p;
    if (over === 0) return t;
    if (over > 0) high = t;
    else low = t;
    const step = t - over / studentDensity(t, dof);
    const next = step > low && step < high ? step : high < Infinity ? (low + high) / 2 : t * 2;
    if (Math.abs(next - t) <= 4 * Number.EPSILON * t) return next;
    t = next;
  }
  return t;
}
