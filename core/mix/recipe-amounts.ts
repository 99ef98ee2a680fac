import { CoreError } from "../errors";
import type { MixRecipe } from "../sheet/procedure";
import { additive } from "./additive";
import { byParts } from "./by-parts";
import { dilute, ppmPerPercent } from "./dilute";

/**
 * What a recipe takes for a given volume, mL of each item; `water` is water.
 *
 * @param recipe a dilution, parts, or an additive for a tank
 * @param finalMl volume of the finished solution, mL; for an additive what the tank holds
 * @param stockPercent strength of the stock today, percent weight per volume; only a dilution needs it
 * @throws CoreError when a dilution's strength is missing, or as the recipe's own calculator does
 */
export function recipeAmounts(
  recipe: MixRecipe,
  finalMl: number,
  stockPercent?: number | null,
): { item: string; ml: number }[] {
  if (recipe.by === "parts") {
    const ml = byParts({ parts: Object.fromEntries(recipe.parts.map((one) => [one.item, one.parts])), finalMl });
    return Object.entries(ml).map(([item, amount]) => ({ item, ml: amount }));
  }
  if (recipe.by === "additive") {
    const { additiveMl, waterMl } = additive({ tankMl: finalMl, additiveMl: recipe.additiveMl });
    return [
      { item: recipe.item, ml: additiveMl },
      { item: "water", ml: waterMl },
    ];
  }
  if (stockPercent === undefined || stockPercent === null)
    throw new CoreError("missing", "stockPercent", "Give the strength of the stock.");
  const target = "ppm" in recipe.target ? { ppm: recipe.target.ppm } : { ppm: recipe.target.percent * ppmPerPercent };
  const { stockMl, waterMl } = dilute({ stockPercent, target, finalMl });
  return [
    { item: recipe.stock, ml: stockMl },
    { item: "water", ml: waterMl },
  ];
}
