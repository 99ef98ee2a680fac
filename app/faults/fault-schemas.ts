import { object } from "yup";

import { id, slug } from "~/kit/forms/fields";

export const startFaultSchema = object({
  symptom: slug("too-warm", 40).required("Choose what is wrong from the list."),
  report: id(),
});

/** The report that is looked into. */
export const faultQuery = object({ report: id() });
