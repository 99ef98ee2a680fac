import * as yup from "yup";

import { id, key, slug, whole } from "~/kit/forms/fields";

/** So much of a practised sheet can be handed in. */
const MAX_ENTRIES_LENGTH = 600_000;

export const beginSchema = yup.object({
  family: slug("conveyor-oven").required("Choose a family."),
  /** The same machine again. */
  again: id(),
});

/** The address of a sheet's practice: what a draft is tried on, or a run that is judged. */
export const practiceSchema = yup.object({ draft: id(), run: id() });

export const beginSheetSchema = yup.object({ procedure: key().required("Choose a procedure.") });

/** What is done, as a button says it: the act, and what it is done with. */
export const actSchema = yup.object({
  act: yup
    .string()
    .oneOf(
      [
        "begin",
        "enter",
        "leave",
        "wait",
        "check",
        "remedy",
        "hand-over",
        "prove",
        "stop",
        "interim",
        "tell",
        "done",
      ] as const,
      "This button is not known any more. Load the page again.",
    )
    .required("Choose what to do.")
    .meta({ hidden: true }),
  what: slug("engine-off", 60).meta({ hidden: true }),
  cause: slug("belt-worn", 40),
  minutes: whole(1, 240),
  /** How many acts the page knew of: a second tap is none. */
  seen: whole(0, 10_000).required().meta({ hidden: true }),
});

export const handInSchema = yup.object({
  entries: yup
    .string()
    .required("There is nothing to hand in.")
    .max(MAX_ENTRIES_LENGTH, "This practice is too long to be judged.")
    .meta({ hidden: true, maxBytes: 3 * MAX_ENTRIES_LENGTH }),
  options: yup.string().max(2000).meta({ hidden: true }),
});
