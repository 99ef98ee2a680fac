import type { Procedure, RunEventBody, SheetStep } from "@core";
import { must } from "@core";
import { type ReactNode, useState } from "react";

import { toNumber } from "~/kit/forms/to-number";

import { at } from "./step-props";

/** Quantities of what a step uses, ready to be logged with it. */
export function useMaterials({ procedure, one }: { procedure: Procedure; one: SheetStep }): {
  fields: ReactNode;
  entries: () => RunEventBody[];
} {
  const uses = (one.definition.uses ?? []).map((use) => ({
    ...use,
    material: must(procedure.materials.find((material) => material.item === use.item)),
  }));
  const [amounts, setAmounts] = useState<Record<string, string>>({});
  const [lots, setLots] = useState<Record<string, string>>({});
  const fields =
    uses.length === 0 ? null : (
      <fieldset className="mb-5">
        <legend className="mb-1 font-semibold">Used here</legend>
        {uses.map(({ item, qty, material }) => (
          <div key={item} className="mb-2 flex flex-wrap items-center gap-2">
            <span className="min-w-40 flex-1">{material.name}</span>
            <span className="flex items-center gap-2">
              <input
                aria-label={`${material.name}, ${material.unit}`}
                className="field figure max-w-24"
                inputMode="decimal"
                value={amounts[item] ?? String(qty)}
                onChange={(event) => setAmounts({ ...amounts, [item]: event.target.value })}
              />
              <span className="w-8">{material.unit}</span>
            </span>
            <input
              aria-label={`${material.name}, lot`}
              placeholder="Lot"
              className="field figure max-w-32"
              value={lots[item] ?? ""}
              onChange={(event) => setLots({ ...lots, [item]: event.target.value })}
              maxLength={60}
            />
          </div>
        ))}
      </fieldset>
    );
  const entries = (): RunEventBody[] =>
    uses.flatMap(({ item, qty, material }): RunEventBody[] => {
      const amount = amounts[item] === undefined ? qty : toNumber(amounts[item]);
      const lot = lots[item]?.trim();
      return amount !== null && amount > 0
        ? [{ type: "consumable-used", ...at(one), item, qty: amount, unit: material.unit, ...(lot ? { lot } : {}) }]
        : [];
    });
  return { fields, entries };
}
