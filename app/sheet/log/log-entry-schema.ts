import type { RunEvent, RunEventType } from "@core";
import * as yup from "yup";

import { isClockTime, isDay, isInstant } from "~/kit/days/is-day";
import { isPrintable, UUID, UUID_V7 } from "~/kit/forms/fields";

const text = (max: number) =>
  yup
    .string()
    .strict()
    .min(1)
    .max(max)
    .test("printable", "${path} has signs in it that cannot be kept", (value) => !value || isPrintable(value));
const day = yup
  .string()
  .strict()
  .test("day", "${path} must be a day that exists, YYYY-MM-DD", (value) => value === undefined || isDay(value));
const step = text(80).required();
const round = yup.number().strict().integer().min(1).max(99).required();
/** More than anything is measured or counted to; beyond it sums lose their last digits. */
const LARGEST = 1e15;
const finite = yup
  .number()
  .strict()
  .test(
    "finite",
    "${path} must be a finite number",
    (value) => value === undefined || (Number.isFinite(value) && Math.abs(value) <= LARGEST),
  );
/** What the books can hold. */
const quantity = finite.positive().max(10_000_000);
const onStep = { step, round };
const maybeOnStep = { step: text(80).optional(), round: yup.number().strict().integer().min(1).max(99).optional() };
const lot = { lot: text(60).optional(), expires: day.optional() };
const pieces = yup.number().strict().integer().min(0).max(999);
/** Parts that came off, how they were in, and where they are. */
const takenOff = {
  item: text(80).required(),
  count: pieces.required(),
  wayRound: text(200).optional(),
  place: text(120).optional(),
};
const one = <T extends string>(...values: T[]) => yup.string().strict().oneOf(values).required();

/** Fields of each entry beside the common ones. What is not listed is refused. */
const BODIES: Record<RunEventType, Record<string, yup.AnySchema>> = {
  started: {
    planId: text(36).required(),
    procedureId: text(80).required(),
    procedureVersion: yup.number().strict().integer().min(1).required(),
    begins: yup
      .object({
        states: yup.array().of(text(120).required()).max(20).optional(),
        baselines: yup
          .object()
          .test(
            "figures",
            "${path} must be finite figures by reading",
            (value: unknown) =>
              value === undefined ||
              (Object.keys(value as object).length <= 100 &&
                Object.values(value as object).every((one) => Number.isFinite(one))),
          )
          .optional()
          .default(undefined),
        heldBy: yup.string().strict().matches(UUID).optional(),
        off: yup
          .array()
          .of(yup.object({ ...takenOff, path: text(120).optional() }).noUnknown())
          .max(100)
          .optional(),
      })
      .noUnknown()
      .optional()
      .default(undefined),
  },
  "safety-confirmed": onStep,
  "step-done": {
    ...onStep,
    answer: text(40).optional(),
    reason: text(1000).optional(),
    off: yup.array().of(yup.object(takenOff).noUnknown()).min(1).max(40).optional(),
    back: yup
      .array()
      .of(yup.object({ item: text(80).required(), count: pieces.required() }).noUnknown())
      .min(1)
      .max(40)
      .optional(),
    results: yup
      .array()
      .of(
        yup
          .object({ function: text(80).required(), ok: yup.boolean().strict().required(), note: text(400).optional() })
          .noUnknown(),
      )
      .min(1)
      .max(40)
      .optional(),
  },
  "step-not-applicable": { ...onStep, reason: text(1000).required() },
  "step-skipped": { ...onStep, reason: text(1000).required() },
  checked: {
    ...onStep,
    check: text(80).required(),
    result: one("found", "clear", "left-out"),
    cause: text(40).optional(),
    note: text(1000).optional(),
  },
  "gate-passed": { ...onStep, state: text(120).required(), way: one("in", "out") },
  counted: onStep,
  reading: {
    ...onStep,
    value: finite.required(),
    unit: text(20).required(),
    point: yup.number().strict().integer().min(0).max(99).optional(),
    instrument: text(36).optional(),
    calibrationDue: day.optional(),
    stage: yup.string().strict().oneOf(["as-found", "as-left"]).optional(),
    asked: yup
      .object({ answer: one("right", "replaced"), oldValue: finite.min(0).optional() })
      .noUnknown()
      .optional()
      .default(undefined),
  },
  "wear-decided": {
    ...onStep,
    choice: one("now", "next"),
    chance: finite.min(0).max(1).optional(),
    reason: text(1000).optional(),
  },
  "as-found": { ...maybeOnStep, found: one("clean", "fair", "poor", "failed") },
  "timer-started": onStep,
  "timer-stopped": onStep,
  "part-fitted": { ...onStep, item: text(80).required(), slot: text(80).required(), qty: quantity.required(), ...lot },
  "part-turned": {
    ...onStep,
    item: text(80).required(),
    slot: text(80).required(),
    usesLeft: yup.number().strict().integer().min(0).max(20).required(),
  },
  mixed: {
    ...onStep,
    amounts: yup
      .array(
        yup.object({ item: text(80).required(), ml: finite.min(0).required(), lot: text(60).optional() }).noUnknown(),
      )
      .min(1)
      .max(20)
      .required(),
    finalMl: quantity.required(),
    stockPercent: quantity.optional(),
    batch: text(60).optional(),
  },
  "consumable-used": {
    ...maybeOnStep,
    item: text(80).required(),
    qty: quantity.required(),
    unit: text(20).required(),
    ...lot,
  },
  note: { ...maybeOnStep, text: text(4000).required() },
  finding: { ...maybeOnStep, text: text(4000).required(), severity: one("minor", "major", "unsafe") },
  photo: {
    ...maybeOnStep,
    photo: yup.string().strict().matches(UUID_V7).required(),
    finding: yup.string().strict().matches(UUID_V7).optional(),
    caption: text(400).optional(),
  },
  interim: { ...maybeOnStep, text: text(1000).required(), until: text(200).required() },
  "put-right": { ...maybeOnStep, item: text(300).required(), text: text(1000).optional() },
  "interim-ended": { ref: yup.string().strict().matches(UUID_V7).required(), note: text(1000).optional() },
  "handed-over": { to: yup.string().strict().matches(UUID).required(), note: text(1000).optional() },
  "lock-lifted": { state: text(120).required(), reason: text(1000).required() },
  paused: { reason: text(1000).optional() },
  resumed: {},
  undone: { ref: yup.string().strict().matches(UUID_V7).required() },
  corrected: {
    ref: yup.string().strict().matches(UUID_V7).required(),
    why: text(1000).required(),
    set: yup
      .object({
        value: finite.optional(),
        qty: quantity.optional(),
        text: text(4000).optional(),
        answer: text(40).optional(),
        lot: text(60).optional(),
        slot: text(80).optional(),
      })
      .noUnknown()
      .required(),
  },
  signed: {
    role: one("technician", "customer"),
    method: one("password", "drawn", "typed", "not-present"),
    name: text(120).when("method", {
      is: "not-present",
      then: (schema) => schema.optional(),
      otherwise: (schema) => schema.required(),
    }),
    drawing: text(60_000).when("method", {
      is: "drawn",
      then: (schema) => schema.matches(/^[MLC0-9 .,-]+$/).required(),
      otherwise: (schema) => schema.optional(),
    }),
    reason: text(1000).when("method", {
      is: "not-present",
      then: (schema) => schema.required(),
      otherwise: (schema) => schema.optional(),
    }),
    eventCount: yup.number().strict().integer().min(0).optional(),
    entries: yup.array().of(yup.string().strict().matches(UUID_V7).required()).optional(),
    sheets: yup.array().of(yup.string().strict().matches(UUID_V7).required()).max(40).optional(),
    missingReason: text(1000).optional(),
  },
  outcome: {
    outcome: one("no-access", "refused", "part-missing"),
    reason: text(1000).required(),
    part: yup
      .object({ item: text(80).required(), slot: text(80).optional() })
      .noUnknown()
      .optional()
      .default(undefined),
    again: day.optional(),
  },
};

const BASE = {
  id: yup.string().strict().matches(UUID_V7, "id must be a UUID version 7").required(),
  runId: yup.string().strict().matches(UUID_V7, "runId must be a UUID version 7").required(),
  at: yup
    .string()
    .strict()
    .test("instant", "at must be an instant with its offset, such as 2026-02-28T09:30:00Z", isInstant)
    .required(),
  by: text(36).required(),
  device: text(60).required(),
  uncertain: yup.boolean().strict().optional(),
  deviceAt: yup
    .string()
    .strict()
    .test(
      "instant",
      "deviceAt must be an instant with its offset",
      (value) => value === undefined || isClockTime(value),
    ),
};

const SCHEMAS = new Map(
  Object.entries(BODIES).map(([type, body]) => [
    type,
    yup
      .object({ ...BASE, type: yup.string().strict().oneOf([type]).required(), ...body })
      .noUnknown("an entry of this type has no field ${unknown}")
      .strict(),
  ]),
);

/** What can be logged, by name. */
export const ENTRY_TYPES: readonly string[] = [...SCHEMAS.keys()];

/** One entry as it came over the wire: valid, or the field that is not and why. */
export function parseLogEntry(
  raw: unknown,
): { entry: RunEvent; fault?: undefined } | { entry?: undefined; fault: string } {
  const type = (raw as { type?: unknown } | null)?.type;
  const schema = typeof type === "string" ? SCHEMAS.get(type) : undefined;
  if (!schema) return { fault: `type "${String(type)}" is not known` };
  try {
    return { entry: schema.validateSync(raw, { abortEarly: true }) as unknown as RunEvent };
  } catch (error) {
    return { fault: error instanceof yup.ValidationError ? error.errors.join("; ") : String(error) };
  }
}
