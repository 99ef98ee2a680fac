import { CoreError } from "../errors";
import { requireRecord } from "../inputs";
import { requirePositive } from "../numbers";

/** 1 % weight per volume = 10 g/L = 10,000 mg/L, and 1 ppm = 1 mg/L. */
export const ppmPerPercent = 10_000;

export interface Dilution {
  stockMl: number;
  waterMl: number;
}

/**
 * How much stock and how much water make a solution of the wanted strength: stock × its strength = final × the target's
 * (C₁V₁ = C₂V₂). Percent is weight per volume.
 *
 * @param input.stockPercent strength of the stock as it is now, in percent, above 0
 * @param input.target wanted strength, in percent or in ppm (mg/L), above 0
 * @param input.finalMl volume of the finished solution in mL, above 0
 * @returns volumes in mL; their sum is `finalMl`
 * @throws CoreError `out-of-range` when the target is stronger than the stock, `bad-number` otherwise
 * @example dilute({ stockPercent: 5, target: { ppm: 5000 }, finalMl: 1000 }) // => { stockMl: 100, waterMl: 900 }
 */
export function dilute(input: {
  stockPercent: number;
  target: { percent: number } | { ppm: number };
  finalMl: number;
}): Dilution {
  const stockPercent = requirePositive(requireRecord(input, "input").stockPercent, "stockPercent");
  const finalMl = requirePositive(input.finalMl, "finalMl");
  const { target } = input;
  if ((target as unknown) === null || typeof target !== "object" || "percent" in target === "ppm" in target) {
    throw new CoreError("bad-value", "target", "Give the target either in percent or in ppm.");
  }
  const targetPpm =
    "ppm" in target
      ? requirePositive(target.ppm, "target.ppm")
      : requirePositive(target.percent, "target.percent") * ppmPerPercent;
  const stockPpm = stockPercent * ppmPerPercent;
  if (targetPpm > stockPpm) {
    throw new CoreError(
      "out-of-range",
      "target",
      `The stock has ${stockPercent} % (${stockPpm} ppm), weaker than the ${targetPpm} ppm wanted: water cannot make it stronger. Use a fresh or stronger stock.`,
    );
  }
  const stockMl = (targetPpm * finalMl) / stockPpm;
  return { stockMl, waterMl: finalMl - stockMl };
}
