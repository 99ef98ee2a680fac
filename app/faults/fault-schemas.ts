import { object, string } from "yup";

import { hiddenId, id, slug, text } from "~/kit/forms/fields";

export const startFaultSchema = object({
  symptom: slug("too-warm", 40).required("Choose what is wrong from the list."),
  report: id(),
  /** What the machine displays, by the firm's dictionary. */
  code: id(),
  /** What it was begun because of. */
  about: text(300),
});

export const addCodeSchema = object({
  kind: string()
    .oneOf(["code", "test"] as const, "Choose what it is.")
    .required("Choose what it is."),
  name: text(60).required("Type the code as the machine shows it."),
  model: text(120),
  says: text(500).required("Say in your own words what it means."),
  symptom: slug("too-warm", 40),
});

export const endCodeSchema = object({ code: hiddenId() });

/** The report that is looked into, or what was seen on a sheet or came due. */
export const faultQuery = object({ report: id(), about: text(300) });

/** The family that a guide is written for, in words. */
export const writeGuideSchema = object({ name: text(60).required("Name the family.") });
