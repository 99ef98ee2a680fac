export { additive } from "./additive";
export { byParts } from "./by-parts";
export { checkMix, chemicalClasses } from "./check-mix";
export { dilute, ppmPerPercent } from "./dilute";
export { jugMl } from "./jug-ml";
export { type Grade, grades, harmTo, type Surface, surfaces } from "./surfaces";
export { recipeAmounts } from "./recipe-amounts";
export { strengthFault } from "./stock-strength";
export { millilitresIn, toMl, type VolumeUnit } from "./to-ml";
