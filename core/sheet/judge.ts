import { instantMs } from "../days/parse-instant";
import { must } from "../must";
import { plainNumber, requireFinite } from "../numbers";
import { possibleOf, type Span } from "../readings/possible";
import type { Limits, Step } from "./procedure";
import type { StepState } from "./run-state";

export type Verdict = "in" | "low" | "high";

/**
 * Where a reading falls: limits `min`/`max` still belong to the band, `above`/`below` do not.
 *
 * @throws CoreError unless `value` is a finite number: what is no number is not in
 */
export function judgeReading(value: number, limits: Limits | undefined): Verdict {
  // Whatever its size: a slip of a digit too many is high, not an error.
  if (!Number.isFinite(value)) requireFinite(value, "value");
  if (limits === undefined) return "in";
  if ((limits.min !== undefined && value < limits.min) || (limits.above !== undefined && value <= limits.above))
    return "low";
  if ((limits.max !== undefined && value > limits.max) || (limits.below !== undefined && value >= limits.below))
    return "high";
  return "in";
}

/** The limits in words: "at least 0.8 and at most 1.6 in", "below 0.02 in"; of what cannot be less than nothing the upper alone. */
export function limitWords(limits: Limits, unit: string): string {
  const figure = (value: number): string => String(Number(value.toPrecision(6)));
  const bounded = limits.max !== undefined || limits.below !== undefined;
  const parts = [
    limits.min === undefined || (limits.min === 0 && bounded && unit.trim() !== "" && possibleOf(unit)[0] === 0)
      ? null
      : `at least ${figure(limits.min)}`,
    limits.above === undefined ? null : `above ${figure(limits.above)}`,
    limits.max === undefined ? null : `at most ${figure(limits.max)}`,
    limits.below === undefined ? null : `below ${figure(limits.below)}`,
  ].filter((part) => part !== null);
  return `${parts.join(" and ")} ${unit}`;
}

export type SoakVerdict = "short" | "in" | "long";

/** The limits a step's readings are held against. */
export function limitsOf(step: Step): Limits | undefined {
  if (step.kind === "reset") return { min: step.expect, max: step.expect };
  return step.kind === "measure" ? step.limits : undefined;
}

/** Several readings as one figure: their mean, or the highest less the lowest. */
export function summaryOf(judge: "mean" | "spread", values: readonly number[]): number {
  return judge === "mean"
    ? values.reduce((sum, value) => sum + value, 0) / values.length
    : Math.max(...values) - Math.min(...values);
}

/** Minimum and maximum of anything with a clock: a wait, or a cool-down by time. */
export interface TimedBounds {
  minMinutes: number;
  maxMinutes?: number;
}

/** The clock's bounds of a step, null for a step without one. */
export function timedBounds(step: Step): TimedBounds | null {
  if (step.kind === "wait") return step;
  return step.kind === "safety" && step.coolDown?.minutes !== undefined ? { minMinutes: step.coolDown.minutes } : null;
}

export function minutesBetween(from: string, to: string): number {
  return Math.max(0, (instantMs(to, "at") - instantMs(from, "at")) / 60_000);
}

/**
 * What a step's value can be at all: what its procedure says, else nothing is said against it here, as sheets that were worked
 * before read as they did. A surface on a machine is neither colder nor hotter than these, °C (common practice).
 */
export function possibleOnStep(step: Step): Span {
  if (step.kind === "safety") return [-90, 1500];
  return step.kind === "measure" ? [step.possible?.min ?? null, step.possible?.max ?? null] : [null, null];
}

export function isPossible(step: Step, value: number): boolean {
  const [low, high] = possibleOnStep(step);
  return (low === null || value >= low) && (high === null || value <= high);
}

/** Whether a cool-down gate may open: by its latest surface reading, or by its clock. Gates without a cool-down always may. */
export function coolEnough(step: Extract<Step, { kind: "safety" }>, at: StepState | null, nowMs: number): boolean {
  const { coolDown } = step;
  if (coolDown === undefined) return true;
  const reading = at?.readings.findLast((one) => !one.impossible)?.value;
  if (coolDown.belowC !== undefined && reading !== undefined && reading < coolDown.belowC) return true;
  return (
    coolDown.minutes !== undefined &&
    at?.timer != null &&
    nowMs - instantMs(at.timer.startedAt, "at") >= coolDown.minutes * 60_000
  );
}

/** How long a wait was against its minimum and maximum; both ends belong to the band. */
export function judgeWait(minutes: number, step: TimedBounds): SoakVerdict {
  requireFinite(minutes, "minutes");
  if (minutes < step.minMinutes) return "short";
  return step.maxMinutes !== undefined && minutes > step.maxMinutes ? "long" : "in";
}

export interface TimerNow {
  phase: "before-min" | "ready" | "near-max" | "past-max";
  elapsedMinutes: number;
  /** Until the minimum; negative once reached. */
  toMinMinutes: number;
  /** Until the maximum; negative once passed, null without one. */
  toMaxMinutes: number | null;
  says: string;
}

/** Minutes before the maximum at which a warning starts: two, or half of what lies between minimum and maximum. */
export function maxWarningMinutes(step: TimedBounds): number {
  return step.maxMinutes === undefined ? 0 : Math.min(2, (step.maxMinutes - step.minMinutes) / 2);
}

/** What a running timer says at a moment. */
export function timerNow(step: TimedBounds, startedMs: number, nowMs: number): TimerNow {
  const elapsedMinutes = Math.max(0, (nowMs - startedMs) / 60_000);
  const toMinMinutes = step.minMinutes - elapsedMinutes;
  const toMaxMinutes = step.maxMinutes === undefined ? null : step.maxMinutes - elapsedMinutes;
  const phase =
    toMaxMinutes !== null && toMaxMinutes < 0
      ? "past-max"
      : toMinMinutes > 0
        ? "before-min"
        : toMaxMinutes !== null && toMaxMinutes <= maxWarningMinutes(step)
          ? "near-max"
          : "ready";
  const says = {
    "before-min": `not before ${plainNumber(step.minMinutes)} min`,
    ready: toMaxMinutes === null ? "long enough" : `long enough; out by ${plainNumber(must(step.maxMinutes))} min`,
    "near-max": `take it out now: at most ${plainNumber(step.maxMinutes ?? 0)} min`,
    "past-max": `past the maximum of ${plainNumber(step.maxMinutes ?? 0)} min`,
  }[phase];
  return { phase, elapsedMinutes, toMinMinutes, toMaxMinutes, says };
}

type JudgedTogether = Extract<Step, { kind: "measure" }> & { judge: "mean" | "spread" };

/** Whether the readings of a step are judged by their mean or spread, none by itself. */
export const judgedTogether = (step: Step): step is JudgedTogether =>
  step.kind === "measure" && step.judge !== undefined && step.judge !== "each";
