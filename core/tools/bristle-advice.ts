import { CoreError } from "../errors";
import { requireRecord } from "../inputs";
import { plainNumber, requireNotNegative } from "../numbers";

export interface BristleAdvice {
  turn: "none" | "lower" | "raise";
  message: string;
}

/**
 * What the polish mark of a main broom says: the strip it polishes while turning on the spot. Both ends of the band are
 * good. Too narrow: the broom hardly touches, lower it; too wide: it is pressed and wears, raise it.
 *
 * @param input.markMm width of the mark in mm
 * @param input.lowMm lower end of the band in mm (typical 20)
 * @param input.highMm upper end of the band in mm (typical 40)
 * @throws CoreError `bad-number`, or `out-of-range` when the band's ends are the wrong way round
 */
export function bristleAdvice(input: { markMm: number; lowMm: number; highMm: number }): BristleAdvice {
  const markMm = requireNotNegative(requireRecord(input, "input").markMm, "markMm");
  const lowMm = requireNotNegative(input.lowMm, "lowMm");
  const highMm = requireNotNegative(input.highMm, "highMm");
  if (lowMm > highMm)
    throw new CoreError(
      "out-of-range",
      "lowMm",
      `The band's lower end (${lowMm} mm) is above its upper end (${highMm} mm).`,
    );
  const band = `${plainNumber(lowMm)} to ${plainNumber(highMm)} mm`;
  if (markMm < lowMm) {
    return {
      turn: "lower",
      message: `${plainNumber(markMm)} mm is narrower than ${band}: lower the broom one step, make a new mark, measure again.`,
    };
  }
  if (markMm > highMm) {
    return {
      turn: "raise",
      message: `${plainNumber(markMm)} mm is wider than ${band}: raise the broom one step, make a new mark, measure again.`,
    };
  }
  return { turn: "none", message: `${plainNumber(markMm)} mm is within ${band}: leave it.` };
}
