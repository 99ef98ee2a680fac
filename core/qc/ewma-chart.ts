import { CoreError } from "../errors";
import { requireList, requireRecord } from "../inputs";
import { requireFinite, requirePositive } from "../numbers";

export interface EwmaChart {
  ewma: number[];
  lower: number[];
  upper: number[];
  /** Indices, from 0, at which the average stands beyond its limits. */
  signals: number[];
}

/**
 * Exponentially weighted moving average against its control limits: finds a slow drift that no single value shows.
 *
 * zᵢ = λ·xᵢ + (1 − λ)·zᵢ₋₁ with z₀ = target; limits are the exact time-varying ones,
 * target ± width · sd · √(λ/(2 − λ) · (1 − (1 − λ)²ⁱ)) (NIST/SEMATECH e-Handbook of Statistical Methods, 6.3.2.4).
 *
 * @param input.values measured values in order, in one unit; [] gives empty lists
 * @param input.target in-control mean, same unit
 * @param input.sd in-control standard deviation of one value, same unit, above 0
 * @param input.lambda weight of the newest value, above 0 and at most 1
 * @param input.width half width of the limits in standard deviations of z, above 0; default 3
 * @returns one entry per value, in the values' unit
 * @throws CoreError `bad-number`, or `out-of-range` for λ above 1
 */
export function ewmaChart(input: {
  values: number[];
  target: number;
  sd: number;
  lambda: number;
  width?: number;
}): EwmaChart {
  const target = requireFinite(requireRecord(input, "input").target, "target");
  const sd = requirePositive(input.sd, "sd");
  const lambda = requirePositive(input.lambda, "lambda");
  if (lambda > 1) throw new CoreError("out-of-range", "lambda", `lambda must be at most 1, not ${lambda}.`);
  const width = requirePositive(input.width ?? 3, "width");
  const chart: EwmaChart = { ewma: [], lower: [], upper: [], signals: [] };
  let z = target;
  requireList(input.values, "values").forEach((value, i) => {
    z = lambda * requireFinite(value, `values[${i}]`) + (1 - lambda) * z;
    const half = width * sd * Math.sqrt((lambda / (2 - lambda)) * (1 - (1 - lambda) ** (2 * (i + 1))));
    chart.ewma.push(z);
    chart.lower.push(target - half);
    chart.upper.push(target + half);
    if (Math.abs(z - target) > half) chart.signals.push(i);
  });
  return chart;
}
