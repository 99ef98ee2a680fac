import { alarm } from "~/sheet/alarm/alarm";
import { AlarmNotice } from "~/sheet/alarm/alarm-notice";
import { clock } from "~/sheet/timers";

import { Actions } from "./actions";
import { at, type StepCardProps } from "./step-props";
import { useMaterials } from "./use-materials";
import { waitVerdict } from "./wants-reading";

export function WaitStep(props: StepCardProps<"wait">) {
  const { one, open, log, elapsedMinutes, meanwhile, leave } = props;
  const { definition, state } = one;
  const materials = useMaterials(props);
  const running = state?.status === "running";
  const early = elapsedMinutes !== null && elapsedMinutes < definition.minMinutes;
  const verdict = state?.timer && one.settled ? waitVerdict(definition, state.timer) : null;
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
      {running && <RunsNow minutes={elapsedMinutes} maxMinutes={definition.maxMinutes} />}
      {verdict && (
        <div role="alert" className="mb-4 border-2 border-ink p-3">
          <p className="text-lg font-semibold">! {verdict.says}</p>
          <p className="mt-1">{verdict.then}</p>
        </div>
      )}
      {open && !running && materials.fields}
      {(open || running) && <AlarmNotice />}
      {(open || running || (verdict && leave)) && (
        <Actions>
          {verdict ? (
            <AfterVerdict {...props} />
          ) : running ? (
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
              onClick={() => {
                alarm.askOnce();
                materials.take((used) => log(...used, { type: "timer-started", ...at(one) }));
              }}
            >
              Start the clock
            </button>
          )}
        </Actions>
      )}
    </>
  );
}

function RunsNow({ minutes, maxMinutes = Infinity }: { minutes: number | null; maxMinutes: number | undefined }) {
  if (minutes === null) return null;
  return (
    <p className="mb-4">
      <span className="figure text-6xl font-bold">{clock(minutes)}</span>
      {minutes > maxMinutes && (
        <strong className="mt-1 block">
          ! <span className="figure">{clock(minutes - maxMinutes)}</span> over the maximum: take it out now.
        </strong>
      )}
    </p>
  );
}

/**
 * Cut short by mistake, it goes on as if it had not been stopped; what was taken out stands anew; else the work goes on, and
 * the record says what was missed.
 */
function AfterVerdict({ one, log, leave }: StepCardProps<"wait">) {
  const { state } = one;
  const stop = state?.timer?.verdict === "short" ? state.lastEventId : null;
  return (
    <>
      {stop !== null && (
        <button type="button" className="btn btn-main btn-big" onClick={() => log({ type: "undone", ref: stop })}>
          It stayed in: go on
        </button>
      )}
      {stop !== null && (
        <button type="button" className="btn btn-big" onClick={() => log({ type: "timer-started", ...at(one) })}>
          It was out: start anew
        </button>
      )}
      <button type="button" className={stop === null ? "btn btn-main btn-big" : "btn btn-big"} onClick={leave}>
        {stop === null ? "Looked at: next step" : "Leave it so: next step"}
      </button>
    </>
  );
}
