import * as yup from "yup";

import { clock, day, GONE, id, key, listOf, number, text, timeZone, whole } from "~/kit/forms/fields";

/** What the pages of a day may send. */

/** Whose day, and which, as the address says. */
export const daySearchSchema = yup.object({ for: id(), on: day() });

/** Ids come as one text with spaces between. */
export const orderSchema = yup.object({
  order: yup
    .array(id().required())
    .transform((_, raw: unknown) => (typeof raw === "string" ? raw.split(" ").filter((one) => one !== "") : raw))
    .max(60, "A day has fewer sites.")
    .required(GONE)
    .meta({ hidden: true }),
});

export const dutiesSchema = yup.object({
  duty: listOf(id().required(), 200)
    .min(1, "Choose at least one duty.")
    .required("Choose at least one duty.")
    .meta({ hidden: true }),
});

export const handOverSchema = yup.object({ to: id().required("Choose somebody.") });

export const siteSchema = yup.object({
  site: id().meta({ hidden: true }),
  reason: text(500),
  /** Asked whether to leave although something is open, one has said yes. */
  sure: yup.string().oneOf(["yes", "no"]).default("no").meta({ hidden: true }),
});

/** A break that begins, or that one has had, minutes. */
export const restSchema = yup.object({ minutes: whole(1, 240).required(GONE).meta({ hidden: true }) });

export const takeBackSchema = yup.object({ event: id().required(GONE).meta({ hidden: true }) });

const time = clock().required("Give a time.");

export const daySettingsSchema = yup.object({
  start: time,
  end: time.test(
    "after",
    "The day ends after it begins.",
    (value, context) => !value || value > ((context.parent as { start?: string }).start ?? ""),
  ),
  technicians: whole(1, 4, "Type a number.").required("Type a number."),
});

export const emergencySchema = yup.object({
  tag: key(32).uppercase().required("Type or scan the machine's tag."),
  title: text(160).required("Say what is wrong."),
  minutes: whole(5, 480, "Type minutes.").required("Type minutes."),
});

export const depotSchema = yup.object({
  name: text(160).required("Give it a name."),
  timeZone: timeZone().required("Give the time zone."),
  latitude: number("Type degrees, such as 38.53.")
    .min(-90, "Latitude is −90 to 90.")
    .max(90, "Latitude is −90 to 90.")
    .required("Type degrees, such as 38.53."),
  longitude: number("Type degrees, such as -28.62.")
    .min(-180, "Longitude is −180 to 180.")
    .max(180, "Longitude is −180 to 180.")
    .required("Type degrees, such as -28.62."),
});

/** One thing from one place to another for a day; or held there. */
export const fetchSchema = yup.object({
  item: key().required(GONE),
  from: id().required("Choose a place."),
  to: id(),
  qty: number("Type how much.")
    .moreThan(0, "More than nothing.")
    .max(10_000_000, "That is more than the books can hold.")
    .required("Type how much."),
  duty: id(),
});

export const postponeSchema = yup.object({ duty: id().required(GONE) });

export const tickSchema = yup.object({
  on: day().required("The day is missing. Load the page again."),
  for: id(),
  line: listOf(text(120).required(GONE), 300).min(1, GONE).required(GONE),
  ticked: yup.string().oneOf(["yes", "no"]).default("no"),
});
