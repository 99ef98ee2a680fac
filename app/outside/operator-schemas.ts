import * as yup from "yup";

import { GONE, id, listOf, photo, text, ticked } from "~/kit/forms/fields";

const name = text(60).required("Type your name or initials.");

export const tickSchema = yup.object({
  name,
  dutyIds: listOf(id().required(GONE), 50).min(1, "Tick what you did.").required("Tick what you did."),
});

export const reportSchema = yup.object({
  name,
  text: text(2000).required("Say what is wrong."),
  stopped: ticked(),
  photo: photo(),
});
