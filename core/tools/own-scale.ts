import { CoreError } from "../errors";
import { requireList, requireRecord } from "../inputs";
import { requireFinite, requireNotNegative, requirePositive } from "../numbers";

/** One result of a check fluid beside its lot's values, all in the unit of the analyte. */
export interface LotResult {
  result: number;
  mean: number;
  sd: number;
}

/**
 * Results of a check fluid in standard deviations of their lot, and the one farthest off: the standard score, in internal
 * quality control also called standard deviation index (ISO 13528, 9.4, has the formula; from memory).
 *
 * @param results each with its lot's mean and standard deviation; the deviation above 0
 * @returns `scores` in the order given, (result − mean) ÷ sd, and `worst`, the place of the one farthest from 0
 * @throws CoreError `bad-number`; `bad-value` when there is no result
 * @example lotScores([{ result: 5.4, mean: 5, sd: 0.2 }]).scores // => [2]
 */
export function lotScores(results: readonly LotResult[]): { scores: number[]; worst: number } {
  const scores = requireList(results, "results").map((one, i) => {
    const { result, mean, sd } = requireRecord(one, `results[${i}]`);
    const [value, centre] = [requireFinite(result, `results[${i}].result`), requireFinite(mean, `results[${i}].mean`)];
    return (value - centre) / requirePositive(sd, `results[${i}].sd`);
  });
  if (scores.length === 0) throw new CoreError("bad-value", "results", "Give one result at least.");
  const worst = scores.reduce((far, score, i) => (Math.abs(score) > Math.abs(scores[far] ?? 0) ? i : far), 0);
  return { scores, worst };
}

/**
 * A signal in percent of the instrument's own when all was clean.
 *
 * @param input.now signal now, 0 or more
 * @param input.own signal when all was clean, above 0, same unit
 * @throws CoreError `bad-number`
 * @example percentOfOwn({ now: 84_000, own: 100_000 }) // => 84
 */
export function percentOfOwn(input: { now: number; own: number }): number {
  const { now, own } = requireRecord(input, "input");
  const clean = requirePositive(own, "own");
  return (100 * requireNotNegative(now, "now")) / clean;
}

/**
 * Scatter of repeats of one sample: their standard deviation (n − 1) in percent of their mean.
 *
 * @param repeats two at least, one unit; their mean is not 0
 * @returns mean and standard deviation in that unit, and the one in percent of the other
 * @throws CoreError `bad-number`; `bad-value` with fewer than two, or a mean of 0
 * @example relativeSd([99, 101]) // => { mean: 100, sd: 1.414…, percent: 1.414… }
 */
export function relativeSd(repeats: readonly number[]): { mean: number; sd: number; percent: number } {
  const values = requireList(repeats, "repeats").map((one, i) => requireFinite(one, `repeats[${i}]`));
  if (values.length < 2) throw new CoreError("bad-value", "repeats", "Give two repeats at least.");
  const mean = values.reduce((sum, one) => sum + one, 0) / values.length;
  if (mean === 0) throw new CoreError("bad-value", "repeats", "Repeats with a mean of 0 have no scatter in percent.");
  // From the mean, not from sums of squares: close figures would lose their digits.
  const squares = values.reduce((sum, one) => sum + (one - mean) ** 2, 0);
  const sd = Math.sqrt(squares / (values.length - 1));
  return { mean, sd, percent: (100 * sd) / Math.abs(mean) };
}
