import { type AnyObjectSchema, ValidationError } from "yup";

import { readFields } from "~/kit/forms/read-fields";

/**
 * What a form's fields come to when a page sends them: the value that the work gets, or the first fault of each field.
 * Several values of one name are a list.
 */
export function sent(
  schema: AnyObjectSchema,
  fields: Record<string, string | readonly string[]>,
): { value: Record<string, unknown>; faults: Record<string, string> } {
  const entries = Object.entries(fields).flatMap(([name, value]) =>
    typeof value === "string" ? [[name, value] as const] : value.map((one) => [name, one] as const),
  );
  try {
    const { values } = readFields(entries, schema);
    const value = schema.validateSync(values, { abortEarly: false, stripUnknown: true }) as Record<string, unknown>;
    return { value, faults: {} };
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    const faults: Record<string, string> = {};
    for (const one of error.inner.length > 0 ? error.inner : [error]) faults[one.path ?? ""] ??= one.message;
    return { value: {}, faults };
  }
}

/** The fault of one field beside others that are right; undefined when it is taken. */
export function faultOf(
  schema: AnyObjectSchema,
  right: Record<string, string | readonly string[]>,
  field: string,
  value: string | readonly string[],
): string | undefined {
  const { faults } = sent(schema, { ...right, [field]: value });
  return faults[field] ?? Object.values(faults)[0];
}
