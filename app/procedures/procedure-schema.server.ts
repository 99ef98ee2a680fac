import { grades, type Procedure, surfaces, withDefaults } from "@core";
import * as yup from "yup";

import { boundedJson } from "~/kit/forms/bounded-json";
import { Refusal } from "~/kit/refusal";

import { newerFields } from "./newer-fields";
import {
  byKind,
  calculator,
  figure,
  finite,
  gates,
  hazards,
  kind,
  line,
  machineState,
  materials,
  maybe,
  oneOf,
  options,
  parts,
  positive,
  recipe,
  shortName,
  slug,
  someOf,
  text,
  timeOfDay,
  whole,
} from "./procedure-values.server";

/**
 * The boundary check of the open procedure format. It says the same as `schemas/procedure.schema.json`, which is what
 * other programs validate with; a test holds the two together.
 */
const lead = yup
  .object({ days: finite.min(0).optional(), fraction: finite.min(0).max(1).optional() })
  .noUnknown()
  .default(undefined)
  .optional();
const unit = yup.string().strict().oneOf(["day", "week", "month", "year"]).required();
const basis = yup.string().strict().oneOf(["completion", "grid"]).required();
const trigger = byKind({
  calendar: yup
    .object({
      kind: kind("calendar"),
      every: whole.min(1).required(),
      unit,
      basis,
      first: yup
        .object({ every: whole.min(1).required(), unit })
        .noUnknown()
        .default(undefined)
        .optional(),
      weekday: whole.min(1).max(7).optional(),
    })
    .noUnknown(),
  meter: yup
    .object({
      kind: kind("meter"),
      meter: slug.required(),
      every: positive.required(),
      basis,
      first: positive.optional(),
    })
    .noUnknown(),
  event: yup.object({ kind: kind("event"), event: slug.required() }).noUnknown(),
  condition: yup
    .object({ kind: kind("condition"), reading: slug.required(), above: finite.optional(), below: finite.optional() })
    .noUnknown(),
});

const limits = yup
  .object({ min: finite.optional(), max: finite.optional(), above: finite.optional(), below: finite.optional() })
  .noUnknown()
  .default(undefined)
  .optional();
const condition = yup.lazy((value: unknown) =>
  value !== null && typeof value === "object" && "option" in value
    ? yup.object({ option: slug.required(), fitted: yup.boolean().strict().required() }).noUnknown()
    : yup.object({ step: slug.required(), is: slug.required() }).noUnknown(),
);

/** As long as what an entry of a log can name. */
const partName = line.max(80);
const common = {
  id: slug.required(),
  title: line.required(),
  text: text.optional(),
  when: yup.array(condition).optional(),
  uses: yup.array(yup.object({ item: slug.required(), qty: positive.required() }).noUnknown()).optional(),
  minutes: finite.min(0).optional(),
  area: line.optional(),
  figure: maybe((value) => (value === undefined ? yup.mixed().optional() : figure)),
  removes: yup.array(line.required()).optional(),
  refits: yup.array(line.required()).optional(),
  rinses: yup.boolean().strict().optional(),
  needs: yup.array(slug.required()).optional(),
  state: yup.array(shortName.required()).optional(),
  path: shortName.optional(),
  opens: shortName.optional(),
  critical: yup.boolean().strict().oneOf([true]).optional(),
  surfaces: yup.array(oneOf(...surfaces).required()).optional(),
  forbids: yup.array(oneOf(...grades).required()).optional(),
  takesOff: yup
    .array(
      yup
        .object({
          item: partName.required(),
          count: whole.min(1).max(999).required(),
          wayRound: line.optional(),
          place: line.max(120).optional(),
        })
        .noUnknown(),
    )
    .min(1)
    .max(40)
    .optional(),
  putsBack: yup
    .array(yup.object({ item: partName.required(), count: whole.min(1).max(999).required() }).noUnknown())
    .min(1)
    .max(40)
    .optional(),
  beforehand: line.optional(),
};
const step = (name: string, fields: Record<string, yup.AnySchema>) =>
  yup.object({ ...common, kind: kind(name), ...fields }).noUnknown();

const STEPS = {
  safety: step("safety", {
    checks: yup.array(line.required()).min(1).required(),
    gates,
    coolDown: someOf({ belowC: finite.optional(), minutes: positive.optional() }),
  }),
  do: step("do", {}),
  inspect: step("inspect", {
    asItShouldBe: text.required(),
    ifNot: text.required(),
    finding: oneOf("minor", "major", "unsafe").optional(),
  }),
  measure: step("measure", {
    reading: slug.required(),
    unit: yup.string().strict().min(1).max(20).required(),
    points: yup.array(line.required()).min(1).max(50).optional(),
    trials: whole.min(2).max(20).optional(),
    judge: oneOf("each", "mean", "spread").optional(),
    instrument: slug.optional(),
    stage: oneOf("as-found", "as-left").optional(),
    calculator: maybe((value) => (value === undefined ? yup.mixed().optional() : calculator)),
    limits,
    ofClean: yup
      .object({ reading: slug.required(), min: positive.optional(), max: positive.optional() })
      .noUnknown()
      .default(undefined)
      .optional(),
    target: finite.optional(),
    meter: slug.optional(),
    retest: yup.boolean().strict().optional(),
    possible: someOf({ min: finite.optional(), max: finite.optional() }),
    wears: yup
      .object({
        item: slug.required(),
        slots: yup.array(slug.required()).min(1).max(50).required(),
        per: slug.required(),
        worse: oneOf("up", "down").required(),
        worst: yup.boolean().strict().oneOf([true]).optional(),
      })
      .noUnknown()
      .default(undefined)
      .optional(),
    advice: yup.object({ low: text.optional(), high: text.optional() }).noUnknown().default(undefined).optional(),
  }),
  wait: step("wait", {
    minMinutes: positive.required(),
    maxMinutes: positive.optional(),
    meanwhile: yup.array(slug.required()).optional(),
    attended: yup.boolean().strict().optional(),
    silent: yup.boolean().strict().optional(),
    ifShort: text.optional(),
    ifLong: text.optional(),
  }),
  count: step("count", { times: whole.min(2).max(100).required(), each: line.required() }),
  replace: step("replace", {
    item: slug.required(),
    slots: yup.array(slug.required()).min(1).required(),
    some: yup.boolean().strict().oneOf([true]).optional(),
  }),
  repeat: step("repeat", {
    from: slug.required(),
    question: line.required(),
    clean: line.required(),
    again: line.required(),
    maxRounds: whole.min(2).max(20).optional(),
  }),
  reset: step("reset", { meter: slug.required(), expect: finite.min(0).required() }),
  prove: step("prove", {
    expect: text.required(),
    functions: yup
      .array(yup.object({ id: slug.max(80).required(), name: line.required(), place: line.optional() }).noUnknown())
      .min(1)
      .max(40)
      .optional(),
    proof: oneOf("leak-check", "test-piece", "check-fluid", "function-test", "first-output").optional(),
  }),
  mix: step("mix", { recipe }),
  turn: step("turn", { item: slug.required(), slots: yup.array(slug.required()).min(1).required() }),
  choose: step("choose", {
    question: line.required(),
    schools: yup
      .array(yup.object({ id: slug.max(60).required(), name: line.required(), why: text.required() }).noUnknown())
      .min(2)
      .max(6)
      .required(),
  }),
  decide: step("decide", {
    question: line.required(),
    branches: yup
      .array(yup.object({ id: slug.max(60).required(), name: line.required(), leadsTo: text.optional() }).noUnknown())
      .min(2)
      .max(8)
      .required(),
  }),
  nested: step("nested", { procedure: slug.required(), version: whole.min(1).required() }),
  "hand-off": step("hand-off", { to: line.required() }),
};
const steps = byKind(STEPS);

/** Steps of these kinds alone. */
export const stepsOfKinds = (kinds: readonly (keyof typeof STEPS)[]) =>
  byKind(Object.fromEntries(kinds.map((name) => [name, STEPS[name]])));

export const SCHEMA = yup
  .object({
    $schema: yup.string().strict().optional(),
    format: yup.string().strict().oneOf(["humble-hound/procedure"]).required(),
    formatVersion: whole.oneOf([1, 2]).required(),
    id: slug.max(80).required(),
    version: whole.min(1).required(),
    title: line.required(),
    family: slug.max(60).required(),
    summary: text.required(),
    who: yup.string().strict().oneOf(["operator", "technician", "licensed"]).required(),
    authorisation: slug.max(60).optional(),
    minutes: yup
      .object({ handsOn: finite.min(0).required(), waiting: finite.min(0).required() })
      .noUnknown()
      .required(),
    plan: yup
      .object({
        triggers: yup.array(trigger).min(1).required(),
        notice: lead,
        warning: lead,
        hardStop: yup.boolean().strict().optional(),
        covers: yup.array(slug.required()).optional(),
        scaledByHardness: yup.boolean().strict().optional(),
        idleDays: whole.min(1).max(60).optional(),
        emits: yup
          .array(
            yup
              .object({
                event: slug.max(60).required(),
                on: yup.string().strict().oneOf(["same-day", "next-open-day"]).required(),
              })
              .noUnknown(),
          )
          .optional(),
        readyBy: timeOfDay.optional(),
        notUntil: someOf({ hours: positive.max(1000).optional(), done: slug.optional() }),
      })
      .noUnknown()
      .required(),
    hazards,
    protective: yup.array(line.required()).defined(),
    tools: yup.array(line.required()).defined(),
    materials,
    parts,
    options,
    meters: yup
      .array(
        yup
          .object({
            id: slug.required(),
            name: line.required(),
            unit: line.required(),
            service: yup.boolean().strict().optional(),
            within: slug.optional(),
          })
          .noUnknown(),
      )
      .defined(),
    states: yup.array(machineState).max(20).optional(),
    leaves: yup
      .object({ states: yup.array(shortName.required()).optional(), off: yup.array(line.required()).optional() })
      .noUnknown()
      .default(undefined)
      .optional(),
    begins: yup
      .object({ off: yup.array(line.required()).optional() })
      .noUnknown()
      .default(undefined)
      .optional(),
    steps: yup.array(steps).min(1).max(500).required(),
  })
  .noUnknown("a procedure has no field ${unknown}")
  .strict();

/** Values in the largest procedure that is meant: five hundred steps of forty. */
export const MOST_VALUES = 20_000;

/** @throws Refusal naming every field that is not as the format wants it */
export function parseProcedure(raw: unknown): Procedure {
  boundedJson(raw, MOST_VALUES);
  try {
    const { $schema: _, ...procedure } = SCHEMA.validateSync(withDefaults(raw), {
      abortEarly: false,
    }) as unknown as Procedure & {
      $schema?: string;
    };
    const newer = newerFields(procedure);
    if (newer.length > 0)
      throw new Refusal(
        422,
        "not-valid",
        `This is no valid procedure. Format version 1 has no field ${newer.join(", ")}: say formatVersion 2.`,
      );
    return procedure;
  } catch (error) {
    if (error instanceof yup.ValidationError)
      throw new Refusal(422, "not-valid", `This is no valid procedure. ${error.errors.slice(0, 10).join("; ")}.`);
    throw error;
  }
}

/** Something that the format does not take: where it is, and why. */
export interface FormFault {
  path: string;
  message: string;
}

/** Everything that the format does not take in a procedure; it may be half-written. */
export function formFaults(raw: unknown): FormFault[] {
  try {
    SCHEMA.validateSync(withDefaults(raw), { abortEarly: false });
    return [];
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    const all = error.inner.length > 0 ? error.inner : [error];
    // One thing that is wrong with a field is enough to mend it.
    const first = new Map(all.map((one) => [one.path ?? "", one.message]).reverse() as [string, string][]);
    return [...first]
      .reverse()
      .slice(0, MOST_FAULTS)
      .map(([path, message]) => ({ path, message }));
  }
}

/** More at once are not read. */
const MOST_FAULTS = 30;
