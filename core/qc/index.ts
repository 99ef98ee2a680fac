export { ewmaChart, type EwmaChart } from "./ewma-chart";
export { westgard, type ControlRule, type RuleHit } from "./westgard";
