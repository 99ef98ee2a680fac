export { beltTime } from "./belt-time";
export { bristleAdvice } from "./bristle-advice";
export { hydrometer } from "./hydrometer";
export { type LotResult, lotScores, percentOfOwn, relativeSd } from "./own-scale";
export { orderChecks } from "./order-checks";
export { strainerDrop } from "./strainer-drop";
export { tighteningOrder } from "./tightening-order";
