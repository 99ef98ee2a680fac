export { asFoundOf, foundBySheet, type FoundSaid } from "./as-found";
export { chanceBeyond, fitWear, predictWear, type WearFit, type WearPoint } from "./fit-wear";
export { dayOfUse, useOn, type UseNow } from "./day-of-use";
export { fitWeibull, type WeibullFit } from "./fit-weibull";
export { type NowOrNext, nowOrNext } from "./now-or-next";
export { type PieceSums, pieceLine, pieceSums, POOLED_FROM, poolPieces, type WearPool } from "./piece-line";
export { BY_CHANCE, BY_WEAR, type FoundAfter, poorChance } from "./poor-chance";
export { type FittedPiece, lifeOf, type LifeSaid, pieceAges, type PieceAges } from "./piece-ages";
export { type PooledSlope, poolSlopes } from "./pool-slopes";
export { replacementAge } from "./replacement-age";
export { type Agreement, agreement, LEAST_PAIRS } from "./explained-by";
export { AS_FOUND, type AsFound, isAsFound, tuneInterval } from "./tune-interval";
export { isRepeating, type Repeating, type TunedRules, tuneRules } from "./tune-rules";
export { addedMinutesAYear, daysBetweenServices, servicesAYear } from "./service-effort";
export { DAYS, type UseLine, useLine } from "./use-line";
export { type Crossing, lineChance, lineCrossing, lineValue, type WearLine, type Worse } from "./wear-line";
export { type WearPiece, wearPieces, type WearValue } from "./wear-pieces";
export {
  type CameOut,
  fittedOnSheet,
  type FittedOnSheet,
  wearRule,
  wearRules,
  type WearRule,
  wornAt,
  wornValues,
  type WornValue,
} from "./worn-values";
