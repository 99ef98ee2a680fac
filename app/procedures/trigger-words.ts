import { inWords, type Trigger } from "@core";

import { WEEKDAY_NAMES } from "~/kit/days/access-hours";

const figure = (value: number): string => value.toLocaleString("en", { maximumFractionDigits: 6 });

function calendarWords(trigger: Extract<Trigger, { kind: "calendar" }>): string {
  const { every, unit, weekday, basis, first } = trigger;
  const often = every === 1 ? `every ${unit}` : `every ${every} ${unit}s`;
  const on = weekday ? ` on ${WEEKDAY_NAMES[weekday - 1]}` : "";
  const from = basis === "grid" ? "on fixed dates" : "from the last completion";
  return `${often}${on}, ${from}${first ? `, the first after ${first.every} ${first.unit}${first.every === 1 ? "" : "s"}` : ""}`;
}

/** What makes a duty due, in one line, for lists. */
export function triggerWords(trigger: Trigger): string {
  switch (trigger.kind) {
    case "calendar":
      return calendarWords(trigger);
    case "meter": {
      const from = trigger.basis === "grid" ? "at fixed points" : "from the last completion";
      const first = trigger.first ? `, the first at ${figure(trigger.first)}` : "";
      return `every ${figure(trigger.every)} on ${inWords(trigger.meter)}, ${from}${first}`;
    }
    case "event":
      return `at each “${inWords(trigger.event)}”`;
    case "condition": {
      const limits = [
        ...(trigger.above === undefined ? [] : [`above ${figure(trigger.above)}`]),
        ...(trigger.below === undefined ? [] : [`below ${figure(trigger.below)}`]),
      ];
      return `when ${inWords(trigger.reading)} is ${limits.join(" or ")}`;
    }
  }
}
