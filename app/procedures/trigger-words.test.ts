import type { Trigger } from "@core";

import { triggerWords } from "./trigger-words";

it.each<[Trigger, string]>([
  [{ kind: "calendar", every: 14, unit: "day", basis: "completion" }, "every 14 days, from the last completion"],
  [{ kind: "calendar", every: 1, unit: "year", basis: "grid" }, "every year, on fixed dates"],
  [{ kind: "calendar", every: 1, unit: "week", basis: "grid", weekday: 5 }, "every week on Friday, on fixed dates"],
  [{ kind: "calendar", every: 2, unit: "week", basis: "grid", weekday: 1 }, "every 2 weeks on Monday, on fixed dates"],
  [
    { kind: "calendar", every: 6, unit: "month", basis: "completion", first: { every: 3, unit: "month" } },
    "every 6 months, from the last completion, the first after 3 months",
  ],
  [
    { kind: "calendar", every: 6, unit: "month", basis: "grid", first: { every: 1, unit: "week" } },
    "every 6 months, on fixed dates, the first after 1 week",
  ],
  [
    { kind: "meter", meter: "cutting-hours", every: 1500, basis: "grid", first: 50 },
    "every 1,500 on cutting hours, at fixed points, the first at 50",
  ],
  [
    { kind: "meter", meter: "prints", every: 0.125, basis: "completion" },
    "every 0.125 on prints, from the last completion",
  ],
  [{ kind: "event", event: "ribbon-replaced" }, "at each “ribbon replaced”"],
  [{ kind: "condition", reading: "bristle-length", below: 2 }, "when bristle length is below 2"],
  [{ kind: "condition", reading: "signal", above: 80000 }, "when signal is above 80,000"],
  [{ kind: "condition", reading: "gap", below: 0, above: 0.02 }, "when gap is above 0.02 or below 0"],
])("%j: %s", (trigger, words) => {
  expect(triggerWords(trigger)).toBe(words);
});
