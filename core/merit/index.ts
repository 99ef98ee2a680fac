export { type FailureFigures, failureFigures, type GroupFigures, groupFigures } from "./failure-figures";
export { onTime } from "./on-time";
export { pareto } from "./pareto";
