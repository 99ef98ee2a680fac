import type { RunEventBody } from "@core";

import { at } from "./step-props";

/** A new piece that went into a slot. */
export function fitted(
  one: Parameters<typeof at>[0],
  { item, slot, lot }: { item: string; slot: string; lot: string },
): RunEventBody {
  return { type: "part-fitted", ...at(one), item, slot, qty: 1, ...(lot.trim() ? { lot: lot.trim() } : {}) };
}

/** The lot or serial number that goes with new pieces. */
export function LotField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (lot: string) => void;
}) {
  return (
    <div className="mb-4">
      <label htmlFor="lot" className="mb-1 block font-semibold">
        {label}
      </label>
      <input
        id="lot"
        className="field figure max-w-60"
        value={value}
        onChange={(event) => onChange(event.target.value)}
        maxLength={60}
      />
    </div>
  );
}
