import * as yup from "yup";

import { isTimeZone } from "~/kit/site-day";

const clock = yup
  .string()
  .required("Give a time.")
  .matches(/^([01]\d|2[0-3]):[0-5]\d$/, "Write a time such as 07:30.");

export const daySettingsSchema = yup.object({
  start: clock,
  end: clock.test(
    "after",
    "The day ends after it begins.",
    (value, context) => !value || value > String((context.parent as { start?: string }).start ?? ""),
  ),
  technicians: yup
    .number()
    .typeError("Type a number.")
    .integer("Whole people only.")
    .min(1, "At least one.")
    .max(4, "Up to four on one visit.")
    .required("Type a number."),
});

export const emergencySchema = yup.object({
  tag: yup.string().trim().uppercase().required("Type or scan the machine's tag.").max(32, "A tag is shorter."),
  title: yup.string().trim().required("Say what is wrong.").max(160, "Keep it under 160 characters."),
  minutes: yup
    .number()
    .typeError("Type minutes.")
    .integer("Whole minutes.")
    .min(5, "At least five minutes.")
    .max(480, "At most eight hours.")
    .required("Type minutes."),
});

export const depotSchema = yup.object({
  name: yup.string().trim().required("Give it a name.").max(160, "Keep it under 160 characters."),
  timeZone: yup
    .string()
    .trim()
    .required("Give the time zone.")
    .test("zone", "Use a name such as Europe/Lisbon.", (value) => value === undefined || isTimeZone(value)),
  latitude: yup
    .number()
    .typeError("Type degrees, such as 38.53.")
    .min(-90, "Latitude is −90 to 90.")
    .max(90, "Latitude is −90 to 90.")
    .required("Type degrees, such as 38.53."),
  longitude: yup
    .number()
    .typeError("Type degrees, such as -28.62.")
    .min(-180, "Longitude is −180 to 180.")
    .max(180, "Longitude is −180 to 180.")
    .required("Type degrees, such as -28.62."),
});
