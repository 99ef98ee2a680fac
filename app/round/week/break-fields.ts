import type { BreakRule } from "@db";

import { inHours } from "~/kit/days/day-time";

/** As many breaks as a person's form has. */
export const BREAK_ROWS = [1, 2] as const;

/** One break as it is typed: minutes, and hours after the day's start. */
export interface TypedBreak {
  minutes: number;
  from: number;
  by: number;
}

/** Breaks as they are kept: those of no minutes are none, the earlier one first. */
export function breakRules(typed: readonly TypedBreak[]): BreakRule[] {
  return typed
    .filter((one) => one.minutes > 0)
    .map(({ minutes, from, by }) => ({ minutes, from: Math.round(60 * from), by: Math.round(60 * by) }))
    .sort((a, b) => a.by - b.by || a.from - b.from);
}

/** What the form's fields of one row hold; a row that is free begins as a midday break would. */
export function typedBreak(rules: readonly BreakRule[], row: number): TypedBreak {
  const rule = rules[row - 1];
  return rule ? { minutes: rule.minutes, from: rule.from / 60, by: rule.by / 60 } : { minutes: 0, from: 3, by: 5 };
}

const inNumbers = (hours: number): string => String(Math.round(100 * hours) / 100);

/** "30 min, begun 3 to 5 hours after the start". */
export function breakWords(rules: readonly BreakRule[]): string {
  if (rules.length === 0) return "none";
  return rules
    .map(
      ({ minutes, from, by }) =>
        `${inHours(minutes)}, begun ${inNumbers(from / 60)} to ${inNumbers(by / 60)} hours after the start`,
    )
    .join("; ");
}
