import type { Trigger } from "@core";

import { leadOf, rowOf, ruleSchema, triggerOf, triggerWords } from "./duty-schema";

const TRIGGERS: [Trigger, string][] = [
  [{ kind: "calendar", every: 14, unit: "day", basis: "completion" }, "every 14 days, from the last completion"],
  [{ kind: "calendar", every: 1, unit: "week", basis: "grid", weekday: 5 }, "every week on Friday, on fixed dates"],
  [
    { kind: "calendar", every: 6, unit: "month", basis: "completion", first: { every: 3, unit: "month" } },
    "every 6 months, from the last completion, the first after 3 months",
  ],
  [
    { kind: "meter", meter: "cutting-hours", every: 100, basis: "grid", first: 50 },
    "every 100 on cutting hours, at fixed points, the first at 50",
  ],
  [{ kind: "event", event: "ribbon-replaced" }, "at each ribbon replaced"],
  [{ kind: "condition", reading: "bristle", below: 2, above: 9 }, "when bristle is above 9 or below 2"],
];

it.each(TRIGGERS)("a rule goes through the form unchanged: %j", async (trigger, words) => {
  expect(triggerOf(await ruleSchema.validate(rowOf(trigger)))).toEqual(trigger);
  expect(triggerWords(trigger)).toBe(words);
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
