import type { Step } from "@core";
import { useState } from "react";

import { Disclosure } from "~/ui/disclosure";

import { COMMON_FIELDS, type FieldSpec, fieldText, fieldValue, KIND_FIELDS, RARE_FIELDS } from "./step-fields";
import { STEP_KINDS } from "./step-words";

/** One step's fields. What cannot be taken yet stays in its field with the reason; the draft keeps its last good value. */
export function StepEditor({ step, onChange }: { step: Step; onChange: (step: Step) => void }) {
  const set = (field: string, value: unknown): void => {
    const entries = Object.entries(step).filter(([name]) => name !== field);
    const next = Object.fromEntries(value === undefined ? entries : [...entries, [field, value]]);
    onChange(next as unknown as Step);
  };
  const fields = (specs: readonly FieldSpec[]) =>
    specs.map((spec) => (
      <Field
        key={`${step.id}.${spec.field}`}
        spec={spec}
        stepId={step.id}
        value={(step as unknown as Record<string, unknown>)[spec.field]}
        onValue={(value) => set(spec.field, value)}
      />
    ));
  const rare = RARE_FIELDS.some((spec) => (step as unknown as Record<string, unknown>)[spec.field] !== undefined);
  return (
    <div className="space-y-3">
      <p className="text-sm text-ink-soft">
        {STEP_KINDS[step.kind]} · id <span className="figure">{step.id}</span>
      </p>
      {fields(COMMON_FIELDS)}
      {fields(KIND_FIELDS[step.kind])}
      <Disclosure title="Conditions, materials, parts that come off, schematic" open={rare}>
        <div className="space-y-3">{fields(RARE_FIELDS)}</div>
      </Disclosure>
    </div>
  );
}

function Field({
  spec,
  stepId,
  value,
  onValue,
}: {
  spec: FieldSpec;
  stepId: string;
  value: unknown;
  onValue: (value: unknown) => void;
}) {
  const { field, label, kind, hint, required } = spec;
  const id = `f-${stepId}-${field}`;
  const [text, setText] = useState(() => fieldText(value, kind));
  const [fault, setFault] = useState("");
  const take = (next: string): void => {
    setText(next);
    const read = fieldValue(next, kind);
    setFault(read.fault ?? "");
    if (!read.fault) onValue(read.value ?? (required ? (kind === "lines" ? [] : "") : undefined));
  };
  if (kind === "yes") {
    return (
      <label className="flex min-h-11 items-center gap-3">
        <input
          type="checkbox"
          className="size-5 accent-(--fill)"
          checked={value === true}
          onChange={(event) => onValue(event.target.checked ? true : undefined)}
        />
        {label}
      </label>
    );
  }
  const common = { id, value: text, "aria-invalid": fault !== "", "aria-describedby": `${id}-says` };
  return (
    <div>
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      {typeof kind === "object" ? (
        <select {...common} className="field" onChange={(event) => take(event.target.value)}>
          <option value="">no</option>
          {kind.choices.map((choice) => (
            <option key={choice} value={choice}>
              {choice}
            </option>
          ))}
        </select>
      ) : kind === "text" || kind === "lines" || kind === "json" ? (
        <textarea
          {...common}
          className={`field ${kind === "json" ? "figure text-sm" : ""}`}
          rows={Math.min(8, Math.max(2, text.split("\n").length))}
          onChange={(event) => take(event.target.value)}
        />
      ) : (
        <input
          {...common}
          className={`field ${kind === "number" ? "figure max-w-40" : ""}`}
          inputMode={kind === "number" ? "decimal" : "text"}
          onChange={(event) => take(event.target.value)}
        />
      )}
      <p id={`${id}-says`} className="text-sm text-ink-soft">
        {fault ? (
          <strong className="text-ink">! {fault}</strong>
        ) : kind === "lines" ? (
          `${hint ? `${hint}. ` : ""}One a line.`
        ) : (
          hint
        )}
      </p>
    </div>
  );
}
