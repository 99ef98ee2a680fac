import * as yup from "yup";

import { day, GONE, hiddenId, id, slug, text } from "~/kit/forms/fields";

export const itemSchema = yup.object({
  item: hiddenId().required(GONE),
  owner: id(),
  wantedBy: day("Choose the day by which it is wanted.").required("Choose the day by which it is wanted."),
  who: yup.string().oneOf(["technician", "licensed"], "Choose who does it.").required("Choose who does it."),
  authorisation: slug("gas-work"),
  askedWhom: text(160),
  askedOn: day(),
  bookedFor: day(),
});

export const closeItemSchema = yup.object({
  item: hiddenId().required(GONE),
  reason: text(1000).required("Say why it needs no work."),
});
