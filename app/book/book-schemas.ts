import * as yup from "yup";

import { day, email, hiddenId, id, slug, text, ticked } from "~/kit/forms/fields";

const reason = text(1000);

export const instrumentSchema = yup.object({
  code: text(40).required("Give the number on the instrument."),
  kind: slug("feeler-gauge").lowercase().required("Choose what it measures."),
  name: text(200).required("Give it a name."),
  calibrationDue: day(),
  certificate: text(500).url("A link that begins with https://"),
  /** Given when an instrument changes; then the reason is wanted. */
  id: id(),
  why: reason.when("id", {
    is: (value: unknown) => typeof value === "string",
    then: (schema) => schema.required("Say why it changes."),
  }),
  retired: ticked(),
});

/** Who a record goes to. */
export const sendSchema = yup.object({
  to: email().required("Type an address."),
  name: text(120).default(""),
});

/** A correction of one logged fact. */
export const correctionSchema = yup.object({
  ref: hiddenId(),
  field: yup
    .string()
    .oneOf(["value", "qty", "text", "lot", "answer"] as const)
    .required(),
  to: text(4000).required("Say what it should be."),
  why: reason.required("Say why: it stays beside the old value."),
});
