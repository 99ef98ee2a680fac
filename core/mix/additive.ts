import { CoreError } from "../errors";
import { requireRecord } from "../inputs";
import { requireNotNegative, requirePositive } from "../numbers";

/**
 * Fills a tank with a fixed amount of additive and the rest water.
 *
 * @param input.tankMl volume of the filled tank in mL, above 0
 * @param input.additiveMl additive for one filling in mL, zero or more
 * @returns volumes in mL
 * @throws CoreError `out-of-range` when the additive is more than the tank holds
 * @example additive({ tankMl: 3000, additiveMl: 75 }) // => { additiveMl: 75, waterMl: 2925 }
 */
export function additive(input: { tankMl: number; additiveMl: number }): { additiveMl: number; waterMl: number } {
  const tankMl = requirePositive(requireRecord(input, "input").tankMl, "tankMl");
  const additiveMl = requireNotNegative(input.additiveMl, "additiveMl");
  if (additiveMl > tankMl) {
    throw new CoreError(
      "out-of-range",
      "additiveMl",
      `${additiveMl} mL of additive do not fit into a tank of ${tankMl} mL.`,
    );
  }
  return { additiveMl, waterMl: tankMl - additiveMl };
}
