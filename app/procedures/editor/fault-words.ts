import type { Procedure } from "@core";

import type { FormFault } from "~/procedures/procedure-schema.server";

import { SECTIONS } from "./about-fields";
import type { FieldKind, FieldSpec } from "./field-kinds";
import { COMMON_FIELDS, KIND_FIELDS, NEWER_FIELDS, OLDER_PART_FIELDS, PART_FIELDS, RARE_FIELDS } from "./step-fields";

/** A place in the format and what is wrong there, as the fields of the editor call it. */
export function faultInWords({ path, message }: FormFault, procedure: Procedure): { step?: string; words: string } {
  const places = path.split(/[.[\]]+/).filter((part) => part !== "");
  const why = reason(message, path);
  const step = places[0] === "steps" ? procedure.steps[Number(places[1])] : undefined;
  if (step) {
    const specs = [
      ...COMMON_FIELDS,
      ...KIND_FIELDS[step.kind],
      ...NEWER_FIELDS,
      ...PART_FIELDS,
      ...OLDER_PART_FIELDS,
      ...RARE_FIELDS,
    ];
    const where = [`Step ${Number(places[1]) + 1}`, ...labels(places.slice(2), specs)].join(", ");
    return { step: step.id, words: `${where}: ${why}` };
  }
  const specs = SECTIONS.flatMap((section) => section.fields);
  return { words: `${labels(places, specs).join(", ") || "The procedure"}: ${why}` };
}

/** The message without the place that it names. */
function reason(message: string, path: string): string {
  const bare = message.split(path).join("").trim();
  return /is a required field|must be defined|at least 1 characters/.test(bare) ? "is missing" : bare;
}

/** The labels of the fields on the way to a place, with the numbers of rows. */
function labels(places: readonly string[], specs: readonly FieldSpec[]): string[] {
  const [field, ...rest] = places;
  if (field === undefined) return [];
  if (/^\d+$/.test(field)) return [String(Number(field) + 1), ...labels(rest, specs)];
  const spec = specs.find((one) => one.field === field) ?? specs.find((one) => one.names === field);
  return spec ? [spec.label, ...labels(rest, inner(spec.kind))] : labels(rest, specs);
}

function inner(kind: FieldKind): readonly FieldSpec[] {
  if (typeof kind === "string") return [];
  if ("record" in kind) return kind.record;
  if ("list" in kind) return kind.list;
  return "variants" in kind ? Object.values(kind.variants).flatMap((variant) => variant.fields) : [];
}
