import * as yup from "yup";

import { file, GONE, key, slug, text, whole } from "~/kit/forms/fields";

/** Longest draft, in characters of its JSON. */
export const MAX_DRAFT_LENGTH = 400_000;

/** Addresses of the library and of two versions beside each other. */
export const librarySchema = yup.object({ q: text(120), family: key() });
export const compareSchema = yup.object({ from: whole(0, 1_000_000), to: whole(0, 1_000_000) });

export const copyProcedureSchema = yup.object({
  title: text(200).required("Give it a title."),
  id: slug("ice-maker-model-b", 80).required("Give it a short name."),
});

export const newProcedureSchema = yup.object({
  title: text(200).required("Give it a title."),
  family: text(60).required("Say which machines it is for."),
});

export const procedureFileSchema = yup.object({
  file: file(MAX_DRAFT_LENGTH * 2, "This file is too large for a procedure.").required(
    "Choose a procedure's JSON file.",
  ),
});

export const saveDraftSchema = yup.object({
  body: yup
    .string()
    .required("There is nothing to save.")
    .max(MAX_DRAFT_LENGTH, "This draft is too long.")
    // Sent as a form, its marks take up to three bytes each.
    .meta({ hidden: true, maxBytes: 3 * MAX_DRAFT_LENGTH }),
  revision: whole(0, 1_000_000_000).required().meta({ hidden: true }),
});

export const publishSchema = yup.object({
  revision: whole(0, 1_000_000_000).required(GONE).meta({ hidden: true }),
  newest: whole(0, 1_000_000).required(GONE).meta({ hidden: true }),
  why: text(500).required("Say why it changes: the reason stays with the version."),
});
