import * as yup from "yup";

import { cursor, id, key, text, whole } from "./fields";

/** What addresses of lists may ask for. */

export const pageSchema = yup.object({ after: cursor() });
export const wordsSchema = yup.object({ q: text(120), after: cursor() });
export const machineSearchSchema = yup.object({
  q: text(120),
  family: key(),
  /** Its id, or what it is called. */
  site: text(160),
  state: yup.string().oneOf(["stopped", "left-open", "to-check", "taken-out"] as const),
  after: cursor(),
});
export const editSchema = yup.object({ edit: id() });
export const versionSchema = yup.object({ version: whole(1, 1_000_000, "A version is a whole number.") });
