import type { FieldMetadata } from "@conform-to/react";
import { must } from "@core";
import { useState } from "react";

import type { SignForm } from "~/sheet/sheet-schemas";
import { AreaField, TextField } from "~/ui/form";

import { SignaturePad } from "./signature-pad";
import { HEIGHT, WIDTH } from "./signature-path";

type Fields = { [Name in keyof SignForm]-?: FieldMetadata<SignForm[Name]> };

const WAYS = [
  ["drawn", "Signs here"],
  ["typed", "Name typed"],
  ["not-present", "Nobody present"],
] as const;

/** How the customer signs: on the whole screen, by a typed name, or not at all and why. */
export function CustomerPart({
  fields,
  known,
  summary,
  onSigned,
}: {
  fields: Fields;
  /** Whom the firm knows at the site. */
  known: readonly string[];
  summary: readonly string[];
  onSigned: () => void;
}) {
  const [method, setMethod] = useState<string>(fields.customer.initialValue ?? "drawn");
  const [signature, setSignature] = useState({ name: "", drawing: "" });
  const faults = [...(fields.customerName.errors ?? []), ...(fields.drawing.errors ?? [])];
  return (
    <fieldset className="panel p-4">
      <legend className="float-left mb-2 w-full text-lg font-bold">The customer</legend>
      <div className="clear-both mb-3 flex flex-wrap gap-x-6">
        {WAYS.map(([value, label]) => (
          <label key={value} className="flex min-h-12 items-center gap-2">
            <input
              type="radio"
              name={fields.customer.name}
              value={value}
              className="size-5 accent-(--fill)"
              checked={method === value}
              onChange={() => setMethod(must(value))}
            />
            {label}
          </label>
        ))}
      </div>
      {method === "not-present" && <AreaField field={fields.absentReason} label="Why does nobody sign?" rows={2} />}
      {method === "typed" && <TextField field={fields.customerName} label="Customer's name" autoComplete="off" />}
      {method === "drawn" && (
        <>
          {signature.drawing !== "" && (
            <figure className="mb-3">
              <Drawing path={signature.drawing} name={signature.name} />
              <figcaption className="wrap-anywhere">{signature.name}</figcaption>
            </figure>
          )}
          <SignaturePad
            summary={summary}
            name={signature.name}
            names={known}
            onDone={(name, drawing) => setSignature({ name, drawing })}
            onClosed={onSigned}
          />
          <input type="hidden" name={fields.customerName.name} value={signature.name} />
          <input type="hidden" name={fields.drawing.name} value={signature.drawing} />
          <p
            id={fields.drawing.errorId}
            role={faults.length > 0 ? "alert" : undefined}
            className="min-h-6 text-sm font-semibold"
          >
            {faults.length > 0 && `! ${faults.join(" ")}`}
          </p>
        </>
      )}
    </fieldset>
  );
}

/** A signature as it was drawn. */
export function Drawing({ path, name }: { path: string; name: string }) {
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="mb-1 w-full max-w-72 border-b border-ink"
      role="img"
      aria-label={`Signature of ${name}`}
    >
      <path d={path} fill="none" stroke="currentColor" strokeWidth="3" strokeLinecap="round" strokeLinejoin="round" />
    </svg>
  );
}
