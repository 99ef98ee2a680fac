import { requireNotNegative } from "../numbers";

export type HardnessClass = "soft" | "moderately hard" | "hard" | "very hard";

/**
 * Water hardness class.
 *
 * Source: U.S. Geological Survey, Water Science School, "Hardness of Water": as mg/L calcium carbonate 0–60 soft,
 * 61–120 moderately hard, 121–180 hard, more than 180 very hard (values from memory). Values between the whole
 * numbers of that table belong to the class below.
 *
 * @param mgPerLitre hardness as calcium carbonate, mg/L, zero or more
 * @throws CoreError when negative or not finite
 * @example hardnessClass(150) // => 'hard'
 */
export function hardnessClass(mgPerLitre: number): HardnessClass {
  requireNotNegative(mgPerLitre, "mgPerLitre");
  if (mgPerLitre < 61) return "soft";
  if (mgPerLitre < 121) return "moderately hard";
  return mgPerLitre <= 180 ? "hard" : "very hard";
}

/** How much scale-related intervals shrink, by class. Common practice, to be adjusted per machine. */
const FACTORS: Record<HardnessClass, number> = { soft: 1, "moderately hard": 1, hard: 0.75, "very hard": 0.5 };

/** Interval factor for scale-related duties at a site; 1 when its water was never tested. */
export function hardnessFactor(mgPerLitre: number | null): number {
  return mgPerLitre === null ? 1 : FACTORS[hardnessClass(mgPerLitre)];
}
