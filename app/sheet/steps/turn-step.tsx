import { must } from "@core";
import { useState } from "react";

import { placesOf } from "~/sheet/item-names";
import { useSheetFacts } from "~/sheet/sheet-facts";
import { StepFigure } from "~/ui/figure";

import { fitted, LotField } from "./new-part";
import { at, type StepCardProps } from "./step-props";

/** The next edge or side while one is left, then a new piece. */
export function TurnStep({ procedure, one, open, log }: StepCardProps<"turn">) {
  const { machine } = useSheetFacts();
  const part = must(procedure.parts.find((candidate) => candidate.item === one.definition.item));
  const uses = part.uses ?? 1;
  const [lot, setLot] = useState("");
  const settled = new Set(one.state?.slots ?? []);
  return (
    <>
      {!one.definition.figure && uses > 1 && <StepFigure figure={{ kind: "edges", count: uses }} />}
      <ul className="mb-4 space-y-3">
        {placesOf(procedure, one.definition).map(({ id: slot, name }) => {
          const known = machine.slots?.[slot];
          const left = known?.item === part.item ? known.usesLeft : null;
          const canTurn = left !== null && left > 1;
          return (
            <li key={slot} className="border-2 border-line p-3">
              <p className="font-semibold">{name}</p>
              <p className="mb-2">
                {settled.has(slot)
                  ? "Settled."
                  : left === null
                    ? `Nothing is known of the piece in it: fit a new one, it has ${uses} uses.`
                    : canTurn
                      ? `Use ${uses - left + 1} of ${uses} is worn; ${left - 1} left.`
                      : `Its last use is worn: a new one goes in.`}
              </p>
              {open && !settled.has(slot) && (
                <div className="flex flex-wrap gap-2">
                  {canTurn && (
                    <button
                      type="button"
                      className="btn btn-main btn-big"
                      onClick={() =>
                        log({ type: "part-turned", ...at(one), item: part.item, slot, usesLeft: left - 1 })
                      }
                    >
                      Turned to use {uses - left + 2} of {uses}
                    </button>
                  )}
                  <button
                    type="button"
                    className={canTurn ? "btn btn-big" : "btn btn-main btn-big"}
                    onClick={() => log(fitted(one, { item: part.item, slot, lot }))}
                  >
                    New one fitted
                  </button>
                </div>
              )}
            </li>
          );
        })}
      </ul>
      {open && <LotField label="Lot or serial of a new one, if it has one" value={lot} onChange={setLot} />}
    </>
  );
}
