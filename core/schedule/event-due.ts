import { formatDay } from "../days/format-day";
import { must } from "../must";
import { plainNumber } from "../numbers";
import type { PlanHistory } from "./history";
import type { TriggerDue } from "./trigger-due";
import type { Trigger } from "./types";
import type { DayValue } from "./usage-rate";

/** Due on the earliest day of the event after the last completion; an event that is planned ahead counts. */
export function eventDue(trigger: Extract<Trigger, { kind: "event" }>, history: PlanHistory): TriggerDue {
  const done = history.lastDone;
  const due =
    history.eventDays(trigger.event).find((on) => (done === null ? on >= history.startOn : on > done)) ?? null;
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

/** Due on the first day of the current unbroken run of readings strictly beyond the limit; before that, when one is forecast. */
export function conditionDue(trigger: Extract<Trigger, { kind: "condition" }>, history: PlanHistory): TriggerDue {
  const done = history.lastDone;
  const start = startOfRun(trigger, history);
  const open = { projected: false, anchor: null, usedFraction: null };
  if (start) return { ...open, due: start.on, says: () => conditionWords(trigger, done, start) };
  const forecast = history.forecast(trigger.reading);
  if (forecast === null) return { ...open, due: null, says: () => conditionWords(trigger, done, undefined) };
  const { on, low, high } = forecast;
  const due = Math.max(history.today, on);
  const between = low === null || high === null ? "" : `, between ${formatDay(low)} and ${formatDay(high)}`;
  return {
    ...open,
    projected: true,
    due,
    says: () =>
      `${conditionWords(trigger, done, undefined)} It is expected about ${formatDay(on)}${between}${due > on ? ", which has passed without a reading that says so: due today at the earliest" : ""}.`,
  };
}

/** The first reading of the run beyond the limit that still goes on; undefined when the latest is not beyond it. */
function startOfRun(
  { above, below, reading }: Extract<Trigger, { kind: "condition" }>,
  history: PlanHistory,
): DayValue | undefined {
  const beyond = ({ value }: DayValue): boolean =>
    (above !== undefined && value > above) || (below !== undefined && value < below);
  // Readings on the day of the completion are as found, before the work.
  const { lastDone, startOn } = history;
  const readings = history.reading(reading).filter(({ on }) => (lastDone === null ? on >= startOn : on > lastDone));
  let start: DayValue | undefined;
  for (let to = readings.length; to > 0;) {
    let from = to - 1;
    while (from > 0 && must(readings[from - 1]).on === must(readings[from]).on) from--;
    const day = readings.slice(from, to);
    if (day.some((one) => one.at === null)) {
      // Which came last is not known: a day is beyond when any of it is.
      const first = day.find(beyond);
      if (!first) return start;
      start = first;
    } else {
      for (const one of day.sort((a, b) => must(b.at) - must(a.at))) {
        if (!beyond(one)) return start;
        start = one;
      }
    }
    to = from;
  }
  return start;
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
