import * as yup from "yup";

import { parseAccessHours } from "./access-hours";
import { oneOrMany, ticked } from "./parse-form";

/** What each form may send. The same schema checks in the browser and on the server. */

const MIN_PASSWORD = 10;

const newPassword = yup
  .string()
  .required("Type a password.")
  .min(MIN_PASSWORD, `Use at least ${MIN_PASSWORD} characters; a few words make a good one.`)
  .max(200, "Use at most 200 characters.");

export const signInSchema = yup.object({
  signIn: yup.string().required("Type your sign-in name.").max(120, "That is longer than any sign-in name."),
  password: yup.string().required("Type your password.").max(200, "That is longer than any password."),
  next: yup.string().max(500),
});

export const passwordSchema = yup.object({
  current: yup.string().required("Type your present password.").max(200),
  password: newPassword,
  again: yup
    .string()
    .required("Type it again.")
    .oneOf([yup.ref("password")], "The two are not the same. Type the new one again."),
});

export const meterSchema = yup.object({
  meter: yup.string().required("Choose a meter.").max(60),
  value: yup
    .number()
    .typeError("Type the figure the meter shows.")
    .required("Type the figure the meter shows.")
    .min(0, "A meter shows zero or more.")
    .max(1e12, "That is more than a meter can show."),
  confirmed: yup.boolean(),
});

export const eventSchema = yup.object({
  event: yup
    .string()
    .required("Choose what happened.")
    .matches(/^[a-z0-9]+(-[a-z0-9]+)*$/, "Choose what happened.")
    .max(60),
  on: yup.string().matches(/^\d{4}-\d{2}-\d{2}$/, "Choose a day."),
  note: yup.string().max(500, "Keep the note under 500 characters."),
});

export const replaceMeterSchema = yup.object({
  meter: yup.string().required("Choose a meter.").max(60),
  lastValue: yup
    .number()
    .typeError("Type the figure the old meter showed.")
    .min(0, "A meter shows zero or more.")
    .max(1e12),
  startsAt: yup
    .number()
    .typeError("Type the figure the new meter shows.")
    .min(0, "A meter shows zero or more.")
    .max(1e12)
    .required("Type the figure the new meter shows."),
  note: yup.string().trim().max(500, "Keep the note under 500 characters."),
});

export const pauseSchema = yup.object({
  planId: yup.string().length(36),
  fromOn: yup.string().matches(/^\d{4}-\d{2}-\d{2}$/, "Choose a day."),
  toOn: yup.string().matches(/^\d{4}-\d{2}-\d{2}$/, "Choose a day."),
  reason: yup
    .string()
    .trim()
    .required("Say why, such as in store for the winter.")
    .max(300, "Keep it under 300 characters."),
});

export const closeReportSchema = yup.object({
  report: yup.string().length(36).required(),
  note: yup.string().trim().required("Say what was done about it.").max(500, "Keep it under 500 characters."),
});

const slug = yup
  .string()
  .trim()
  .matches(/^[a-z0-9]+(-[a-z0-9]+)*$/, "Use small letters, digits and hyphens, such as cutting-hours.");

export const addMeterSchema = yup.object({
  meter: slug.required("Give the meter a short name.").max(60, "Keep it under 60 characters."),
  name: yup.string().trim().required("Give the meter a name.").max(120, "Keep it under 120 characters."),
  unit: yup.string().trim().required("Give its unit, such as h or prints.").max(20, "Keep it under 20 characters."),
  basis: yup.string().trim().max(40, "Keep it under 40 characters.").default(""),
  gatewayRef: yup.string().trim().max(120, "Keep it under 120 characters."),
});

export const addDutySchema = yup.object({
  procedureId: yup.string().required("Choose a duty.").max(80),
  title: yup.string().trim().max(200, "Keep the title under 200 characters."),
});

const optionName = yup
  .string()
  .trim()
  .matches(/^[a-z0-9]+(-[a-z0-9]+)*$/, {
    message: "An option is a short name of small letters, digits and hyphens.",
    excludeEmptyString: true,
  })
  .max(60);

export const bulkSchema = yup.object({
  ids: yup
    .array(yup.string().length(36).required())
    .transform(oneOrMany)
    .min(1, "Tick at least one machine.")
    .max(500, "Change at most 500 machines in one go.")
    .required("Tick at least one machine."),
  area: yup.string().trim().max(120, "Keep the area under 120 characters."),
  siteId: yup.string().length(36),
  addOption: optionName,
  dropOption: optionName,
});

/** Documents are typed one a line: title, then the address. */
export function parseDocuments(lines: string): { title: string; href: string }[] {
  return lines
    .split("\n")
    .map((line) => line.trim())
    .filter((line) => line !== "")
    .map((line) => {
      const at = line.search(/https?:\/\/\S+$/);
      if (at < 0) throw new Error(`"${line}" does not end with an http or https address.`);
      const href = line.slice(at);
      if (!URL.canParse(href)) throw new Error(`"${href}" is no address.`);
      return { title: line.slice(0, at).trim() || href, href };
    });
}

export const machineSchema = yup.object({
  name: yup.string().trim().required("Give the machine a name.").max(160, "Keep the name under 160 characters."),
  area: yup.string().trim().max(120, "Keep it under 120 characters.").default(""),
  position: yup.string().trim().max(200, "Keep it under 200 characters.").default(""),
  freeHours: yup
    .string()
    .trim()
    .max(200, "Keep it under 200 characters.")
    .default("")
    .test("hours", (value, context) => {
      try {
        parseAccessHours(value);
        return true;
      } catch (error) {
        return context.createError({ message: (error as Error).message });
      }
    }),
  readyBy: yup
    .string()
    .trim()
    .default("")
    .matches(/^([01]\d|2[0-3]):[0-5]\d$/, { message: "Write a time such as 10:45.", excludeEmptyString: true }),
  maker: yup.string().trim().max(120, "Keep it under 120 characters.").default(""),
  model: yup.string().trim().max(120, "Keep it under 120 characters.").default(""),
  serial: yup.string().trim().max(120, "Keep it under 120 characters.").default(""),
  options: yup
    .string()
    .trim()
    .default("")
    .test("options", "Separate short names by spaces, such as water-filter two-lane.", (value) =>
      value.split(/\s+/).every((one) => one === "" || /^[a-z0-9]+(-[a-z0-9]+)*$/.test(one)),
    ),
  documents: yup
    .string()
    .max(8000)
    .default("")
    .test("documents", (value, context) => {
      try {
        parseDocuments(value);
        return true;
      } catch (error) {
        return context.createError({ message: (error as Error).message });
      }
    }),
  notes: yup.string().trim().max(4000, "Keep it under 4000 characters.").default(""),
});

const person = yup.string().required().length(36);

export const addPersonSchema = yup.object({
  intent: yup.string().oneOf(["add"]).required(),
  name: yup.string().trim().required("Type the person's name.").max(120, "Keep the name under 120 characters."),
  signIn: yup
    .string()
    .trim()
    .required("Choose a sign-in name.")
    .matches(/^[a-zA-Z0-9._@-]{2,120}$/, "Use letters, digits, dot, hyphen, underscore or @, at least two."),
  role: yup.string().oneOf(["technician", "lead"], "Choose a role.").required("Choose a role."),
  password: newPassword,
});

export const changePersonSchema = yup.object({
  intent: yup.string().oneOf(["deactivate", "activate", "end-sign-ins"]).required(),
  person,
});

export const resetSchema = yup.object({
  intent: yup.string().oneOf(["reset"]).required(),
  person,
  password: newPassword,
});

export const grantSchema = yup.object({
  intent: yup.string().oneOf(["grant"]).required(),
  person,
  kind: yup
    .string()
    .trim()
    .required("Name the authorisation.")
    .matches(/^[a-z0-9]+(-[a-z0-9]+)*$/, "Use small letters, digits and hyphens, such as licensed-refrigeration.")
    .max(60),
  expiresOn: yup.string().matches(/^\d{4}-\d{2}-\d{2}$/, "Choose a day, or leave it empty."),
});

export const revokeSchema = yup.object({
  intent: yup.string().oneOf(["revoke"]).required(),
  person,
  authorisation: yup.string().required().length(36),
});

const reason = yup.string().trim().max(1000, "Keep it under 1,000 characters.");

export const signSchema = yup.object({
  customer: yup
    .string()
    .oneOf(["drawn", "typed", "not-present"], "Choose how the customer signs.")
    .required("Choose how the customer signs."),
  customerName: yup
    .string()
    .trim()
    .max(120, "Keep the name under 120 characters.")
    .when("customer", {
      is: (method: string) => method === "drawn" || method === "typed",
      then: (schema) => schema.required("Type the customer's name."),
    }),
  drawing: yup
    .string()
    .max(60_000, "The drawing is too long. Clear it and sign again.")
    .when("customer", {
      is: "drawn",
      then: (schema) =>
        schema
          .required("Draw the signature in the box, or choose a typed name.")
          .matches(/^[MLC0-9 .,-]+$/, "Clear the box and sign again."),
    }),
  absentReason: reason.when("customer", {
    is: "not-present",
    then: (schema) => schema.required("Say why nobody signs, for example: closed, cook had left."),
  }),
  missingReason: reason,
  password: yup.string().required("Type your password to sign.").max(200),
});

export const outcomeSchema = yup.object({
  outcome: yup
    .string()
    .oneOf(["no-access", "refused", "part-missing"], "Choose what happened.")
    .required("Choose what happened."),
  reason: reason.required("Say in a few words why; the next visit needs it."),
});

/** A lead's signature that a machine may be used again. */
export const clearHoldSchema = yup.object({
  hold: yup.string().required().max(36),
  note: reason.required("Say what was put right and how you know that it is safe."),
  password: yup.string().required("Type your password to sign.").max(200),
});

const DAY_TEXT = yup.string().matches(/^\d{4}-\d{2}-\d{2}$/, "Choose a day.");

export const instrumentSchema = yup.object({
  code: yup.string().trim().required("Give the number on the instrument.").max(40, "Keep it under 40 characters."),
  kind: yup
    .string()
    .trim()
    .lowercase()
    .matches(/^[a-z0-9]+(-[a-z0-9]+)*$/, "A short name of small letters and hyphens, such as feeler-gauge.")
    .required("Choose what it measures.")
    .max(60),
  name: yup.string().trim().required("Give it a name.").max(200),
  calibrationDue: DAY_TEXT.optional(),
  certificate: yup.string().trim().url("A link that begins with https://").max(500).optional(),
  /** Given when an instrument changes; then the reason is wanted. */
  id: yup.string().max(36).optional(),
  why: reason.when("id", {
    is: (id: unknown) => typeof id === "string",
    then: (schema) => schema.required("Say why it changes."),
  }),
  retired: ticked(),
});

export const copyProcedureSchema = yup.object({
  title: yup.string().trim().required("Give it a title.").max(200),
  id: yup
    .string()
    .trim()
    .matches(/^[a-z0-9]+(-[a-z0-9]+)*$/, "Small letters, digits and hyphens, such as ice-maker-model-b.")
    .required("Give it a short name.")
    .max(80),
});

/** A correction of one logged fact. */
export const correctionSchema = yup.object({
  ref: yup.string().required().max(36),
  field: yup.string().oneOf(["value", "qty", "text", "lot"]).required(),
  to: yup.string().trim().required("Say what it should be.").max(4000),
  why: reason.required("Say why: it stays beside the old value."),
});
