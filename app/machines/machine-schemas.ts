import * as yup from "yup";

import { parseAccessHours } from "~/kit/days/access-hours";
import {
  clock,
  day,
  GONE,
  hiddenId,
  id,
  key,
  listOf,
  meterValue,
  oneText,
  photo,
  seen,
  SLUG,
  slug,
  text,
  ticked,
} from "~/kit/forms/fields";
import { understood } from "~/kit/forms/understood";

/** What the forms of a machine may send. The same schema checks in the browser and on the server. */

const meter = slug("cutting-hours").required("Choose a meter.");

export const meterSchema = yup.object({
  meter,
  value: meterValue().required("Type the figure the meter shows."),
  confirmed: ticked(),
});

export const occurrenceSchema = yup.object({
  event: yup.string().required("Choose what happened.").matches(SLUG, "Choose what happened.").max(60),
  on: day(),
  note: text(500),
});

export const replaceMeterSchema = yup.object({
  meter,
  lastValue: meterValue("Type the figure the old meter showed."),
  startsAt: meterValue("Type the figure the new meter shows.").required("Type the figure the new meter shows."),
  note: text(500),
});

export const pauseSchema = yup.object({
  dutyId: id(),
  fromOn: day(),
  toOn: day(),
  reason: text(300).required("Say why, such as in store for the winter."),
});

export const resumeSchema = yup.object({ pause: hiddenId() });

export const closeReportSchema = yup.object({
  report: hiddenId(),
  note: text(500).required("Say what was done about it."),
});

export const workSchema = yup.object({
  report: hiddenId(),
  personId: id().required("Choose who goes."),
  on: day(),
  answer: text(300).default(""),
});

export const answerSchema = yup.object({
  report: hiddenId(),
  answer: text(300).required("Say what the operator is told."),
});

export const addMeterSchema = yup.object({
  meter: slug("cutting-hours").required("Give the meter a short name."),
  name: text(120).required("Give the meter a name."),
  unit: text(20).required("Give its unit, such as h or prints."),
  basis: text(40).default(""),
  gatewayRef: text(120),
});

export const addDutySchema = yup.object({
  procedureId: key().required("Choose a duty."),
  title: text(200),
});

const optionName = oneText()
  .trim()
  .matches(SLUG, {
    message: "An option is a short name of small letters, digits and hyphens.",
    excludeEmptyString: true,
  })
  .max(60, "Keep it under 60 characters.");

export const bulkSchema = yup.object({
  ids: listOf(id().required(GONE), 500).min(1, "Tick at least one machine.").required("Tick at least one machine."),
  area: text(120),
  siteId: id(),
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
  seen: seen().required(GONE),
  name: text(160).required("Give the machine a name."),
  area: text(120).default(""),
  position: text(200).default(""),
  freeHours: text(200).default("").test("hours", understood(parseAccessHours)),
  readyBy: clock("10:45").default(""),
  maker: text(120).default(""),
  model: text(120).default(""),
  serial: text(120).default(""),
  options: text(600)
    .default("")
    .test("options", "Separate short names by spaces, such as water-filter two-lane.", (value) =>
      value.split(/\s+/).every((one) => one === "" || (SLUG.test(one) && one.length <= 60)),
    ),
  documents: text(8000).default("").test("documents", understood(parseDocuments)),
  notes: text(4000).default(""),
  photo: photo(),
});
