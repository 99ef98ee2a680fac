import type { Ledger } from "@core";
import { useState } from "react";

import { toGoBack } from "~/sheet/parts-in-words";

import { Actions } from "./actions";
import { at, type StepCardProps } from "./step-props";
import { useMaterials } from "./use-materials";

/** Parts go back on: all of them, or so many for now; what is missing stays on the list of what is off. */
export function RefitStep({ ledger, ...props }: StepCardProps & { ledger: Ledger }) {
  const materials = useMaterials(props);
  const parts = toGoBack(props.one.definition.putsBack ?? [], ledger);
  const [counts, setCounts] = useState<Record<string, number> | null>(null);
  if (!props.open) return null;
  const back = counts === null ? [] : parts.map(({ item }) => ({ item, count: counts[item] ?? 0 }));
  return (
    <>
      {materials.fields}
      {counts !== null && (
        <fieldset className="mb-4">
          <legend className="mb-2 font-semibold">How many are back on?</legend>
          {parts.map(({ item, count }) => (
            <label key={item} className="mb-2 flex items-center gap-3">
              <input
                type="number"
                inputMode="numeric"
                min={0}
                max={count}
                className="field w-24"
                value={counts[item] ?? 0}
                onChange={(event) =>
                  setCounts({ ...counts, [item]: Math.max(0, Math.min(count, Math.trunc(Number(event.target.value)))) })
                }
              />
              <span>
                of {count} {item}
              </span>
            </label>
          ))}
        </fieldset>
      )}
      <Actions>
        {counts === null ? (
          <>
            <button
              type="button"
              className="btn btn-main btn-big"
              onClick={() => materials.take((used) => props.log(...used, { type: "step-done", ...at(props.one) }))}
            >
              All back on
            </button>
            <button type="button" className="btn btn-big" onClick={() => setCounts({})}>
              Some missing
            </button>
          </>
        ) : (
          <>
            <button
              type="button"
              className="btn btn-main btn-big"
              disabled={!back.some((one) => one.count > 0)}
              onClick={() =>
                props.log({ type: "step-done", ...at(props.one), back: back.filter((one) => one.count > 0) })
              }
            >
              Log what is back
            </button>
            <button type="button" className="btn btn-big" onClick={() => setCounts(null)}>
              All are
            </button>
          </>
        )}
      </Actions>
    </>
  );
}
