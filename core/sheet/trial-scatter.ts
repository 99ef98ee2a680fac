import { requireList, requireRecord } from "../inputs";
import { requireFinite } from "../numbers";
import { summaryOf } from "./judge";
import type { Step } from "./procedure";

/** Share of their mean that trials may lie apart where the step's limits tell no width; common practice. */
const SHARE = 0.05;

/**
 * Whether repeated trials of one thing lie too far apart for their mean to say anything: further than half the width of the
 * step's limits, or 5 % of the mean where the limits have no width (common practice). They are timed again then, not averaged.
 *
 * @param values one for each trial, in the step's unit
 * @returns how far apart they lie and how far they may; null when they agree, or the step averages no trials
 * @throws CoreError `bad-number`
 */
export function trialScatter(step: Step, values: readonly number[]): { apart: number; most: number } | null {
  requireRecord(step, "step");
  requireList(values, "values");
  values.forEach((value, i) => requireFinite(value, `values[${i}]`));
  if (step.kind !== "measure" || step.judge !== "mean" || (step.trials ?? 0) < 2 || values.length < 2) return null;
  const [low, high] = [step.limits?.min ?? step.limits?.above, step.limits?.max ?? step.limits?.below];
  const most = low !== undefined && high !== undefined ? (high - low) / 2 : Math.abs(summaryOf("mean", values)) * SHARE;
  const apart = summaryOf("spread", values);
  // Half a thousandth for figures that binary cannot hold: 2.3 − 2.1 is a hair more than 0.2.
  return apart > most * 1.0005 ? { apart, most } : null;
}
