export { ewmaChart } from "./ewma-chart";
export { westgard } from "./westgard";
