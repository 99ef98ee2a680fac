import type { RunEventBody, SearchGate, SheetStep } from "@core";
import { useState } from "react";

import { Actions } from "~/sheet/steps/actions";
import { bothDegrees, GateTicks } from "~/sheet/steps/gate-ticks";

import { CardTitle } from "./card-title";

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
  const [ticked, setTicked] = useState<Record<string, boolean>>({});
  const check = way === "in" ? state.in : state.out;
  const reached = way === "in" ? reachedWords(state.in) : null;
  const ticks = [...(check?.checks ?? []), ...(reached === null ? [] : [reached])];
  const isReady = ticks.every((text) => ticked[text]);
  return (
    <section aria-label={state.name}>
      <CardTitle>{way === "in" ? `First: ${state.name}` : `First: end of “${state.name}”`}</CardTitle>
      <p className="mt-1 mb-3 text-ink-soft">For “{forCheck}”.</p>
      {(check?.cautions ?? []).map((text) => (
        <p key={text} className="mb-2 border-2 border-ink p-3 font-semibold">
          ! {text}
        </p>
      ))}
      <GateTicks
        checks={ticks}
        isTicked={(text) => ticked[text] ?? false}
        onTick={(text, is) => setTicked({ ...ticked, [text]: is })}
      />
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
    return `Below ${bothDegrees(belowC)}${waitMinutes === undefined ? "" : `, or ${waitMinutes} min have passed`}`;
  return waitMinutes === undefined ? null : `${waitMinutes} min have passed`;
}
