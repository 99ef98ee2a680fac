import type { Lead, Trigger } from "@core";
import { must } from "@core";
import * as yup from "yup";

import {
  clock,
  day,
  GONE,
  key,
  listOf,
  number,
  seen,
  slug,
  text,
  ticked,
  whole as wholeNumber,
} from "~/kit/forms/fields";

/** A rule as a form sends it: one flat row, of which its kind decides what counts. */
const count = number("Type a number.").moreThan(0, "Type a number above zero.").max(1e9, "That is too much.");
const whole = count.integer("Type a whole number.");
const name = slug("after-run");
const unit = yup.string().oneOf(["day", "week", "month", "year"], "Choose a unit.");
const basis = yup.string().oneOf(["completion", "grid"], "Choose what it counts from.");
const limit = number("Type a number.");
const when = <Schema extends yup.Schema>(kind: Trigger["kind"], schema: Schema, words: string): Schema =>
  schema.when("kind", { is: kind, then: (own: Schema) => own.required(words) as never });

export const ruleSchema = yup.object({
  kind: yup.string().oneOf(["calendar", "meter", "event", "condition"], "Choose a kind.").required("Choose a kind."),
  every: whole.when("kind", { is: "calendar", then: (own) => own.required("How many?") }),
  unit: when("calendar", unit, "Choose a unit."),
  calendarBasis: when("calendar", basis, "Choose what it counts from."),
  firstEvery: whole,
  firstUnit: unit,
  weekday: number("Choose a weekday.").integer().min(1).max(7),
  meter: when("meter", name, "Choose a meter."),
  use: count.when("kind", { is: "meter", then: (own) => own.required("How much?") }),
  meterBasis: when("meter", basis, "Choose what it counts from."),
  firstUse: count,
  event: when("event", name, "Name the event."),
  reading: when("condition", name, "Name the reading."),
  above: limit.when(["kind", "below"], {
    is: (kind: string, below: unknown) => kind === "condition" && below === undefined,
    then: (own) => own.required("Give a limit, above or below."),
  }),
  below: limit,
});

export type RuleForm = Partial<Record<keyof yup.InferType<typeof ruleSchema>, string>>;

const days = number("Type a number of days.")
  .integer("Type whole days.")
  .min(0, "Type zero or more.")
  .max(3650, "That is too long.");
const percent = number("Type a percentage.").min(0, "Type zero or more.").max(100, "Type at most 100.");

export const dutySchema = yup.object({
  intent: yup.string().oneOf(["try", "save"]).required(),
  seen: seen().required(GONE),
  title: text(200).required("Give the duty a title."),
  who: yup
    .string()
    .oneOf(["operator", "technician", "licensed"], "Choose who does it.")
    .required("Choose who does it."),
  authorisation: name,
  minutes: wholeNumber(0, 10_000, "Type minutes.").required("Type minutes."),
  startOn: day("Choose a day.").required("Choose a day."),
  hardStop: ticked(),
  active: ticked(),
  triggers: yup
    .array(ruleSchema)
    .min(1, "A duty needs at least one rule.")
    .max(6, "Six rules are enough.")
    .required("A duty needs at least one rule."),
  factor: number("Type a number such as 0.5.").moreThan(0, "Type a number above zero.").max(10, "That is too much."),
  tuneLeast: number("Type a number such as 0.5.").moreThan(0, "Type a number above zero.").max(1, "Type at most 1."),
  tuneMost: number("Type a number such as 2.").min(1, "Type at least 1.").max(10, "That is too much."),
  noticeDays: days,
  noticePercent: percent,
  warningDays: days,
  warningPercent: percent,
  idleDays: days.min(1, "Type at least 1."),
  covers: listOf(key().required(), 100).default([]),
  emitsEvent: name,
  readyBy: clock("10:45").default(""),
  notUsedHours: count.max(1000, "That is too long."),
  notUsedBefore: key(),
  emitsOn: yup.string().oneOf(["same-day", "next-open-day"]).default("same-day"),
  reason: text(500).when("intent", {
    is: "save",
    then: (own) => own.required("Say why: it is kept with the change."),
  }),
});

export type DutyForm = yup.InferType<typeof dutySchema>;

/** The due engine's rule behind a row of the form. */
export function triggerOf(row: yup.InferType<typeof ruleSchema>): Trigger {
  switch (row.kind as Trigger["kind"]) {
    case "calendar":
      return {
        kind: "calendar",
        every: must(row.every),
        unit: row.unit as "day",
        basis: row.calendarBasis as "grid",
        ...(row.firstEvery ? { first: { every: row.firstEvery, unit: (row.firstUnit ?? row.unit) as "day" } } : {}),
        ...(row.weekday ? { weekday: row.weekday as 1 } : {}),
      };
    case "meter":
      return {
        kind: "meter",
        meter: must(row.meter),
        every: must(row.use),
        basis: row.meterBasis as "grid",
        ...(row.firstUse ? { first: row.firstUse } : {}),
      };
    case "event":
      return { kind: "event", event: must(row.event) };
    case "condition":
      return {
        kind: "condition",
        reading: must(row.reading),
        ...(row.above === undefined ? {} : { above: row.above }),
        ...(row.below === undefined ? {} : { below: row.below }),
      };
  }
}

/** A rule as a row of the form. */
export function rowOf(trigger: Trigger): RuleForm {
  const text = (value: number | undefined): string | undefined => (value === undefined ? undefined : String(value));
  const row = (fields: Record<string, string | undefined>): RuleForm => ({
    kind: trigger.kind,
    ...Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined)),
  });
  switch (trigger.kind) {
    case "calendar":
      return row({
        every: text(trigger.every),
        unit: trigger.unit,
        calendarBasis: trigger.basis,
        firstEvery: text(trigger.first?.every),
        firstUnit: trigger.first?.unit,
        weekday: text(trigger.weekday),
      });
    case "meter":
      return row({
        meter: trigger.meter,
        use: text(trigger.every),
        meterBasis: trigger.basis,
        firstUse: text(trigger.first),
      });
    case "event":
      return row({ event: trigger.event });
    case "condition":
      return row({ reading: trigger.reading, above: text(trigger.above), below: text(trigger.below) });
  }
}

/** Days and percent as a lead; nothing given keeps the default. */
export function leadOf(leadDays: number | undefined, leadPercent: number | undefined): Lead | undefined {
  if (leadDays === undefined && leadPercent === undefined) return undefined;
  return {
    ...(leadDays === undefined ? {} : { days: leadDays }),
    ...(leadPercent === undefined ? {} : { fraction: leadPercent / 100 }),
  };
}
