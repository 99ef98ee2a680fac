import type { DueInput, Plan, Trigger } from "../types";

export type CalendarTrigger = Extract<Trigger, { kind: "calendar" }>;

/** A due input with everything empty but what a test is about. */
export function dueInput(
  plan: Partial<Plan> & { triggers: Trigger[] },
  rest: Partial<Omit<DueInput, "plan">> = {},
): DueInput {
  return {
    plan: { id: "p", startOn: "2026-01-01", ...plan },
    completions: [],
    meters: {},
    readings: {},
    events: [],
    // Nothing is done after today.
    today: (rest.completions ?? []).reduce((last, one) => (one.on > last ? one.on : last), "2026-02-10"),
    ...rest,
  };
}

export const done = (on: string, meters?: Record<string, number>) => ({
  planId: "p",
  on,
  ...(meters ? { meters } : {}),
});

export const every = (
  count: number,
  unit: CalendarTrigger["unit"],
  rest: Partial<CalendarTrigger> = {},
): CalendarTrigger => ({
  kind: "calendar",
  every: count,
  unit,
  basis: "completion",
  ...rest,
});

export const hours = (count: number, rest: Partial<Extract<Trigger, { kind: "meter" }>> = {}): Trigger => ({
  kind: "meter",
  meter: "hours",
  every: count,
  basis: "completion",
  ...rest,
});

export const read = (...pairs: [string, number][]) => pairs.map(([on, value]) => ({ on, value }));
