import { CoreError } from "../errors";
import { requireList, requireRecord } from "../inputs";
import { plainNumber, requireNotNegative, requirePositive } from "../numbers";

export interface BeltTime {
  meanSeconds: number;
  /** (mean − set) / set × 100: above zero the belt is slower than its dial. */
  errorPercent: number;
  within: boolean;
  advice: string;
}

/**
 * How long one place of the belt takes through the oven, by the watch: from a pan's front rim going in to the same rim coming
 * out, against the dial.
 *
 * @param input.setSeconds dial setting in seconds, above 0
 * @param input.runsSeconds timed runs in seconds, at least one, each above 0
 * @param input.tolerancePercent allowed error, inclusive; default 5 (typical)
 * @throws CoreError `missing` without a run, `bad-number`
 * @example beltTime({ setSeconds: 300, runsSeconds: [315, 321, 318] }).errorPercent // => 6
 */
export function beltTime(input: { setSeconds: number; runsSeconds: number[]; tolerancePercent?: number }): BeltTime {
  const setSeconds = requirePositive(requireRecord(input, "input").setSeconds, "setSeconds");
  const tolerance = requireNotNegative(input.tolerancePercent ?? 5, "tolerancePercent");
  if (requireList(input.runsSeconds, "runsSeconds").length === 0)
    throw new CoreError("missing", "runsSeconds", "Time at least one run.");
  const meanSeconds =
    input.runsSeconds.reduce((sum, run, i) => sum + requirePositive(run, `runsSeconds[${i}]`), 0) /
    input.runsSeconds.length;
  const errorPercent = ((meanSeconds - setSeconds) / setSeconds) * 100;
  const within = Math.abs(errorPercent) <= tolerance + 1e-9;
  const off = `${plainNumber(Math.abs(errorPercent))} % ${errorPercent > 0 ? "slower" : "faster"} than the dial`;
  // Until it is put right, the dial is set so that the real time comes out: real = dial × mean / set.
  const meanwhile = plainNumber((setSeconds * setSeconds) / meanSeconds);
  return {
    meanSeconds,
    errorPercent,
    within,
    advice: within
      ? `Within ${plainNumber(tolerance)} %: leave it as it is.`
      : `The belt is ${off}. Set the dial to ${meanwhile} s meanwhile to get ${plainNumber(setSeconds)} s, and have the speed adjusted.`,
  };
}
