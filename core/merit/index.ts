export { type FailureFigures, failureFigures, groupFigures } from "./failure-figures";
export { onTime } from "./on-time";
export { pareto } from "./pareto";
