import { clock } from "~/sheet/timers";

import { Actions } from "./actions";
import { at, type StepCardProps } from "./step-props";
import { useMaterials } from "./use-materials";

export function WaitStep(props: StepCardProps<"wait">) {
  const { one, open, log, elapsedMinutes, meanwhile } = props;
  const { definition, state } = one;
  const materials = useMaterials(props);
  const running = state?.status === "running";
  const early = elapsedMinutes !== null && elapsedMinutes < definition.minMinutes;
  const verdict = state?.timer?.verdict;
  return (
    <>
      <p className="mb-4 text-lg">
        At least <strong className="figure">{definition.minMinutes} min</strong>
        {definition.maxMinutes !== undefined && (
          <>
            , at most <strong className="figure">{definition.maxMinutes} min</strong>
          </>
        )}
      </p>
      {running && elapsedMinutes !== null && (
        <p className="mb-4">
          <span className="figure text-6xl font-bold">{clock(elapsedMinutes)}</span>
        </p>
      )}
      {verdict === "short" && (
        <p role="alert" className="mb-4 border-2 border-ink p-3 font-semibold">
          ! {definition.ifShort ?? "Cut short."} Undo starts the clock again where it was.
        </p>
      )}
      {verdict === "long" && (
        <p role="alert" className="mb-4 border-2 border-ink p-3 font-semibold">
          ! {definition.ifLong ?? "Over the maximum."}
        </p>
      )}
      {open && !running && materials.fields}
      {(open || running) && (
        <Actions>
          {running ? (
            <>
              {early && meanwhile}
              <button
                type="button"
                className={early && meanwhile ? "btn btn-big" : "btn btn-main btn-big"}
                onClick={() => log({ type: "timer-stopped", ...at(one) })}
              >
                {early ? "Stop early" : "Stop the clock"}
              </button>
            </>
          ) : (
            <button
              type="button"
              className="btn btn-main btn-big"
              onClick={() => log(...materials.entries(), { type: "timer-started", ...at(one) })}
            >
              Start the clock
            </button>
          )}
        </Actions>
      )}
    </>
  );
}
