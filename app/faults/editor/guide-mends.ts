import { type FaultGuide, lintGuide } from "@core";

import type { FieldKind, FieldSpec } from "~/procedures/editor/field-kinds";

import type { GuideFaults } from "./guide-drafts.server";
import { ABOUT, type ListName, LISTS } from "./guide-fields";
import { type Chosen, nameOf } from "./guide-list";

export interface GuideMend {
  severity: "error" | "warning";
  message: string;
  /** Where it is mended. */
  place: Chosen | null;
}

/** All that a guide's draft has to mend: what the server would refuse, and what the linter finds. */
export function guideMends(guide: FaultGuide, faults: GuideFaults): GuideMend[] {
  const refused = [
    ...faults.form.map((path) => formMend(guide, path)),
    ...faults.whole.map((message): GuideMend => ({ severity: "error", message, place: null })),
  ];
  try {
    return [
      ...refused,
      ...lintGuide(guide).map(({ severity, message, at }) => ({ severity, message, place: placeOf(guide, at) })),
    ];
  } catch (error) {
    const message = `A list is not in the form it needs (${(error as Error).message}).`;
    return [...refused, { severity: "error", message, place: null }];
  }
}

/** `causes.strainer`, as the linter names a place. */
function placeOf(guide: FaultGuide, at: string | undefined): Chosen | null {
  const [list, id] = (at ?? "").split(".");
  if (list === undefined || id === undefined || !isList(list)) return null;
  const place = guide[list].findIndex((one) => one.id === id);
  return place < 0 ? null : { list, at: place };
}

const isList = (name: string): name is ListName => Object.hasOwn(LISTS, name);

/** A field that the format does not take as it is, `symptoms[3].causes[0].chance`, in the words of the form. */
function formMend(guide: FaultGuide, path: string): GuideMend {
  const keys = path.split(/[.[\]]+/).filter((key) => key !== "" && !/^\d+$/.test(key));
  const [list = "", ...inner] = keys;
  const at = Number(/^\w+\[(\d+)\]/.exec(path)?.[1] ?? NaN);
  if (isList(list)) {
    const row = guide[list][at];
    const whose = (row && nameOf(list, row)) || `a ${LISTS[list].one} without a name`;
    const field = labelOf(LISTS[list].fields, inner);
    return {
      severity: "error",
      message: field ? `${whose}: “${field}” is missing, or not as it should be.` : `${LISTS[list].title}: none yet.`,
      place: row ? { list, at } : null,
    };
  }
  const section = ABOUT.find((one) => one.fields.some(({ field }) => field === list));
  const field = section && labelOf(section.fields, keys);
  return {
    severity: "error",
    message: field
      ? `${section.title}: “${field}” is missing, or not as it should be.`
      : "It has something in it that a guide does not have.",
    place: section ? { section: section.id } : null,
  };
}

/** What the form calls the innermost field of a path that it knows. */
function labelOf(specs: readonly FieldSpec[], [key, ...rest]: readonly string[]): string | null {
  if (key === undefined) return null;
  // An id is made of the name.
  const spec = specs.find((one) => one.field === key) ?? specs.find((one) => one.names === key);
  if (!spec) return null;
  return labelOf(fieldsWithin(spec.kind), rest) ?? spec.label;
}

function fieldsWithin(kind: FieldKind): readonly FieldSpec[] {
  if (typeof kind === "string") return [];
  if ("list" in kind) return kind.list;
  if ("record" in kind) return kind.record;
  return "variants" in kind ? Object.values(kind.variants).flatMap((one) => one.fields) : [];
}
