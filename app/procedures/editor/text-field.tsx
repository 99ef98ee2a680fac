import { inWords, shortName } from "@core";
import { useState } from "react";

import { type Choice, fieldText, fieldValue, type TextKind } from "./field-kinds";

interface TextProps {
  id: string;
  label: string;
  hint?: string | undefined;
  value: unknown;
}

/** A field that is typed into. What cannot be taken yet stays in it with the reason; the draft keeps its last good value. */
export function TypedField({
  id,
  label,
  hint,
  kind,
  value,
  onValue,
}: TextProps & { kind: TextKind; onValue: (value: unknown) => void }) {
  const [text, setText] = useState(() => fieldText(value, kind));
  const [fault, setFault] = useState("");
  const take = (next: string): void => {
    setText(next);
    const read = fieldValue(next, kind);
    setFault(read.fault ?? "");
    if (!read.fault) onValue(read.value);
  };
  const common = { id, value: text, "aria-invalid": fault !== "", "aria-describedby": `${id}-says` };
  const lines = kind === "lines" || kind === "shorts";
  return (
    <div className={kind === "number" ? "" : "sm:col-span-2"}>
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      {kind === "text" || lines ? (
        <textarea
          {...common}
          className="field"
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
      <Says id={id} fault={fault} hint={hint ?? (lines ? "One a line." : undefined)} />
    </div>
  );
}

/** One of what there is, or what is typed. */
export function OwnField({
  id,
  label,
  hint,
  value,
  choices,
  own,
  onValue,
}: TextProps & { choices: readonly Choice[]; own: "text" | "short"; onValue: (value: string | undefined) => void }) {
  const shown = (): string => {
    if (typeof value !== "string") return "";
    return own === "text" ? value : (choices.find((one) => one.id === value)?.name ?? inWords(value));
  };
  const [text, setText] = useState(shown);
  const take = (next: string): void => {
    setText(next);
    const typed = next.trim();
    const chosen = choices.find((one) => one.name === typed);
    if (typed === "") onValue(undefined);
    else onValue(own === "text" ? typed : (chosen?.id ?? shortName(typed)));
  };
  return (
    <div className="sm:col-span-2">
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      <input
        id={id}
        className="field"
        list={`${id}-known`}
        value={text}
        autoComplete="off"
        aria-describedby={`${id}-says`}
        onChange={(event) => take(event.target.value)}
      />
      <datalist id={`${id}-known`}>
        {choices.map((one) => (
          <option key={one.id} value={one.name} />
        ))}
      </datalist>
      <Says id={id} hint={hint} />
    </div>
  );
}

/** What a field says under it: what is wrong with it, else what belongs in it. */
export function Says({ id, fault = "", hint }: { id: string; fault?: string; hint?: string | undefined }) {
  return (
    <p id={`${id}-says`} className="text-sm text-ink-soft">
      {fault ? <strong className="text-ink">! {fault}</strong> : hint}
    </p>
  );
}
