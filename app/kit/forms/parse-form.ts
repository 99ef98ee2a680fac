import type { Submission } from "@conform-to/react";
import { parseWithYup as parse } from "@conform-to/yup";
import type { AnyObjectSchema, InferType } from "yup";

/** Checks a form in the browser by its schema. A field left empty is not given, as the server reads it. */
export function parseWithYup<Schema extends AnyObjectSchema>(
  payload: FormData,
  config: { schema: Schema },
): Submission<InferType<Schema>> {
  const given = new FormData();
  for (const [name, value] of payload.entries()) if (value !== "") given.append(name, value);
  return parse(given, config);
}
