import { must } from "@core";
import { useState } from "react";

import { placesOf } from "~/sheet/item-names";

import { Actions } from "./actions";
import { fitted, LotField } from "./new-part";
import { at, type StepCardProps } from "./step-props";

export function ReplaceStep(props: StepCardProps<"replace">) {
  return props.one.definition.some ? <RenewSome {...props} /> : <RenewAll {...props} />;
}

/** Each place gets a new piece. */
function RenewAll({ procedure, one, open, log }: StepCardProps<"replace">) {
  const { item } = one.definition;
  const { pair } = must(procedure.parts.find((candidate) => candidate.item === item));
  const [lot, setLot] = useState("");
  const places = placesOf(procedure, one.definition);
  const settled = new Set(one.state?.slots ?? []);
  const missing = places.filter(({ id }) => !settled.has(id));
  return (
    <>
      {pair && (
        <p className="mb-3 font-semibold">
          {places.length > 2
            ? "A set: the step is done only when all are new."
            : "A pair: the step is done only when both are new."}
        </p>
      )}
      <ul className="mb-4 space-y-2">
        {places.map(({ id, name }) => (
          <li key={id} className="flex min-h-12 items-center gap-3 border-2 border-line px-3 py-2">
            <span className="flex-1">{name}</span>
            {settled.has(id) ? (
              <strong>new</strong>
            ) : (
              open && (
                <button type="button" className="btn" onClick={() => log(fitted(one, { item, slot: id, lot }))}>
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
            onClick={() => log(...missing.map(({ id }) => fitted(one, { item, slot: id, lot })))}
          >
            {missing.length === 2 ? "Both fitted" : `All ${missing.length} fitted`}
          </button>
        </Actions>
      )}
    </>
  );
}

/** Those that were found worn get a new piece, and somebody says that these were all. */
function RenewSome({ procedure, one, open, log }: StepCardProps<"replace">) {
  const { item } = one.definition;
  const [lot, setLot] = useState("");
  const settled = new Set(one.state?.slots ?? []);
  return (
    <>
      {/* What is tapped gets the lot that stands there: it comes before a long list of places. */}
      {open && <LotField label="Lot or serial, if it has one" value={lot} onChange={setLot} />}
      <p className="mb-3 font-semibold">Tap each that is renewed.</p>
      <ul className="mb-4 grid grid-cols-2 gap-2 sm:grid-cols-3">
        {placesOf(procedure, one.definition).map(({ id, name }) => (
          <li key={id}>
            {open && !settled.has(id) ? (
              <button
                type="button"
                className="btn h-full w-full"
                onClick={() => log(fitted(one, { item, slot: id, lot }))}
              >
                {name}
              </button>
            ) : (
              <span className="flex h-full min-h-11 items-center justify-between gap-2 border-2 border-line px-3">
                {name}
                {settled.has(id) && <strong>new</strong>}
              </span>
            )}
          </li>
        ))}
      </ul>
      {open && (
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
    </>
  );
}
