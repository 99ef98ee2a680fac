import { must } from "@core";
import { useState } from "react";

import { shortDay } from "~/kit/days/day-time";
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

/** The measuring instrument used for a step; the last one of its kind on this device is offered first, else the only one there is. */
export function useInstrument(kind: string | undefined): Instrument {
  const { instruments, today } = useSheetFacts();
  const choices = kind === undefined ? [] : instruments.filter((one) => one.kind === kind);
  const [id, setId] = useState<string | null>(null);
  const [only] = choices.length === 1 ? choices : [];
  const chosenId = id ?? (kind === undefined ? null : remembered(kind)) ?? only?.id ?? "";
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
  const { today } = useSheetFacts();
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
          ! Its calibration was due on {shortDay(must(must(chosen).calibrationDue), today)}. Use another one; if you use
          it all the same, the record says so.
        </p>
      )}
    </div>
  );
}

/** Also that none was chosen; null when nobody has chosen here yet. */
function remembered(kind: string): string | null {
  try {
    return localStorage.getItem(`hound-instrument-${kind}`);
  } catch {
    return null;
  }
}

function remember(kind: string, id: string): void {
  try {
    localStorage.setItem(`hound-instrument-${kind}`, id);
  } catch {
    // Private mode: asked again next time.
  }
}
