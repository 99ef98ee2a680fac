import * as yup from "yup";

import { day, hiddenId, id, listOf, meterValue, oneText, photo, slug, text, ticked } from "~/kit/forms/fields";

/** A machine's tag: what is on its plate, and in the address that its code leads to. */
const TAG = /^[A-Za-z0-9][A-Za-z0-9-]*$/;

export const newMachineSchema = yup.object({
  site: text(330).required("Say at which site it stands."),
  tag: oneText()
    .trim()
    .max(32, "Keep it under 32 characters.")
    .matches(TAG, { message: "A tag has letters, digits and hyphens only.", excludeEmptyString: true })
    .required("Scan, type or make a tag."),
  family: slug("conveyor-oven").required("Choose what it is."),
  otherFamily: text(60).default(""),
  familyIsNew: ticked(),
  name: text(160).required("Give the machine a name."),
  serial: text(120).default(""),
  area: text(120).default(""),
  maker: text(120).default(""),
  model: text(120).default(""),
  options: listOf(slug("water-filter").required(), 30).default([]),
  meters: listOf(yup.object({ meter: slug("cutting-hours").required(), value: meterValue() }), 20).default([]),
  photo: photo(),
  like: id().meta({ hidden: true }),
});

/** What the form of a new machine sends when none of the families fits. */
export const OTHER_FAMILY = "other";

/** What the form may begin with: a tag that nobody knew, a site, another machine. */
export const beginningSchema = yup.object({ tag: text(32), site: text(330), like: id() });

/** The family of procedures that go with every machine: no machine is of it. */
export const EVERY_FAMILY = "any";

export const firstDutiesSchema = yup.object({
  duties: listOf(yup.object({ duty: hiddenId(), take: ticked(), on: day("Choose a day.") }), 100).required(),
});

export const retireSchema = yup.object({
  why: text(500).required("Say why, such as sold, scrapped or taken back by its owner."),
});

export const moveSchema = yup.object({
  site: text(330).required("Say to which site it goes."),
  area: text(120).default(""),
});
