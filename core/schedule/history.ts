import { parseDay } from "../days/parse-day";
import { CoreError } from "../errors";
import { isRecord, requireList, requireRecord, withoutNulls } from "../inputs";
import { must } from "../must";
import { requireFinite, requireNotNegative, requirePositive, requirePositiveWhole } from "../numbers";
import { parsePauses, type Pause } from "./pauses";
import type { DueInput, Lead, Plan, Trigger } from "./types";
import { type DayValue, parseReadings } from "./usage-rate";

export interface DayCompletion {
  on: number;
  meters: Record<string, number> | undefined;
}

/** A validated plan with its own completions, everything as day numbers and in day order. */
export interface PlanHistory {
  plan: Plan;
  startOn: number;
  factor: number;
  completions: DayCompletion[];
  /** Day of the last completion, null when there is none. */
  lastDone: number | null;
  today: number;
  pauses: Pause[];
  meter(name: string): DayValue[];
  reading(name: string): DayValue[];
  /** The day on which a reading is expected to be beyond its limit; null when nothing says so. */
  forecast(name: string): DayForecast | null;
  /** Days of an event, ascending. */
  eventDays(name: string): number[];
}

/** Validates a whole due input once and gives the triggers parsed, sorted views of it. */
export function readHistory(input: DueInput): PlanHistory {
  const plan = readPlan(requireRecord(input, "input").plan);
  const startOn = parseDay(plan.startOn, "plan.startOn");
  const today = parseDay(input.today, "today");
  const factor = plan.intervalFactor === undefined ? 1 : requirePositive(plan.intervalFactor, "plan.intervalFactor");
  const completions = readCompletions(input, plan.id, today);
  const meters: Record<string, DayValue[]> = {};
  for (const name in requireRecord(input.meters, "meters"))
    meters[name] = parseReadings(requireList(input.meters[name], `meters.${name}`), `meters.${name}`, true);
  const readings: Record<string, DayValue[]> = {};
  for (const name in requireRecord(input.readings, "readings"))
    readings[name] = parseReadings(requireList(input.readings[name], `readings.${name}`), `readings.${name}`, false);
  const events = requireList(input.events, "events").map((event, i) => ({
    name: (isRecord(event) ? event : requireRecord(event, `events[${i}]`)).event,
    on: parseDay(event.on, `events[${i}].on`),
  }));
  // What is dated after today is parked, not known.
  const known = (values: DayValue[]): DayValue[] =>
    values.length > 0 && must(values[values.length - 1]).on > today ? values.filter((one) => one.on <= today) : values;

  return {
    plan,
    startOn,
    factor,
    completions,
    lastDone: completions.length > 0 ? must(completions[completions.length - 1]).on : null,
    today,
    pauses: parsePauses(input.pauses),
    meter: (name) => (Object.hasOwn(meters, name) ? known(must(meters[name])) : []),
    reading: (name) => (Object.hasOwn(readings, name) ? known(must(readings[name])) : []),
    forecast: (name) => readForecast(input, name),
    eventDays: (name) =>
      events
        .filter((event) => event.name === name)
        .map((event) => event.on)
        .sort((a, b) => a - b),
  };
}

/** The plan, checked; what is null in it is absent. */
function readPlan(given: Plan): Plan {
  const plan = withoutNulls(requireRecord(given, "plan"));
  if (!Array.isArray(plan.triggers) || plan.triggers.length === 0)
    throw new CoreError("missing", "plan.triggers", "plan.triggers needs at least one rule that makes the duty due.");
  const triggers = plan.triggers.map((one, i) => {
    const path = `plan.triggers[${i}]`;
    const trigger = withoutNulls(requireRecord(one, path));
    checkTrigger(trigger, path);
    return trigger;
  });
  const notice = readLead(plan.notice, "plan.notice");
  const warning = readLead(plan.warning, "plan.warning");
  return { ...plan, triggers, ...(notice ? { notice } : {}), ...(warning ? { warning } : {}) };
}

/** Day numbers of a forecast; an end that is not known is null. */
export interface DayForecast {
  on: number;
  low: number | null;
  high: number | null;
}

function readForecast(input: DueInput, name: string): DayForecast | null {
  const { forecasts } = input;
  if (!forecasts) return null;
  if (!Object.hasOwn(requireRecord(forecasts, "forecasts"), name)) return null;
  const { on, low, high } = requireRecord(forecasts[name], `forecasts.${name}`);
  const end = (day: string | null | undefined, field: string): number | null =>
    day === null || day === undefined ? null : parseDay(day, `forecasts.${name}.${field}`);
  return { on: parseDay(on, `forecasts.${name}.on`), low: end(low, "low"), high: end(high, "high") };
}

function readCompletions(input: DueInput, planId: string, today: number): DayCompletion[] {
  const own: DayCompletion[] = [];
  const completions = requireList(input.completions, "completions");
  for (let i = 0; i < completions.length; i++) {
    const completion = isRecord(completions[i])
      ? must(completions[i])
      : requireRecord(completions[i], `completions[${i}]`);
    const on = parseDay(completion.on, `completions[${i}].on`);
    for (const name in completion.meters) {
      requireNotNegative(completion.meters[name], `completions[${i}].meters.${name}`);
    }
    if (completion.planId !== planId) continue;
    if (on > today)
      throw new CoreError(
        "out-of-range",
        `completions[${i}].on`,
        `completions[${i}].on is ${completion.on}, after today: nothing is done before its day.`,
      );
    own.push({ on, meters: completion.meters });
  }
  return own.sort((a, b) => a.on - b.on);
}

const UNITS = new Set<string>(["day", "week", "month", "year"]);

function checkUnit(unit: unknown, path: string): void {
  if (typeof unit !== "string" || !UNITS.has(unit)) {
    throw new CoreError("bad-value", path, `${path} must be day, week, month or year, not "${String(unit)}".`);
  }
}

function checkBasis(basis: unknown, path: string): void {
  if (basis !== "completion" && basis !== "grid") {
    throw new CoreError("bad-value", path, `${path} must be "completion" or "grid", not "${String(basis)}".`);
  }
}

function checkName(name: unknown, path: string): void {
  if (typeof name !== "string" || name === "") throw new CoreError("missing", path, `${path} needs a name.`);
}

/** @throws CoreError where a rule says what none can */
export function checkTrigger(trigger: Trigger, path: string): void {
  switch (trigger.kind) {
    case "calendar":
      requirePositiveWhole(trigger.every, `${path}.every`);
      checkUnit(trigger.unit, `${path}.unit`);
      checkBasis(trigger.basis, `${path}.basis`);
      if (trigger.first !== undefined) {
        requirePositiveWhole(trigger.first.every, `${path}.first.every`);
        checkUnit(trigger.first.unit, `${path}.first.unit`);
      }
      if (trigger.weekday !== undefined) {
        if (trigger.unit !== "week") {
          throw new CoreError(
            "bad-value",
            `${path}.weekday`,
            `${path}.weekday goes only with the unit "week", not with "${trigger.unit}".`,
          );
        }
        if (!Number.isInteger(trigger.weekday) || trigger.weekday < 1 || trigger.weekday > 7) {
          throw new CoreError(
            "bad-value",
            `${path}.weekday`,
            `${path}.weekday must be 1 (Monday) to 7 (Sunday), not ${String(trigger.weekday)}.`,
          );
        }
      }
      return;
    case "meter":
      checkName(trigger.meter, `${path}.meter`);
      requirePositive(trigger.every, `${path}.every`);
      checkBasis(trigger.basis, `${path}.basis`);
      if (trigger.first !== undefined) requirePositive(trigger.first, `${path}.first`);
      return;
    case "event":
      checkName(trigger.event, `${path}.event`);
      return;
    case "condition":
      checkName(trigger.reading, `${path}.reading`);
      if (trigger.above === undefined && trigger.below === undefined) {
        throw new CoreError("missing", path, `${path} needs a limit: above, below or both.`);
      }
      if (trigger.above !== undefined) requireFinite(trigger.above, `${path}.above`);
      if (trigger.below !== undefined) requireFinite(trigger.below, `${path}.below`);
      return;
    default:
      throw new CoreError("bad-value", `${path}.kind`, `${path}.kind must be calendar, meter, event or condition.`);
  }
}

function readLead(given: Lead | undefined, path: string): Lead | undefined {
  if (given === undefined) return undefined;
  const lead = withoutNulls(requireRecord(given, path));
  if (lead.days !== undefined) requireNotNegative(lead.days, `${path}.days`);
  if (lead.fraction !== undefined && requireNotNegative(lead.fraction, `${path}.fraction`) > 1) {
    throw new CoreError(
      "bad-number",
      `${path}.fraction`,
      `${path}.fraction is a share of the interval, 0 to 1, not ${lead.fraction}.`,
    );
  }
  return lead;
}
