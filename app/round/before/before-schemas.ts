import * as yup from "yup";

import { email, GONE, hiddenId, id, listOf, text } from "~/kit/forms/fields";

/** What the page before a day may send. */

export const announceSchema = yup.object({
  site: hiddenId(),
  to: email().required("Choose or type an address."),
  name: text(120),
  /** Machine and what is asked for, as the page has it. */
  ask: listOf(text(200).required(), 20).meta({ hidden: true }),
  note: text(1000),
});

export const answerSchema = yup.object({
  request: hiddenId(),
  answer: yup
    .string()
    .oneOf(["yes", "no"] as const)
    .required("Say yes or no.")
    .meta({ hidden: true }),
});

/** What a customer answers by a link: yes, no, or nothing yet, to each request. */
export const customerAnswerSchema = yup.object({
  name: text(120).required("Please give your name."),
  answers: yup
    .array(
      yup.object({
        id: id().required(GONE),
        said: yup.string().oneOf(["yes", "no"] as const),
      }),
    )
    .max(20)
    .required(GONE)
    .meta({ hidden: true }),
});
