import type { Submission } from "@conform-to/react";
import { parseWithYup as parse } from "@conform-to/yup";
import { type AnyObjectSchema, boolean, type InferType } from "yup";

/**
 * Reads a form by its schema. A field left empty is not given, wherever it stands in the form: optional fields need no
 * exception for the empty text that browsers send.
 */
export function parseWithYup<Schema extends AnyObjectSchema>(
  payload: FormData,
  config: { schema: Schema },
): Submission<InferType<Schema>> {
  const given = new FormData();
  for (const [name, value] of payload.entries()) if (value !== "") given.append(name, value);
  return parse(given, config);
}

/** A ticked box is sent as "on", one that is not ticked is not sent. */
export function ticked() {
  return boolean()
    .transform((_, raw: unknown) => raw === "on" || raw === "true" || raw === true)
    .default(false);
}

/** Several boxes of one name: a single ticked one is sent as a text, not as a list. */
export const oneOrMany = (value: unknown, raw: unknown): unknown => (typeof raw === "string" ? [raw] : value);
