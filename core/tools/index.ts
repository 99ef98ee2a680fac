export { beltTime, type BeltTime } from "./belt-time";
export { bristleAdvice, type BristleAdvice } from "./bristle-advice";
export { hydrometer, type HydrometerVerdict } from "./hydrometer";
export { orderChecks } from "./order-checks";
export { strainerDrop, type StrainerVerdict } from "./strainer-drop";
export { tighteningOrder } from "./tightening-order";
