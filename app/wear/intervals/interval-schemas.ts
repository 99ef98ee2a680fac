import * as yup from "yup";

import { cursor, hiddenId, key, text } from "~/kit/forms/fields";

export const intervalsSearchSchema = yup.object({
  show: yup.string().oneOf(["decided"] as const),
  after: cursor(),
});

export const decideSchema = yup.object({
  proposal: hiddenId(),
  decision: yup
    .string()
    .oneOf(["accept", "refuse"] as const, "Accept it or refuse it.")
    .required("Accept it or refuse it."),
  reason: text(500).required("Say why: it is kept with the machine."),
});

export const foundSearchSchema = yup.object({ procedure: key() });
