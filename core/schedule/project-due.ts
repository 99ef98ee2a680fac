import { formatDay } from "../days/format-day";
import { parseDay } from "../days/parse-day";
import { must } from "../must";
import { assessTriggers } from "./assess-due";
import { type DayCompletion, type PlanHistory, readHistory } from "./history";
import { rateAt } from "./meter-due";
import type { DueInput, Trigger } from "./types";

type MeterTrigger = Extract<Trigger, { kind: "meter" }>;

/**
 * Every day on which a duty falls due up to and including `until`, each assumed done on its day with every trigger
 * restarting there. At most one entry a day; an overdue duty appears once, on `today`.
 *
 * @throws CoreError as {@link assessDue}, and for an impossible `until`
 */
export function projectDue(input: DueInput, until: string): { on: string; driver: Trigger }[] {
  const end = parseDay(until, "until");
  const history = readHistory(input);
  const { today } = history;
  const projections: { on: string; driver: Trigger }[] = [];
  const meters = metersOf(history).map((trigger) => meterForecast(history, trigger));
  const completions = history.completions;
  let earliest = today;

  for (;;) {
    const { all, driver } = assessTriggers(history);
    if (driver < 0) return projections;
    const on = Math.max(must(must(all[driver]).due), earliest);
    if (on > end) return projections;
    projections.push({ on: formatDay(on), driver: must(history.plan.triggers[driver]) });
    // One assumed completion is enough: it satisfies all before it. Done today, the duty cannot be due again today.
    const assumed: DayCompletion = { on, meters: Object.fromEntries(meters.flatMap((at) => at(on))) };
    history.completions = [...completions.filter((done) => done.on <= on), assumed];
    history.lastDone = on;
    earliest = on + 1;
  }
}

/** One rule of each meter that the plan counts by. */
function metersOf(history: PlanHistory): MeterTrigger[] {
  const byName = new Map<string, MeterTrigger>();
  for (const trigger of history.plan.triggers) if (trigger.kind === "meter") byName.set(trigger.meter, trigger);
  return [...byName.values()];
}

/** The face value a meter is expected to show on a later day, as an entry; empty when the rate is unknown. */
function meterForecast(history: PlanHistory, trigger: MeterTrigger): (on: number) => [string, number][] {
  const name = trigger.meter;
  const { rate } = rateAt(trigger, history);
  const noted = history.completions.flatMap((done) => {
    const value = done.meters?.[name];
    return value === undefined ? [] : [{ on: done.on, value }];
  });
  const readings = history.meter(name);
  const lastReading = readings[readings.length - 1];
  const lastNoted = noted[noted.length - 1];
  const last = lastNoted && (!lastReading || lastNoted.on > lastReading.on) ? lastNoted : lastReading;
  if (rate === null || last === undefined) return () => [];
  return (on) => [[name, last.value + rate * Math.max(0, on - last.on)]];
}
