export { additive } from "./additive";
export { byParts } from "./by-parts";
export { checkMix, chemicalClasses, type ChemicalClass, type MixVerdict } from "./check-mix";
export { dilute, ppmPerPercent, type Dilution } from "./dilute";
export { recipeAmounts } from "./recipe-amounts";
export { millilitresIn, toMl, type VolumeUnit } from "./to-ml";
