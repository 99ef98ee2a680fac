import { must } from "@core";
import { useState } from "react";

import { Actions } from "./actions";
import { fitted, LotField } from "./new-part";
import { at, type StepCardProps } from "./step-props";

export function ReplaceStep({ procedure, one, open, log }: StepCardProps<"replace">) {
  const part = must(procedure.parts.find((candidate) => candidate.item === one.definition.item));
  const [lot, setLot] = useState("");
  const settled = new Set(one.state?.slots ?? []);
  const missing = one.definition.slots.filter((slot) => !settled.has(slot));
  const some = one.definition.some === true;
  const nameOf = (slot: string) => part.slots.find((candidate) => candidate.id === slot)?.name;
  const renew = (...slots: string[]) => log(...slots.map((slot) => fitted(one, { item: part.item, slot, lot })));
  return (
    <>
      {part.pair && (
        <p className="mb-3 font-semibold">
          {part.slots.length > 2
            ? "A set: the step is done only when all are new."
            : "A pair: the step is done only when both are new."}
        </p>
      )}
      {/* What is tapped gets the lot that stands there: it comes before a long list of places. */}
      {open && some && <LotField label="Lot or serial, if it has one" value={lot} onChange={setLot} />}
      {some && <p className="mb-3 font-semibold">Tap each that is renewed.</p>}
      {some ? (
        <ul className="mb-4 grid grid-cols-2 gap-2 sm:grid-cols-3">
          {one.definition.slots.map((slot) => (
            <li key={slot}>
              {open && !settled.has(slot) ? (
                <button type="button" className="btn h-full w-full" onClick={() => renew(slot)}>
                  {nameOf(slot)}
                </button>
              ) : (
                <span className="flex h-full min-h-11 items-center justify-between gap-2 border-2 border-line px-3">
                  {nameOf(slot)}
                  {settled.has(slot) && <strong>new</strong>}
                </span>
              )}
            </li>
          ))}
        </ul>
      ) : (
        <ul className="mb-4 space-y-2">
          {one.definition.slots.map((slot) => (
            <li key={slot} className="flex min-h-12 items-center gap-3 border-2 border-line px-3 py-2">
              <span className="flex-1">{nameOf(slot)}</span>
              {settled.has(slot) ? (
                <strong>new</strong>
              ) : (
                open && (
                  <button type="button" className="btn" onClick={() => renew(slot)}>
                    New one fitted
                  </button>
                )
              )}
            </li>
          ))}
        </ul>
      )}
      {open && !some && <LotField label="Lot or serial, if it has one" value={lot} onChange={setLot} />}
      {open && some && (
        <Actions>
          <button
            type="button"
            className="btn btn-main btn-big"
            disabled={settled.size === 0}
            onClick={() => log({ type: "step-done", ...at(one) })}
          >
            {settled.size === 0
              ? "None renewed yet"
              : settled.size === 1
                ? "That one is new"
                : `Those ${settled.size} are new`}
          </button>
        </Actions>
      )}
      {open && !some && missing.length > 1 && (
        <Actions>
          <button type="button" className="btn btn-main btn-big" onClick={() => renew(...missing)}>
            {missing.length === 2 ? "Both fitted" : `All ${missing.length} fitted`}
          </button>
        </Actions>
      )}
    </>
  );
}
