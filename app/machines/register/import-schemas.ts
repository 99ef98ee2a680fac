import * as yup from "yup";

import { listOf, slug, text } from "~/kit/forms/fields";

/** What a person answers about a file before it goes in. */

export const importFamiliesSchema = yup.object({
  families: listOf(
    yup.object({
      said: text(60).required(),
      /** Left out: it is a new one. */
      family: slug("conveyor-oven"),
    }),
    50,
  ).required(),
});

export const importDaysSchema = yup.object({
  order: yup
    .string()
    .oneOf(["day-first", "month-first"] as const)
    .required("Choose a day."),
});
