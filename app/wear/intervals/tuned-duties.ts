import { isRepeating, type Repeating, type Trigger } from "@core";
import type { DutyRow, IntervalRules } from "@db";

import { intervalsOf } from "~/duties/intervals";

/** A shorter interval is not for findings to tune: what is done daily is done daily. */
const LEAST_DAYS = 7;
/** By what the given intervals are multiplied at least and at most where nobody set it. */
export const USUAL_LEAST = 0.5;
export const USUAL_MOST = 2;

/** Rules that repeat by themselves. */
export const repeating = (triggers: readonly Trigger[]): Repeating[] => triggers.filter(isRepeating);

/** Whether it is asked how a machine was found at a duty: one that technicians do, and that comes back by itself. */
export function isTuned({ who, rules }: Pick<DutyRow, "who" | "rules">): boolean {
  return (
    who !== "operator" &&
    repeating(rules.triggers).some(
      (one) => one.kind === "meter" || one.unit !== "day" || one.every * (rules.intervalFactor ?? 1) >= LEAST_DAYS,
    )
  );
}

/** Between which factors of the given intervals a duty's may be tuned: never longer than given where harm waits behind it. */
export function boundsOf({
  who,
  hardStop,
  authorisation,
  rules,
}: Pick<DutyRow, "who" | "hardStop" | "authorisation" | "rules">): {
  least: number;
  most: number;
  given: IntervalRules;
} {
  const guarded = hardStop || who === "licensed" || authorisation !== null;
  const least = rules.tuning?.least ?? USUAL_LEAST;
  const most = Math.max(least, rules.tuning?.most ?? (guarded ? 1 : USUAL_MOST));
  return { least, most: guarded ? Math.max(least, Math.min(1, most)) : most, given: rules.given ?? intervalsOf(rules) };
}
