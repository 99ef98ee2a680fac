import type { RunEventBody } from "@core";
import { must } from "@core";
import { useState } from "react";

import { Actions } from "./actions";
import { at, type StepCardProps } from "./step-props";

export function ReplaceStep({ procedure, one, open, log }: StepCardProps<"replace">) {
  const part = must(procedure.parts.find((candidate) => candidate.item === one.definition.item));
  const [lot, setLot] = useState("");
  const fitted = new Set(one.state?.slots ?? []);
  const missing = one.definition.slots.filter((slot) => !fitted.has(slot));
  return (
    <>
      {part.pair && <p className="mb-3 font-semibold">A pair: the step is done only when both are new.</p>}
      <ul className="mb-4 space-y-2">
        {one.definition.slots.map((slot) => (
          <li key={slot} className="flex min-h-12 items-center gap-3 border-2 border-line px-3 py-2">
            <span className="flex-1">{part.slots.find((candidate) => candidate.id === slot)?.name}</span>
            {fitted.has(slot) ? (
              <strong>new</strong>
            ) : (
              open && (
                <button
                  type="button"
                  className="btn"
                  onClick={() =>
                    log({
                      type: "part-fitted",
                      ...at(one),
                      item: part.item,
                      slot,
                      qty: 1,
                      ...(lot.trim() ? { lot: lot.trim() } : {}),
                    })
                  }
                >
                  New one fitted
                </button>
              )
            )}
          </li>
        ))}
      </ul>
      {open && (
        <div className="mb-4">
          <label htmlFor="lot" className="mb-1 block font-semibold">
            Lot or serial, if it has one
          </label>
          <input
            id="lot"
            className="field figure max-w-60"
            value={lot}
            onChange={(event) => setLot(event.target.value)}
            maxLength={60}
          />
        </div>
      )}
      {open && missing.length > 1 && (
        <Actions>
          <button
            type="button"
            className="btn btn-main btn-big"
            onClick={() =>
              log(
                ...missing.map((slot): RunEventBody => ({
                  type: "part-fitted",
                  ...at(one),
                  item: part.item,
                  slot,
                  qty: 1,
                  ...(lot.trim() ? { lot: lot.trim() } : {}),
                })),
              )
            }
          >
            {missing.length === 2 ? "Both fitted" : `All ${missing.length} fitted`}
          </button>
        </Actions>
      )}
    </>
  );
}
