import type { Trigger } from "@core";

import { leadOf, rowOf, ruleSchema, triggerOf } from "./duty-schema";

it.each<Trigger>([
  { kind: "calendar", every: 14, unit: "day", basis: "completion" },
  { kind: "calendar", every: 1, unit: "week", basis: "grid", weekday: 5 },
  { kind: "calendar", every: 6, unit: "month", basis: "completion", first: { every: 3, unit: "month" } },
  { kind: "meter", meter: "cutting-hours", every: 100, basis: "grid", first: 50 },
  { kind: "meter", meter: "cutting-hours", every: 0.5, basis: "completion" },
  { kind: "event", event: "ribbon-replaced" },
  { kind: "condition", reading: "bristle", below: 2, above: 9 },
  { kind: "condition", reading: "bristle", above: 9 },
  { kind: "condition", reading: "bristle", below: 0 },
])("a rule goes through the form unchanged: %j", async (trigger) => {
  expect(triggerOf(await ruleSchema.validate(rowOf(trigger)))).toEqual(trigger);
});

it.each([
  [{ kind: "calendar", every: "0", unit: "day", calendarBasis: "grid" }, "above zero"],
  [{ kind: "calendar", every: "2.5", unit: "day", calendarBasis: "grid" }, "whole number"],
  [{ kind: "meter", meter: "hours", meterBasis: "grid" }, "How much?"],
  [{ kind: "event", event: "Ribbon replaced" }, "small letters"],
  [{ kind: "condition", reading: "gap" }, "Give a limit"],
  [{ kind: "moon" }, "Choose a kind"],
])("%j is refused in words", async (row, words) => {
  await expect(ruleSchema.validate(row)).rejects.toThrow(words);
});

it("keeps the default lead when nothing is given", () => {
  expect(leadOf(undefined, undefined)).toBeUndefined();
  expect(leadOf(3, undefined)).toEqual({ days: 3 });
  expect(leadOf(undefined, 25)).toEqual({ fraction: 0.25 });
});
