import type { Procedure } from "@core";
import { useState } from "react";

import { type FieldKind, fieldText, fieldValue } from "./step-fields";

const FIELDS: readonly { field: keyof Procedure; label: string; kind: FieldKind; hint?: string }[] = [
  { field: "title", label: "Title", kind: "line" },
  {
    field: "summary",
    label: "Summary",
    kind: "text",
    hint: "Mark figures as typical: the maker's manual and local rules come first.",
  },
  { field: "who", label: "Who does it", kind: { choices: ["operator", "technician", "licensed"] } },
  {
    field: "authorisation",
    label: "Authorisation needed",
    kind: "line",
    hint: "Such as licensed-refrigeration; empty when none.",
  },
  { field: "protective", label: "Protective equipment", kind: "lines" },
  { field: "tools", label: "Tools", kind: "lines" },
  { field: "minutes", label: "Minutes", kind: "json" },
  {
    field: "plan",
    label: "Comes due",
    kind: "json",
    hint: "Triggers, notice, what it covers, occurrences it sets off.",
  },
  {
    field: "hazards",
    label: "Hazards",
    kind: "json",
    hint: 'For example [{"kind":"hot","text":"The plate stays hot."}]',
  },
  {
    field: "materials",
    label: "Materials",
    kind: "json",
    hint: "item, name, qty, unit; chemical and stockPercent where it has them.",
  },
  {
    field: "parts",
    label: "Parts and their slots",
    kind: "json",
    hint: "pair: always both; uses: edges or sides of one piece.",
  },
  { field: "options", label: "Options a machine may have", kind: "json" },
  { field: "meters", label: "Meters", kind: "json", hint: "service: a counter that is set back at the end." },
];

/** Everything of a procedure that is not a step. */
export function AboutEditor({
  procedure,
  onChange,
}: {
  procedure: Procedure;
  onChange: (procedure: Procedure) => void;
}) {
  return (
    <div className="space-y-3">
      {FIELDS.map((spec) => (
        <AboutField
          key={spec.field}
          {...spec}
          value={procedure[spec.field]}
          onValue={(value) => {
            const entries = Object.entries(procedure).filter(([name]) => name !== spec.field);
            const next = Object.fromEntries(value === undefined ? entries : [...entries, [spec.field, value]]);
            onChange(next as unknown as Procedure);
          }}
        />
      ))}
    </div>
  );
}

function AboutField({
  field,
  label,
  kind,
  hint,
  value,
  onValue,
}: (typeof FIELDS)[number] & { value: unknown; onValue: (value: unknown) => void }) {
  const id = `about-${field}`;
  const [text, setText] = useState(() => fieldText(value, kind));
  const [fault, setFault] = useState("");
  const take = (next: string): void => {
    setText(next);
    const read = fieldValue(next, kind);
    setFault(read.fault ?? "");
    if (!read.fault)
      onValue(read.value ?? (field === "authorisation" ? undefined : kind === "lines" || kind === "json" ? [] : ""));
  };
  const common = { id, value: text, "aria-invalid": fault !== "", "aria-describedby": `${id}-says` };
  return (
    <div>
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      {typeof kind === "object" ? (
        <select {...common} className="field" onChange={(event) => take(event.target.value)}>
          {kind.choices.map((choice) => (
            <option key={choice} value={choice}>
              {choice}
            </option>
          ))}
        </select>
      ) : kind === "line" ? (
        <input {...common} className="field" onChange={(event) => take(event.target.value)} />
      ) : (
        <textarea
          {...common}
          className={`field ${kind === "json" ? "figure text-sm" : ""}`}
          rows={Math.min(12, Math.max(2, text.split("\n").length))}
          onChange={(event) => take(event.target.value)}
        />
      )}
      <p id={`${id}-says`} className="text-sm text-ink-soft">
        {fault ? <strong className="text-ink">! {fault}</strong> : kind === "lines" ? "One a line." : hint}
      </p>
    </div>
  );
}
