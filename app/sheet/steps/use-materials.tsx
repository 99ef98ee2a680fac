import { amountFault, must, type Procedure, type RunEventBody, type SheetStep } from "@core";
import { type ReactNode, useState } from "react";

import { toNumber } from "~/kit/forms/to-number";

import { at } from "./step-props";

interface Used {
  item: string;
  name: string;
  unit: string;
  /** Null: it is no figure. */
  amount: number | null;
  lot: string;
  fault: ReturnType<typeof amountFault>;
}

/** Quantities of what a step uses, ready to be logged with it: what cannot be is refused, what is far from usual is asked about. */
export function useMaterials({ procedure, one }: { procedure: Procedure; one: SheetStep }): {
  fields: ReactNode;
  /** Goes on with what was used; not while a figure is refused, nor before one that was asked about is said to be right. */
  take: (go: (entries: RunEventBody[]) => void) => void;
} {
  const [amounts, setAmounts] = useState<Record<string, string>>({});
  const [lots, setLots] = useState<Record<string, string>>({});
  const [asking, setAsking] = useState<{ go: (entries: RunEventBody[]) => void } | null>(null);
  const used = (one.definition.uses ?? []).map((use): Used => {
    const { name, unit } = must(procedure.materials.find((material) => material.item === use.item));
    const typed = amounts[use.item];
    // An empty field says that nothing was used.
    const amount = typed === undefined ? use.qty : typed.trim() === "" ? 0 : toNumber(typed);
    const fault = amountFault(amount ?? NaN, { usual: use.qty, unit });
    return { item: use.item, name, unit, amount, lot: lots[use.item]?.trim() ?? "", fault };
  });
  const entries = (): RunEventBody[] =>
    used.flatMap(({ item, amount, unit, lot }): RunEventBody[] =>
      amount !== null && amount > 0
        ? [{ type: "consumable-used", ...at(one), item, qty: amount, unit, ...(lot ? { lot } : {}) }]
        : [],
    );
  const refused = used.find((use) => use.fault?.refused);
  const odd = used.filter((use) => use.fault !== null);
  const take = (go: (entries: RunEventBody[]) => void): void => {
    if (refused) document.getElementById(fieldOf(refused.item))?.focus();
    else if (odd.length > 0) setAsking({ go });
    else go(entries());
  };
  const fields =
    used.length === 0 ? null : (
      <fieldset className="mb-5">
        <legend className="mb-1 font-semibold">Used here</legend>
        {used.map(({ item, name, unit, fault }) => (
          <div key={item} className="mb-2">
            <div className="flex flex-wrap items-center gap-2">
              <span className="min-w-40 flex-1">{name}</span>
              <span className="flex items-center gap-2">
                <input
                  id={fieldOf(item)}
                  aria-label={`${name}, ${unit}`}
                  aria-invalid={fault?.refused ? true : undefined}
                  aria-describedby={`${fieldOf(item)}-fault`}
                  className="field figure max-w-24"
                  inputMode="decimal"
                  value={amounts[item] ?? String((one.definition.uses ?? []).find((use) => use.item === item)?.qty)}
                  onChange={(event) => {
                    setAmounts({ ...amounts, [item]: event.target.value });
                    setAsking(null);
                  }}
                />
                <span className="w-8">{unit}</span>
              </span>
              <input
                aria-label={`${name}, lot`}
                placeholder="Lot"
                className="field figure max-w-32"
                value={lots[item] ?? ""}
                onChange={(event) => setLots({ ...lots, [item]: event.target.value })}
                maxLength={60}
              />
            </div>
            <p id={`${fieldOf(item)}-fault`} role="status" className="text-sm font-semibold">
              {fault && `! ${fault.because}`}
            </p>
          </div>
        ))}
        {asking && odd.length > 0 && (
          <button
            type="button"
            className="btn btn-big"
            autoFocus
            onClick={() => {
              setAsking(null);
              asking.go(entries());
            }}
          >
            It is right
          </button>
        )}
      </fieldset>
    );
  return { fields, take };
}

const fieldOf = (item: string): string => `used-${item}`;
