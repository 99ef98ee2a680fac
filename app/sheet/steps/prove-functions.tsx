import { lastResults } from "@core";
import { useState } from "react";

import { shortDay } from "~/kit/days/day-time";
import { useSheetFacts } from "~/sheet/sheet-facts";

import { Actions } from "./actions";
import { at, type StepCardProps } from "./step-props";

/**
 * A proof of several functions, each tried where it is: what is not as expected is a finding, stays open, and is tried again
 * when it is put right.
 */
export function ProveFunctions({ one, open, log }: StepCardProps<"prove">) {
  const { expect, functions = [] } = one.definition;
  const { pastTrials = {}, today } = useSheetFacts();
  const known = one.state ? lastResults(one.state) : new Map<string, never>();
  const [tried, setTried] = useState<Record<string, { ok: boolean; note: string }>>({});
  const failing = functions.filter(({ id }) => tried[id]?.ok === false);
  const told = failing.every(({ id }) => (tried[id]?.note ?? "").trim() !== "");
  const ready = Object.keys(tried).length > 0 && told;
  const logTried = (): void => {
    if (!ready) return;
    const results = functions.flatMap(({ id }) => {
      const result = tried[id];
      if (!result) return [];
      return [{ function: id, ok: result.ok, ...(result.note.trim() ? { note: result.note.trim() } : {}) }];
    });
    log(
      { type: "step-done", ...at(one), answer: "ok", results },
      ...failing.map(({ id, name, place }) => ({
        type: "finding" as const,
        ...at(one),
        text: `${name}${place ? `, ${place}` : ""}: ${(tried[id]?.note ?? "").trim()}`,
        severity: "major" as const,
      })),
    );
  };
  return (
    <>
      <p className="mb-4 border-l-4 border-tan-fill pl-3 text-lg">
        <strong>Expected:</strong> {expect}
      </p>
      <ul className="mb-4">
        {functions.map(({ id, name, place }) => {
          const last = known.get(id);
          const now = tried[id];
          return (
            <li key={id} className="border-t border-line py-2">
              <fieldset className="flex flex-wrap items-center gap-x-4" disabled={!open}>
                <legend className="float-left mr-auto min-w-0 text-lg wrap-anywhere">
                  <span className="font-semibold">{name}</span> {place}
                  {last && (
                    <span className="block text-sm text-ink-soft">
                      {last.ok ? "was as expected" : `! was not: ${last.note ?? ""}`}
                    </span>
                  )}
                  {(pastTrials[id] ?? []).length > 0 && (
                    <span className="block text-sm text-ink-soft">
                      {(pastTrials[id] ?? []).map(({ on, ok, note }, i) => (
                        <span key={`${on} ${i}`} className="block">
                          {shortDay(on, today)} {ok ? "as expected" : `! not: ${note ?? ""}`}
                        </span>
                      ))}
                    </span>
                  )}
                </legend>
                {(
                  [
                    ["As expected", true],
                    ["Not", false],
                  ] as const
                ).map(([label, ok]) => (
                  <label key={label} className="flex min-h-12 items-center gap-2">
                    <input
                      type="radio"
                      name={`${one.step}-${id}`}
                      className="size-6 accent-(--fill)"
                      checked={now?.ok === ok}
                      onChange={() => setTried({ ...tried, [id]: { ok, note: now?.note ?? "" } })}
                    />
                    {label}
                  </label>
                ))}
              </fieldset>
              {now?.ok === false && (
                <label className="mt-1 block">
                  <span className="mb-1 block">What is not as expected?</span>
                  <input
                    className="field"
                    maxLength={400}
                    value={now.note}
                    onChange={(event) => setTried({ ...tried, [id]: { ok: false, note: event.target.value } })}
                  />
                </label>
              )}
            </li>
          );
        })}
      </ul>
      {open && (
        <Actions>
          <button type="button" className="btn btn-main btn-big" aria-disabled={!ready} onClick={logTried}>
            {failing.length > 0
              ? "Log it, with findings"
              : functions.every(({ id }) => tried[id]?.ok === true || known.get(id)?.ok === true)
                ? "All as expected"
                : "Log what was tried"}
          </button>
        </Actions>
      )}
    </>
  );
}
