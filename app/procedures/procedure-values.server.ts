import { chemicalClasses, drawingNames, grades, must } from "@core";
import * as yup from "yup";

/** Kinds of value in the open procedure format, and the parts of steps that have fields of their own. */
export const shortName = yup
  .string()
  .strict()
  .max(60)
  .matches(/^[a-z0-9]+(-[a-z0-9]+)*$/, "${path} must be a short name of small letters, digits and hyphens");
export const slug = yup
  .string()
  .strict()
  .matches(/^[a-z0-9]+(-[a-z0-9]+)*$/, "${path} must be a short name of small letters, digits and hyphens");
export const text = yup.string().strict().min(1).max(2000);
export const line = yup.string().strict().min(1).max(200);
export const finite = yup
  .number()
  .strict()
  .test("finite", "${path} must be a finite number", (value) => value === undefined || Number.isFinite(value));
export const timeOfDay = yup
  .string()
  .strict()
  .matches(/^([01][0-9]|2[0-3]):[0-5][0-9]$/, "${path} must be a time of day such as 10:45");
export const whole = finite.integer();
export const positive = finite.moreThan(0);

export const kind = (name: string) => yup.string().strict().oneOf([name]).required();

export const byKind = (variants: Record<string, yup.ObjectSchema<yup.AnyObject>>) =>
  yup.lazy((value: unknown) => {
    const name = (value as { kind?: unknown } | null)?.kind;
    return (
      (typeof name === "string" && Object.hasOwn(variants, name) ? variants[name] : undefined) ??
      yup.object({ kind: yup.string().strict().oneOf(Object.keys(variants)).required() })
    );
  });

/** A record that may be left out and says something when it is there: at least one of its fields. */
export const someOf = (fields: Record<string, yup.AnySchema>) =>
  yup
    .object(fields)
    .noUnknown()
    .default(undefined)
    .optional()
    .test(
      "some",
      `\${path} needs ${Object.keys(fields).join(" or ")}`,
      (value) => value === undefined || Object.values(value).some((one) => one !== undefined),
    );

export const maybe = (build: (value: unknown) => yup.ISchema<unknown>) =>
  yup.lazy((value: unknown) => build(value)) as unknown as yup.AnySchema;
export const oneOf = (...values: string[]) => yup.string().strict().oneOf(values);
const labels = yup.array(line.required()).min(1).max(30).required();
const drawn = (name: string, fields: Record<string, yup.AnySchema>) =>
  yup.object({ kind: kind(name), ...fields }).noUnknown();
export const figure = byKind({
  tightening: drawn("tightening", { bolts: whole.min(2).max(60).required() }),
  "polish-mark": drawn("polish-mark", { low: positive.required(), high: positive.required(), unit: line.required() }),
  "battery-level": drawn("battery-level", { school: oneOf("height", "band").required() }),
  "gap-gauge": drawn("gap-gauge", { limit: positive.required(), unit: line.required() }),
  pair: drawn("pair", { labels }),
  slots: drawn("slots", { labels }),
  edges: drawn("edges", { count: whole.min(2).max(12).required() }),
  drawing: drawn("drawing", { of: oneOf(...drawingNames).required() }),
});
export const calculator = byKind({
  "belt-time": drawn("belt-time", { setSeconds: positive.required(), tolerancePercent: finite.min(0).optional() }),
  hydrometer: drawn("hydrometer", { cells: whole.min(1).max(60).required() }),
  "strainer-drop": drawn("strainer-drop", { cleanDrop: positive.required(), unit: line.required() }),
  "polish-mark": drawn("polish-mark", { lowMm: finite.min(0).required(), highMm: positive.required() }),
  "relative-sd": drawn("relative-sd", { repeats: whole.min(2).max(30).required() }),
  "control-chart": drawn("control-chart", {
    target: finite.required(),
    sd: positive.required(),
    lambda: positive.max(1).optional(),
    worked: yup.string().oneOf(["lot-score", "percent-of-own"]).optional(),
  }),
});
const strength = yup.lazy((value: unknown) =>
  value !== null && typeof value === "object" && "ppm" in value
    ? yup.object({ ppm: positive.required() }).noUnknown().required()
    : yup.object({ percent: positive.required() }).noUnknown().required(),
) as unknown as yup.AnySchema;
const byName = (name: string, fields: Record<string, yup.AnySchema>) =>
  yup.object({ by: kind(name), ...fields }).noUnknown();
const RECIPES: Record<string, yup.AnySchema> = {
  dilution: byName("dilution", { stock: slug.required(), target: strength, finalMl: positive.required() }),
  parts: byName("parts", {
    parts: yup
      .array(yup.object({ item: slug.required(), parts: positive.required() }).noUnknown())
      .min(2)
      .required(),
    finalMl: positive.required(),
  }),
  additive: byName("additive", { item: slug.required(), additiveMl: positive.required(), tankMl: positive.required() }),
};
export const recipe = maybe((value) => {
  const name = (value as { by?: unknown } | null | undefined)?.by;
  return typeof name === "string" && Object.hasOwn(RECIPES, name)
    ? must(RECIPES[name])
    : yup.object({ by: oneOf(...Object.keys(RECIPES)).required() }).required();
});

export const HAZARD_KINDS = [
  "lock-out",
  "stored-energy",
  "hot",
  "pressure",
  "moving",
  "electric",
  "battery",
  "chemical",
  "flammable",
  "uv",
  "sharp",
  "heavy",
  "biohazard",
  "waste",
];

export const gates = yup
  .array(
    oneOf(
      "lock-out",
      "tag",
      "protective",
      "isolate",
      "vent",
      "drain",
      "park",
      "cool-down",
      "stored-energy",
      "ventilate",
    ).required(),
  )
  .optional();

const stateCheck = {
  checks: yup.array(line.required()).min(1).max(20).required(),
  minutes: finite.min(0).optional(),
  cautions: yup.array(text.required()).max(10).optional(),
  who: oneOf("operator", "technician", "licensed").optional(),
};
export const machineState = yup
  .object({
    id: shortName.required(),
    name: line.required(),
    excludes: yup.array(shortName.required()).optional(),
    lostBy: yup.array(shortName.required()).optional(),
    in: yup
      .object({ ...stateCheck, waitMinutes: positive.optional(), belowC: finite.optional(), gates })
      .noUnknown()
      .required(),
    out: yup.object(stateCheck).noUnknown().default(undefined).optional(),
  })
  .noUnknown();

export const hazards = yup
  .array(yup.object({ kind: yup.string().strict().oneOf(HAZARD_KINDS).required(), text: text.required() }).noUnknown())
  .required();
export const materials = yup
  .array(
    yup
      .object({
        item: slug.required(),
        name: line.required(),
        qty: positive.required(),
        unit: line.required(),
        chemical: oneOf(...chemicalClasses).optional(),
        grade: oneOf(...grades).optional(),
        stockPercent: positive.optional(),
      })
      .noUnknown(),
  )
  .defined();
export const parts = yup
  .array(
    yup
      .object({
        item: slug.required(),
        name: line.required(),
        slots: yup
          .array(yup.object({ id: slug.required(), name: line.required() }).noUnknown())
          .min(1)
          .required(),
        pair: yup.boolean().strict().optional(),
        uses: whole.min(1).max(20).optional(),
      })
      .noUnknown(),
  )
  .defined();
export const options = yup.array(yup.object({ id: slug.required(), name: line.required() }).noUnknown()).defined();
