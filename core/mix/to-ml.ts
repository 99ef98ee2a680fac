import { CoreError } from "../errors";
import { requireNotNegative } from "../numbers";

export type VolumeUnit = "mL" | "L" | "us-gal" | "imp-gal" | "us-floz" | "us-cup" | "us-quart";

/** Exact by definition: NIST Handbook 44, Appendix C (1 US gallon = 231 cubic inches); UK Weights and Measures Act 1985 (4.546 09 L). */
export const millilitresIn: Readonly<Record<VolumeUnit, number>> = {
  mL: 1,
  L: 1000,
  "us-gal": 3785.411784,
  "imp-gal": 4546.09,
  "us-floz": 29.5735295625,
  "us-cup": 236.5882365,
  "us-quart": 946.352946,
};

/**
 * A volume in millilitres.
 *
 * @param value zero or more, in `unit`
 * @throws CoreError `bad-number` for a negative or not finite value, `bad-value` for an unknown unit
 * @example toMl(2, "us-gal") // => 7570.823568
 */
export function toMl(value: number, unit: VolumeUnit): number {
  if (!Object.hasOwn(millilitresIn, unit)) {
    throw new CoreError(
      "bad-value",
      "unit",
      `"${unit}" is no unit of volume. Use one of ${Object.keys(millilitresIn).join(", ")}.`,
    );
  }
  return requireNotNegative(value, "value") * millilitresIn[unit];
}
