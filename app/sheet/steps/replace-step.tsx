import { must } from "@core";
import { useState } from "react";

import { Actions } from "./actions";
import { fitted, LotField } from "./new-part";
import type { StepCardProps } from "./step-props";

export function ReplaceStep({ procedure, one, open, log }: StepCardProps<"replace">) {
  const part = must(procedure.parts.find((candidate) => candidate.item === one.definition.item));
  const [lot, setLot] = useState("");
  const settled = new Set(one.state?.slots ?? []);
  const missing = one.definition.slots.filter((slot) => !settled.has(slot));
  return (
    <>
      {part.pair && <p className="mb-3 font-semibold">A pair: the step is done only when both are new.</p>}
      <ul className="mb-4 space-y-2">
        {one.definition.slots.map((slot) => (
          <li key={slot} className="flex min-h-12 items-center gap-3 border-2 border-line px-3 py-2">
            <span className="flex-1">{part.slots.find((candidate) => candidate.id === slot)?.name}</span>
            {settled.has(slot) ? (
              <strong>new</strong>
            ) : (
              open && (
                <button type="button" className="btn" onClick={() => log(fitted(one, { item: part.item, slot, lot }))}>
                  New one fitted
                </button>
              )
            )}
          </li>
        ))}
      </ul>
      {open && <LotField label="Lot or serial, if it has one" value={lot} onChange={setLot} />}
      {open && missing.length > 1 && (
        <Actions>
          <button
            type="button"
            className="btn btn-main btn-big"
            onClick={() => log(...missing.map((slot) => fitted(one, { item: part.item, slot, lot })))}
          >
            {missing.length === 2 ? "Both fitted" : `All ${missing.length} fitted`}
          </button>
        </Actions>
      )}
    </>
  );
}
