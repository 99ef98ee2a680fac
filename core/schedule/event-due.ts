import { formatDay } from "../days/format-day";
import { must } from "../must";
import { plainNumber } from "../numbers";
import type { PlanHistory } from "./history";
import type { TriggerDue } from "./trigger-due";
import type { Trigger } from "./types";

/** Due on the earliest day of the event after the last completion; an event that is planned ahead counts. */
export function eventDue(trigger: Extract<Trigger, { kind: "event" }>, history: PlanHistory): TriggerDue {
  const done = history.lastDone;
  const due = history.eventDays(trigger.event).find((on) => done === null || on > done) ?? null;
  return {
    due,
    projected: false,
    anchor: null,
    usedFraction: null,
    says: () => {
      const since = done === null ? "" : ` after the last completion on ${formatDay(done)}`;
      return due === null
        ? `At each "${trigger.event}": none${since}.`
        : `At each "${trigger.event}": the earliest${since} is on ${formatDay(due)}.`;
    },
  };
}

/** Due on the first day of the current unbroken run of readings strictly beyond the limit. */
export function conditionDue(trigger: Extract<Trigger, { kind: "condition" }>, history: PlanHistory): TriggerDue {
  const done = history.lastDone;
  const readings = history.reading(trigger.reading);
  const beyond = (value: number): boolean =>
    (trigger.above !== undefined && value > trigger.above) || (trigger.below !== undefined && value < trigger.below);
  let first = readings.length;
  // Readings on the day of the completion are as found, before the work.
  while (first > 0 && (done === null || must(readings[first - 1]).on > done) && beyond(must(readings[first - 1]).value))
    first--;
  const start = readings[first];
  return {
    due: start?.on ?? null,
    projected: false,
    anchor: null,
    usedFraction: null,
    says: () => conditionWords(trigger, done, start),
  };
}

function conditionWords(
  trigger: Extract<Trigger, { kind: "condition" }>,
  done: number | null,
  start: { on: number; value: number } | undefined,
): string {
  const limits = [
    trigger.above === undefined ? null : `above ${plainNumber(trigger.above)}`,
    trigger.below === undefined ? null : `below ${plainNumber(trigger.below)}`,
  ].filter((text) => text !== null);
  const rule = `When ${trigger.reading} is ${limits.join(" or ")}`;
  return start === undefined
    ? `${rule}: the latest reading${done === null ? "" : ` after the last completion on ${formatDay(done)}`} is not beyond it, or there is none.`
    : `${rule}: beyond it since ${formatDay(start.on)} (${plainNumber(start.value)}).`;
}
