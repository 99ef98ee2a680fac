import type { FaultGuide } from "@core";
import * as yup from "yup";

import { boundedJson } from "~/kit/forms/bounded-json";
import { Refusal } from "~/kit/refusal";

import { stepsOfKinds } from "../procedure-schema.server";
import {
  finite,
  hazards,
  line,
  machineState,
  materials,
  oneOf,
  options,
  parts,
  positive,
  shortName,
  slug,
  text,
  whole,
} from "../procedure-values.server";

/**
 * The boundary check of the open format of fault guides. It says the same as `schemas/fault-guide.schema.json`; a test holds the
 * two together.
 */
const id = slug.max(40).required();
const on = yup
  .array(yup.object({ option: slug.required(), fitted: yup.boolean().strict().required() }).noUnknown())
  .max(10)
  .optional();
const maybeRecord = (fields: Record<string, yup.AnySchema>) =>
  yup.object(fields).noUnknown().default(undefined).optional();
const listOf = (fields: Record<string, yup.AnySchema>, most: number) =>
  yup.array(yup.object(fields).noUnknown()).min(1).max(most).required();

const symptom = {
  id,
  says: line.required(),
  also: yup.array(line.required()).max(20).optional(),
  proof: text.required(),
  causes: listOf({ cause: id, chance: positive.required() }, 30),
  tell: text.optional(),
  on,
};

const check = {
  id,
  title: line.required(),
  how: text.required(),
  state: yup.array(shortName.required()).max(20).optional(),
  minutes: finite.min(0).max(600).required(),
  clear: text.required(),
  finds: listOf({ cause: id, share: positive.max(1).required(), shows: text.required() }, 30),
  on,
};

const cause = {
  id,
  name: line.required(),
  who: oneOf("operator", "technician", "authorised", "licensed").required(),
  remedy: yup
    .array(stepsOfKinds(["do", "inspect", "measure", "wait", "count", "replace", "turn", "mix"]))
    .max(30)
    .optional(),
  handOff: maybeRecord({ to: line.required(), say: text.required() }),
  interim: maybeRecord({ text: text.max(1000).required(), until: line.required() }),
  outOfService: text.optional(),
  usualLifeDays: whole.min(1).max(20_000).optional(),
  handling: maybeRecord({ damage: line.required(), lesson: text.required() }),
  on,
};

const SCHEMA = yup
  .object({
    $schema: yup.string().strict().optional(),
    format: oneOf("humble-hound/fault-guide").required(),
    formatVersion: whole.oneOf([1]).required(),
    family: slug.max(60).required(),
    version: whole.min(1).required(),
    title: line.required(),
    summary: text.required(),
    hazards,
    protective: yup.array(line.required()).defined(),
    tools: yup.array(line.required()).defined(),
    materials,
    parts,
    options,
    states: yup.array(machineState).max(20).required(),
    symptoms: listOf(symptom, 60),
    checks: listOf(check, 100),
    causes: listOf(cause, 100),
  })
  .noUnknown("a fault guide has no field ${unknown}")
  .strict();

/** Values in the largest guide that is meant. */
const MOST_VALUES = 20_000;

/** What the format does not take, by the path of the field; [] when it is a guide. */
export function guideFormFaults(raw: unknown): string[] {
  try {
    SCHEMA.validateSync(raw, { abortEarly: false });
    return [];
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    return [...new Set((error.inner.length > 0 ? error.inner : [error]).map((one) => one.path ?? ""))];
  }
}

/** @throws Refusal naming every field that is not as the format wants it */
export function parseGuide(raw: unknown): FaultGuide {
  boundedJson(raw, MOST_VALUES);
  try {
    const { $schema: _, ...guide } = SCHEMA.validateSync(raw, {
      abortEarly: false,
    }) as unknown as FaultGuide & { $schema?: string };
    return guide;
  } catch (error) {
    if (error instanceof yup.ValidationError)
      throw new Refusal(422, "not-valid", `This is no valid fault guide. ${error.errors.slice(0, 10).join("; ")}.`);
    throw error;
  }
}
