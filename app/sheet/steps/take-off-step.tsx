import type { RunEventBody } from "@core";
import { useState } from "react";

import { PhotoButton } from "~/sheet/photo-button";
import { useSheetFacts } from "~/sheet/sheet-facts";

import { Actions } from "./actions";
import { at, type StepCardProps } from "./step-props";
import { useMaterials } from "./use-materials";

interface Off {
  item: string;
  count: number;
  wayRound: string;
  place: string;
}

/** Parts come off: as the procedure says, or as they really were, so that they go back the same way. */
export function TakeOffStep(props: StepCardProps) {
  const materials = useMaterials(props);
  const { hands } = useSheetFacts();
  const told = (props.one.definition.takesOff ?? []).map(({ item, count, wayRound = "", place = "" }) => ({
    item,
    count,
    wayRound,
    place,
  }));
  const [found, setFound] = useState<Off[] | null>(null);
  if (!props.open) return null;
  const change = (item: string, fields: Partial<Off>): void =>
    setFound((found ?? []).map((one) => (one.item === item ? { ...one, ...fields } : one)));
  return (
    <>
      {materials.fields}
      {found?.map(({ item, count, wayRound, place }) => (
        <fieldset key={item} className="mb-4 grid gap-3 sm:grid-cols-[6rem_1fr_1fr]">
          <legend className="mb-1 text-lg font-semibold">{item}</legend>
          <label className="block">
            <span className="mb-1 block">How many</span>
            <input
              type="number"
              inputMode="numeric"
              min={0}
              max={999}
              className="field figure"
              value={count}
              onChange={(event) =>
                change(item, { count: Math.max(0, Math.min(999, Math.trunc(Number(event.target.value)))) })
              }
            />
          </label>
          <label className="block">
            <span className="mb-1 block">How it was in</span>
            <input
              className="field"
              maxLength={200}
              placeholder="which way round, which mark where"
              value={wayRound}
              onChange={(event) => change(item, { wayRound: event.target.value })}
            />
          </label>
          <label className="block">
            <span className="mb-1 block">Where it is now</span>
            <input
              className="field"
              maxLength={120}
              value={place}
              onChange={(event) => change(item, { place: event.target.value })}
            />
          </label>
        </fieldset>
      ))}
      <div className="mb-4 flex flex-wrap gap-2">
        {hands && (
          <PhotoButton label="Picture of how it sits" sheetId={hands.sheetId} one={props.one} log={props.log} />
        )}
        {found === null && (
          <button type="button" className="btn" onClick={() => setFound(told)}>
            Note count, place or way round
          </button>
        )}
      </div>
      <Actions>
        <button
          type="button"
          className="btn btn-main btn-big"
          onClick={() => materials.take((used) => props.log(...used, { ...at(props.one), ...offAs(found) }))}
        >
          {found === null ? "Off" : "Off, as noted"}
        </button>
        {found !== null && (
          <button type="button" className="btn btn-big" onClick={() => setFound(null)}>
            As it says
          </button>
        )}
      </Actions>
    </>
  );
}

/** What is logged: what came off only where somebody noted it. */
function offAs(found: readonly Off[] | null): Pick<Extract<RunEventBody, { type: "step-done" }>, "type" | "off"> {
  if (found === null) return { type: "step-done" };
  return {
    type: "step-done",
    off: found.map(({ item, count, wayRound, place }) => ({
      item,
      count,
      ...(wayRound.trim() ? { wayRound: wayRound.trim() } : {}),
      ...(place.trim() ? { place: place.trim() } : {}),
    })),
  };
}
