export { type Crossing, chanceBeyond, fitWear, predictWear, type WearFit, type WearPoint } from "./fit-wear";
export { fitWeibull, type WeibullFit } from "./fit-weibull";
export { type NowOrNext, nowOrNext } from "./now-or-next";
export { type PooledSlope, poolSlopes } from "./pool-slopes";
export { replacementAge } from "./replacement-age";
export { type AsFound, tuneInterval } from "./tune-interval";
