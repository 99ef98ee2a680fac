import { MEAN_DAYS } from "../days/add-units";
import { CoreError } from "../errors";
import { requireList, requireRecord } from "../inputs";
import { ceilExact, floorExact, requirePositive } from "../numbers";
import { checkTrigger } from "../schedule/history";
import type { Trigger } from "../schedule/types";
import { type AsFound, tuneInterval } from "./tune-interval";

/** Rules that repeat by themselves: the ones of which the interval can be tuned. */
export type Repeating = Extract<Trigger, { kind: "calendar" | "meter" }>;

const WEEK = 7;

export interface TunedRules {
  triggers: Trigger[];
  /** What the intervals in force are multiplied by, before they are rounded and held. */
  because: string;
}

/**
 * A duty's rules with the intervals that its findings ask for: every rule that repeats by itself takes the same step of
 * {@link tuneInterval}, a calendar's in whole days (whole weeks where it keeps to a weekday), a meter's in whole units of use.
 *
 * @param rules triggers in force, and the factor by which a site stretches them
 * @param asFound oldest first
 * @param bounds by what the given intervals may be multiplied at least and at most; `given`: the rules before any was tuned
 * @returns null when the intervals stay as they are
 * @throws CoreError `bad-value`, `bad-number`, `out-of-range` when the bounds cross
 */
export function tuneRules(
  rules: { triggers: readonly Trigger[]; intervalFactor?: number | undefined },
  asFound: readonly AsFound[],
  bounds: { least: number; most: number; given: { triggers: readonly Trigger[]; intervalFactor?: number | undefined } },
): TunedRules | null {
  const { triggers, intervalFactor = 1 } = requireRecord(rules, "rules");
  checkTriggers(triggers, "rules.triggers");
  checkTriggers(requireRecord(requireRecord(bounds, "bounds").given, "bounds.given").triggers, "bounds.given.triggers");
  requirePositive(bounds.least, "bounds.least");
  requirePositive(bounds.most, "bounds.most");
  if (bounds.most < bounds.least)
    throw new CoreError("out-of-range", "bounds.most", "The bounds of an interval cross.");
  const given = bounds.given.triggers.filter(isRepeating);
  let because = "";
  let nth = 0;
  const tuned = triggers.map((trigger) => {
    if (!isRepeating(trigger)) return trigger;
    const from = given[nth++] ?? trigger;
    const inForce = lengthOf(trigger, intervalFactor);
    const base = lengthOf(from, bounds.given.intervalFactor ?? 1);
    const step = tuneInterval({
      interval: inForce,
      asFound,
      // The one in force may lie outside already: it is not brought back by this, but goes no further.
      min: Math.min(inForce, Math.max(1, ceilExact(base * bounds.least))),
      max: Math.max(inForce, floorExact(base * bounds.most)),
    });
    because ||= step.because;
    const to = trigger.kind === "calendar" && trigger.weekday !== undefined ? wholeWeeks(step.interval) : step.interval;
    if (to === inForce) return intervalFactor === 1 ? trigger : withLength(trigger, inForce);
    return withLength(trigger, to);
  });
  return tuned.every((one, i) => sameLength(one, triggers[i], intervalFactor)) ? null : { triggers: tuned, because };
}

function checkTriggers(triggers: readonly Trigger[], path: string): void {
  requireList(triggers, path).forEach((one, i) => checkTrigger(requireRecord(one, `${path}[${i}]`), `${path}[${i}]`));
}

/** Whether a rule, its factor worked in, is as long as it was. */
function sameLength(tuned: Trigger, was: Trigger | undefined, factor: number): boolean {
  if (!was || !isRepeating(was) || !isRepeating(tuned)) return true;
  return lengthOf(tuned, 1) === lengthOf(was, factor);
}

export const isRepeating = (trigger: Trigger): trigger is Repeating =>
  trigger.kind === "calendar" || trigger.kind === "meter";
const wholeWeeks = (days: number): number => Math.max(WEEK, floorExact(days / WEEK) * WEEK);

/** An interval's length as it is in force at a site: whole days, or units of the meter. */
function lengthOf(trigger: Repeating, factor: number): number {
  if (trigger.kind === "meter") return trigger.every * factor;
  return Math.max(1, floorExact(trigger.every * MEAN_DAYS[trigger.unit] * factor));
}

function withLength(trigger: Repeating, length: number): Repeating {
  if (trigger.kind === "meter") return { ...trigger, every: length };
  const weeks = trigger.weekday !== undefined;
  return { ...trigger, every: weeks ? length / WEEK : length, unit: weeks ? "week" : "day" };
}
