import type { RunEventBody, SearchGate, SheetStep } from "@core";
import { useState } from "react";

import { Actions } from "~/sheet/steps/actions";

/** What has to be true before a check: into a state of the machine, or out of it. */
export function GateCard({
  gate: { state, way },
  forCheck,
  one,
  log,
}: {
  gate: SearchGate;
  forCheck: string;
  one: SheetStep;
  log: (...bodies: RunEventBody[]) => void;
}) {
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const check = way === "in" ? state.in : state.out;
  const reached = way === "in" ? reachedWords(state.in) : null;
  const ticks = [...(check?.checks ?? []), ...(reached === null ? [] : [reached])];
  const isReady = ticks.every((text) => ticked.has(text));
  return (
    <section aria-label={state.name}>
      <h3 className="text-xl font-semibold sm:text-2xl">
        {way === "in" ? `First: ${state.name}` : `First: end of “${state.name}”`}
      </h3>
      <p className="mt-1 mb-3 text-ink-soft">For “{forCheck}”.</p>
      {(check?.cautions ?? []).map((text) => (
        <p key={text} className="mb-2 border-2 border-ink p-3 font-semibold">
          ! {text}
        </p>
      ))}
      <ul className="mb-5 grid gap-2 sm:grid-cols-2">
        {ticks.map((text) => (
          <li key={text}>
            <label className="flex min-h-12 items-center gap-3 border-2 border-line px-3 py-2 has-checked:border-ink">
              <input
                type="checkbox"
                className="size-6 shrink-0 accent-(--fill)"
                checked={ticked.has(text)}
                onChange={(event) => {
                  const now = new Set(ticked);
                  if (event.target.checked) now.add(text);
                  else now.delete(text);
                  setTicked(now);
                }}
              />
              <span>{text}</span>
            </label>
          </li>
        ))}
      </ul>
      <Actions>
        <button
          type="button"
          className="btn btn-main btn-big"
          aria-disabled={!isReady}
          onClick={() =>
            isReady && log({ type: "gate-passed", step: one.step, round: one.round, state: state.id, way })
          }
        >
          {isReady ? "All safe: go on" : "Tick each first"}
        </button>
      </Actions>
    </section>
  );
}

/** When a state is reached that takes its time. */
function reachedWords({ waitMinutes, belowC }: SearchGate["state"]["in"]): string | null {
  if (belowC !== undefined)
    return `Below ${belowC} °C (${Math.round((belowC * 9) / 5 + 32)} °F)${waitMinutes === undefined ? "" : `, or ${waitMinutes} min have passed`}`;
  return waitMinutes === undefined ? null : `${waitMinutes} min have passed`;
}
