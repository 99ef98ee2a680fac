import type { Trigger } from "@core";
import type { DutyRules, IntervalRules } from "@db";

/** What of the rules says how often a duty comes. */
export const intervalsOf = ({ triggers, intervalFactor }: DutyRules): IntervalRules => ({
  triggers,
  ...(intervalFactor === undefined ? {} : { intervalFactor }),
});

/** Whether two duties come as often, by the same rules. */
export function sameIntervals(a: IntervalRules, b: IntervalRules): boolean {
  return (a.intervalFactor ?? 1) === (b.intervalFactor ?? 1) && sorted(a.triggers) === sorted(b.triggers);
}

/** The database gives the fields of an object in an order of its own. */
const sorted = (triggers: readonly Trigger[]): string =>
  JSON.stringify(triggers, (_, value: unknown) =>
    value !== null && typeof value === "object" && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value,
  );
