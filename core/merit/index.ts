export { type FailureFigures, failureFigures } from "./failure-figures";
export { onTime } from "./on-time";
export { pareto } from "./pareto";
