import * as yup from "yup";

import { cursor, key, number, text } from "~/kit/forms/fields";

/** What the list's address may ask for. */
export const wearSearchSchema = yup.object({
  family: key(),
  /** Its id, or what it is called. */
  site: text(160),
  show: yup.string().oneOf(["now"] as const),
  after: cursor(),
});

const euros = (words: string) => number(words).min(0, words).max(1_000_000, words).required(words);

/** What a failure costs, in euros. */
export const figuresSchema = yup.object({
  low: euros("Type euros, such as 50."),
  usual: euros("Type euros, such as 200."),
  high: euros("Type euros, such as 800."),
  visit: euros("Type euros, such as 90."),
  secondTrip: number("Type percent, such as 10.")
    .min(0, "Type percent, from 0 to 100.")
    .max(100, "Type percent, from 0 to 100.")
    .required("Type percent, such as 10."),
});

export const criticalitySchema = yup.object({
  criticality: yup
    .string()
    .oneOf(["low", "usual", "high"] as const)
    .required("Choose how much it matters."),
});
