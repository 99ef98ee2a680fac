import { CoreError } from "./errors";

/** @throws CoreError unless `value` is a list */
export function requireList<Item>(value: readonly Item[] | null | undefined, path: string): readonly Item[] {
  if (Array.isArray(value)) return value as readonly Item[];
  throw new CoreError("bad-value", path, `${path} must be a list, not ${kindOf(value)}.`);
}

/** @throws CoreError unless `value` is an object with names */
export function requireRecord<Value extends object>(value: Value | null | undefined, path: string): Value {
  if (value === null || value === undefined || !isRecord(value))
    throw new CoreError("bad-value", path, `${path} must be an object, not ${kindOf(value)}.`);
  return value;
}

/** @throws CoreError unless `value` is a text */
export function requireText(value: unknown, path: string): string {
  if (typeof value === "string") return value;
  throw new CoreError("bad-value", path, `${path} must be a text, not ${kindOf(value)}.`);
}

/** Whether a value has names; to be asked where building its path for an error would cost. */
export const isRecord = (value: unknown): value is Record<string, unknown> =>
  value !== null && typeof value === "object" && !Array.isArray(value);

/** Null where something is optional counts as absent: the same object when nothing in it is null. */
export function withoutNulls<Value extends object>(value: Value): Value {
  for (const name in value)
    if (value[name] === null)
      return Object.fromEntries(Object.entries(value).filter(([, one]) => one !== null)) as Value;
  return value;
}

function kindOf(value: unknown): string {
  if (value === null || value === undefined) return "nothing";
  if (Array.isArray(value)) return "a list";
  return typeof value === "string" ? `"${value}"` : `a ${typeof value}`;
}
