import { CoreError } from "../errors";
import { requireList, requireRecord } from "../inputs";
import { requirePositive } from "../numbers";

/** Two-sided 95 % quantile of the standard normal distribution. */
const Z_95 = 1.959963984540054;
const MOST_STEPS = 200;
const EXACT = 1e-13;

export interface WeibullFit {
  /** Below 1: it fails early; 1: at random; above: it wears out. */
  shape: number;
  /** Age by which 63 % have failed, in the unit of the ages. */
  scale: number;
  logLikelihood: number;
  /** 95 %, by Wald on the logarithms. */
  shapeCi: [number, number];
  scaleCi: [number, number];
}

/**
 * A Weibull distribution of ages at failure by maximum likelihood, with what has not failed yet counted as such (right-censored).
 *
 * The likelihood's equation in the shape alone, and the observed information for the intervals: W. Nelson, "Applied Life Data
 * Analysis" (1982), chapter 8; quoted from memory.
 *
 * @param input.failures ages, above 0
 * @param input.suspensions ages of what runs on, or was taken out whole
 * @throws CoreError `missing` with fewer than two different failures, `bad-number`
 */
export function fitWeibull(input: { failures: readonly number[]; suspensions?: readonly number[] }): WeibullFit {
  const { failures, suspensions = [] } = requireRecord(input, "input");
  const failed = requireList(failures, "failures").map((age, i) => requirePositive(age, `failures[${i}]`));
  const running = requireList(suspensions, "suspensions").map((age, i) => requirePositive(age, `suspensions[${i}]`));
  if (new Set(failed).size < 2)
    throw new CoreError("missing", "failures", "Two failures at different ages are the least that tell how it wears.");
  // By the oldest age: no power of it is too large.
  const unit = Math.max(...failed, ...running);
  const logs = [...failed, ...running].map((age) => Math.log(age / unit));
  const meanFailed = logs.slice(0, failed.length).reduce((all, one) => all + one, 0) / failed.length;
  const shape = shapeOf(logs, meanFailed);
  const { power, first, second } = sums(logs, shape);
  const r = failed.length;
  const logScale = Math.log(power / r) / shape;
  // With z = (log age − log scale)·shape, the sums of z·e^z and z²·e^z over all; that of e^z is r at the maximum.
  const own = r / power;
  const z1 = shape * own * (first - logScale * power);
  const z2 = shape ** 2 * own * (second - 2 * logScale * first + logScale ** 2 * power);
  // Observed information of the logarithms of shape and scale.
  const information = { shape: r + z2, scale: shape ** 2 * r, both: -shape * z1 };
  const determinant = information.shape * information.scale - information.both ** 2;
  const scale = Math.exp(logScale) * unit;
  const around = (value: number, variance: number): [number, number] => {
    const factor = Math.exp(Z_95 * Math.sqrt(variance));
    return [value / factor, value * factor];
  };
  return {
    shape,
    scale,
    logLikelihood: r * (Math.log(shape) + shape * (meanFailed - logScale) - meanFailed - Math.log(unit) - 1),
    shapeCi: around(shape, information.scale / determinant),
    scaleCi: around(scale, information.shape / determinant),
  };
}

function sums(logs: readonly number[], shape: number): { power: number; first: number; second: number } {
  let [power, first, second] = [0, 0, 0];
  for (const log of logs) {
    const term = Math.exp(shape * log);
    power += term;
    first += term * log;
    second += term * log * log;
  }
  return { power, first, second };
}

/** Σ t^k·ln t / Σ t^k − 1/k = mean ln of the failures: rises with k, and is solved by Newton's steps held in a bracket. */
function shapeOf(logs: readonly number[], meanFailed: number): number {
  let [low, high] = [0, Infinity];
  let shape = 1;
  for (let i = 0; i < MOST_STEPS; i++) {
    const { power, first, second } = sums(logs, shape);
    const value = first / power - 1 / shape - meanFailed;
    if (value > 0) high = shape;
    else low = shape;
    const step = value / (second / power - (first / power) ** 2 + 1 / shape ** 2);
    const next = shape - step;
    const held = next > low && next < high ? next : high < Infinity ? (low + high) / 2 : shape * 2;
    if (Math.abs(held - shape) <= EXACT * shape) return held;
    shape = held;
  }
  return shape;
}
