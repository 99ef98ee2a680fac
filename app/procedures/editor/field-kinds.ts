import { inWords, type Procedure, shortName } from "@core";

/** Something to choose: how it is called in the format, and in words. */
export interface Choice {
  id: string;
  name: string;
}

/** What choices come from: the procedure as it is, the step that is edited, and what is known beside them. */
export interface Around {
  procedure: Procedure;
  /** Id of the step that is edited; null beside the steps. */
  step: string | null;
  /** The record that the field stands in. */
  within: Readonly<Record<string, unknown>>;
  library: readonly LibraryEntry[];
  items: readonly (Choice & { unit: string })[];
  /** Of a fault guide. */
  causes?: readonly Choice[];
}

/** Another procedure that can be nested or named. */
export interface LibraryEntry extends Choice {
  version: number;
}

type Source = (around: Around) => readonly Choice[];

/** Forms of one value, told apart by what the value is; `empty` is a new one. */
export interface Variant {
  name: string;
  fields: readonly FieldSpec[];
  empty: Record<string, unknown>;
}

/**
 * How a value is edited. `short` is a short name that comes of what is typed; `pick` chooses one of what there is, with `own`
 * also what there is not yet, as text or as a short name; `some` chooses several, in order; `lines` is a list of texts, one a line.
 */
export type FieldKind =
  | "line"
  | "text"
  | "number"
  | "yes"
  | "lines"
  | "short"
  | "shorts"
  | { choices: readonly (readonly [id: string, name: string])[] }
  | { pick: Source; own?: "text" | "short"; numeric?: true }
  | { some: Source }
  | { record: readonly FieldSpec[] }
  | { list: readonly FieldSpec[]; one: string; empty?: Record<string, unknown> }
  | { variants: Readonly<Record<string, Variant>>; of: (value: unknown) => string; one: string; many?: true };

export interface FieldSpec {
  field: string;
  label: string;
  kind: FieldKind;
  hint?: string;
  /** Stays when empty; other empty fields are left out. */
  required?: boolean;
  /** What has an id of its own gets it of this field of the same record. */
  names?: "id" | "item";
  /** Characters that such an id may have; 60 when absent. */
  longest?: number;
}

export const f = (
  field: string,
  label: string,
  kind: FieldKind = "line",
  more: Partial<FieldSpec> = {},
): FieldSpec => ({ field, label, kind, ...more });

/** Which form a record has, by the field that names it. */
export const nameIn =
  (field: string) =>
  (value: unknown): string => {
    const name = value !== null && typeof value === "object" ? (value as Record<string, unknown>)[field] : undefined;
    return typeof name === "string" ? name : "";
  };

export type TextKind = "line" | "text" | "number" | "lines" | "short" | "shorts";

/** The text of a field as it is edited. */
export function fieldText(value: unknown, kind: TextKind): string {
  if (kind === "lines" || kind === "shorts")
    return Array.isArray(value)
      ? value.map((one) => (kind === "shorts" ? inWords(String(one)) : String(one))).join("\n")
      : "";
  if (typeof value !== "string" && typeof value !== "number") return "";
  return kind === "short" ? inWords(String(value)) : String(value);
}

/** The value of an edited text: undefined leaves the field out; `fault` says why it cannot be taken yet. */
export function fieldValue(text: string, kind: TextKind): { value?: unknown; fault?: string } {
  const typed = text.trim();
  if (typed === "") return {};
  switch (kind) {
    case "lines":
      return { value: linesOf(text) };
    case "shorts":
      return { value: linesOf(text).map(shortName) };
    case "short": {
      const value = shortName(typed);
      return value === "" ? { fault: "Use letters or digits." } : { value };
    }
    case "number": {
      const value = Number(typed.replace(",", "."));
      return Number.isFinite(value) ? { value } : { fault: "This is no figure." };
    }
    default:
      return { value: text };
  }
}

const linesOf = (text: string): string[] =>
  text
    .split("\n")
    .map((line) => line.trim())
    .filter((line) => line !== "");

/** A field that is empty and has to stay. */
export function emptyOf(kind: FieldKind): unknown {
  if (kind === "lines" || kind === "shorts") return [];
  if (kind === "number") return undefined;
  if (typeof kind === "string" || "choices" in kind || "pick" in kind) return "";
  return "record" in kind ? {} : [];
}

/** A record with one of its fields set, or left out. */
export function withField<R extends object>(record: R, field: string, value: unknown): R {
  const entries = Object.entries(record);
  const at = entries.findIndex(([name]) => name === field);
  if (value === undefined) entries.splice(at < 0 ? entries.length : at, 1);
  else if (at < 0) entries.push([field, value]);
  else entries[at] = [field, value];
  return Object.fromEntries(entries) as R;
}
