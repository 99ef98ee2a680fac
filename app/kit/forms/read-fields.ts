import type { AnyObjectSchema } from "yup";

import { Refusal } from "~/kit/refusal";

import type { FormValues } from "./form-answer";

/** `name`, `contacts[3].phone`: what a field may be called. */
const NAME = /^[A-Za-z][A-Za-z0-9-]{0,60}(\[\d{1,3}\]|\.[A-Za-z][A-Za-z0-9]{0,40}){0,4}$/;
/** Most rows of one list in a form. */
const MOST_ROWS = 500;

export interface Fields {
  values: FormValues;
  files: Record<string, File>;
}

/**
 * The fields of a form that its schema has, nested as their names say. Empty fields are left out: optional fields need no
 * exception for the empty text that browsers send. What the schema does not have is not looked at; nothing is built from
 * a name that a browser would not send.
 *
 * @throws Refusal when a field that is no list was sent twice
 */
export function readFields(entries: Iterable<readonly [string, FormDataEntryValue]>, schema: AnyObjectSchema): Fields {
  const values: FormValues = {};
  const files: Record<string, File> = {};
  for (const [name, value] of entries) {
    if (!NAME.test(name)) continue;
    const [first = "", ...rest] = name.split(/[[\].]+/).filter((part) => part !== "");
    const kind = Object.hasOwn(schema.fields, first) ? schema.fields[first] : undefined;
    if (!kind) continue;
    if (typeof value !== "string") {
      // A field for a file that nothing was chosen for sends an empty one.
      if (value.size > 0 || value.name !== "") files[first] = value;
      continue;
    }
    if (value !== "") put(values, [first, ...rest], value, "type" in kind && kind.type === "array");
  }
  return { values, files };
}

function put(into: FormValues, path: readonly string[], value: string, list: boolean): void {
  const [first = "", second, ...rest] = path;
  const own = Object.hasOwn(into, first) ? into[first] : undefined;
  if (second === undefined) {
    if (own === undefined) into[first] = value;
    else if (!list) throw new Refusal(400, "sent-twice", "A field of this form came twice. Load the page again.");
    else if (Array.isArray(own)) own.push(value);
    else into[first] = [own, value];
    return;
  }
  if (!/^\d+$/.test(second)) {
    const inner = typeof own === "object" && !Array.isArray(own) ? own : (into[first] = {});
    put(inner, [second, ...rest], value, false);
    return;
  }
  const rows = Array.isArray(own) ? own : (into[first] = []);
  const at = Number(second);
  if (at >= MOST_ROWS) throw new Refusal(413, "too-many-rows", `A form has at most ${MOST_ROWS} rows.`);
  while (rows.length <= at) rows.push({});
  if (rest.length === 0) rows[at] = value;
  else {
    const row = rows[at];
    put(typeof row === "object" ? row : (rows[at] = {}), rest, value, false);
  }
}

/** What may be sent back: all but passwords. */
export function withoutSecrets(values: FormValues, schema: AnyObjectSchema): FormValues {
  return Object.fromEntries(Object.entries(values).filter(([name]) => !metaOf(schema, name).secret));
}

export interface FieldMeta {
  secret?: boolean;
  hidden?: boolean;
  maxBytes?: number;
}

/** What a schema says about a field beside its type; {} for a field that it does not have. */
export function metaOf(schema: AnyObjectSchema, path: string): FieldMeta {
  const first = /^[^[.]*/.exec(path)?.[0] ?? "";
  const kind = Object.hasOwn(schema.fields, first) ? schema.fields[first] : undefined;
  return kind && "spec" in kind ? ((kind.spec as { meta?: FieldMeta }).meta ?? {}) : {};
}
