import { must } from "@core";
import { useState } from "react";

import { type SheetFacts, useSheetFacts } from "~/sheet/sheet-facts";

type Known = SheetFacts["instruments"][number];

interface Instrument {
  kind: string | undefined;
  choices: Known[];
  chosen: Known | null;
  expired: boolean;
  choose: (id: string) => void;
  /** Fields for the reading's entry. */
  logged: () => { instrument?: string; calibrationDue?: string };
}

/** The measuring instrument used for a step; the last one of its kind on this device is offered first. */
export function useInstrument(kind: string | undefined): Instrument {
  const { instruments, today } = useSheetFacts();
  const choices = kind === undefined ? [] : instruments.filter((one) => one.kind === kind);
  const [id, setId] = useState<string | null>(null);
  const chosenId = id ?? (kind === undefined ? "" : remembered(kind));
  const chosen = choices.find((one) => one.id === chosenId) ?? null;
  return {
    kind,
    choices,
    chosen,
    expired: chosen?.calibrationDue != null && chosen.calibrationDue < today,
    choose: (next) => {
      setId(next);
      if (kind !== undefined) remember(kind, next);
    },
    logged: () =>
      chosen
        ? { instrument: chosen.id, ...(chosen.calibrationDue ? { calibrationDue: chosen.calibrationDue } : {}) }
        : {},
  };
}

export function InstrumentField({ kind, choices, chosen, expired, choose }: Instrument) {
  if (kind === undefined) return null;
  return (
    <div className="mb-4">
      <label htmlFor="instrument" className="mb-1 block font-semibold">
        Measured with
      </label>
      <select
        id="instrument"
        className="field max-w-md"
        value={chosen?.id ?? ""}
        onChange={(event) => choose(event.target.value)}
      >
        <option value="">no registered {kind.replaceAll("-", " ")}</option>
        {choices.map((one) => (
          <option key={one.id} value={one.id}>
            {one.code}, {one.name}
          </option>
        ))}
      </select>
      {expired && (
        <p role="alert" className="mt-1 font-semibold">
          ! Its calibration was due on {must(chosen).calibrationDue}. Use another one; if you use it all the same, the
          record says so.
        </p>
      )}
    </div>
  );
}

function remembered(kind: string): string {
  try {
    return localStorage.getItem(`hound-instrument-${kind}`) ?? "";
  } catch {
    return "";
  }
}

function remember(kind: string, id: string): void {
  try {
    localStorage.setItem(`hound-instrument-${kind}`, id);
  } catch {
    // Private mode: asked again next time.
  }
}
