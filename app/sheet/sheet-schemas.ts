import * as yup from "yup";

import { hiddenId, id, listOf, password, text } from "~/kit/forms/fields";

/** What signing may send. The same schema checks in the browser and on the server. */

const reason = text(1000);

export const signSchema = yup.object({
  customer: yup
    .string()
    .oneOf(["drawn", "typed", "not-present"] as const, "Choose how the customer signs.")
    .required("Choose how the customer signs."),
  customerName: text(120).when("customer", {
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
  /** What else of the visit is signed with the same signatures. */
  others: listOf(yup.object({ id: hiddenId(), missingReason: reason }), 15),
  password: password("Type your password to sign."),
});

export type SignForm = yup.InferType<typeof signSchema>;

/** Addresses of empty papers. */
export const machineOfPaperSchema = yup.object({ machine: id() });
