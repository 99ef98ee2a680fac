import * as yup from "yup";

import { oneOrMany, ticked } from "~/kit/parse-form";

const name = yup.string().trim().required("Type your name or initials.").max(60, "Keep it under 60 characters.");

export const tickSchema = yup.object({
  name,
  planIds: yup
    .array(yup.string().length(36).required())
    .transform(oneOrMany)
    .min(1, "Tick what you did.")
    .max(50)
    .required("Tick what you did."),
});

export const reportSchema = yup.object({
  name,
  text: yup.string().trim().required("Say what is wrong.").max(2000, "Keep it under 2000 characters."),
  stopped: ticked(),
});
