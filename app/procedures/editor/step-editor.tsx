import type { Procedure, Step } from "@core";

import { Disclosure } from "~/ui/disclosure";

import { FieldForm } from "./field-form";
import type { LibraryEntry } from "./field-kinds";
import { COMMON_FIELDS, KIND_FIELDS, NEWER_FIELDS, OLDER_PART_FIELDS, PART_FIELDS, RARE_FIELDS } from "./step-fields";

type Fields = Readonly<Record<string, unknown>>;

/** One step's fields. */
export function StepEditor({
  step,
  procedure,
  library,
  onChange,
}: {
  step: Step;
  procedure: Procedure;
  library: readonly LibraryEntry[];
  onChange: (step: Step) => void;
}) {
  const value = step as unknown as Fields;
  const newer = procedure.formatVersion === 2;
  const parts = newer ? PART_FIELDS : OLDER_PART_FIELDS;
  const isSet = (specs: readonly { field: string }[]): boolean => specs.some(({ field }) => value[field] !== undefined);
  const form = (specs: Parameters<typeof FieldForm>[0]["specs"]) => (
    <FieldForm
      at={`step-${step.id}`}
      specs={specs}
      value={value}
      onChange={(next) => onChange(withWhatFollows(step, next, procedure, library) as unknown as Step)}
    />
  );
  return (
    <div className="space-y-3">
      {form(COMMON_FIELDS)}
      {KIND_FIELDS[step.kind].length > 0 && form(KIND_FIELDS[step.kind])}
      {newer && form(NEWER_FIELDS)}
      <Disclosure title="Parts that come off or go back on" open={isSet(parts)}>
        {form(parts)}
      </Disclosure>
      <Disclosure title="Conditions, materials, shared places, schematic" open={isSet(RARE_FIELDS)}>
        {form(RARE_FIELDS)}
      </Disclosure>
    </div>
  );
}

/** What a choice brings with it: all places of a pair, the newest version of a procedure. */
function withWhatFollows(step: Step, next: Fields, procedure: Procedure, library: readonly LibraryEntry[]): Fields {
  if ((step.kind === "replace" || step.kind === "turn") && next["item"] !== step.item) {
    const part = procedure.parts.find((one) => one.item === next["item"]);
    const slots = part?.slots.map((slot) => slot.id) ?? [];
    return { ...next, slots: part?.pair || slots.length === 1 ? slots : [] };
  }
  if (step.kind === "nested" && next["procedure"] !== step.procedure) {
    const version = library.find((one) => one.id === next["procedure"])?.version;
    return version === undefined ? next : { ...next, version };
  }
  return next;
}
