import type { Lock } from "@core";
import { useState } from "react";

import { alarm } from "~/sheet/alarm/alarm";
import { AlarmNotice } from "~/sheet/alarm/alarm-notice";
import { clock } from "~/sheet/timers";

import { Actions } from "./actions";
import { bothDegrees, GateTicks } from "./gate-ticks";
import { LockNotice } from "./lock-notice";
import { at, type StepCardProps } from "./step-props";
import { Choices, useQuestion } from "./use-question";

export function SafetyStep({ lock, ...props }: StepCardProps<"safety"> & { lock: Lock | null }) {
  const { one, open, log, elapsedMinutes, meanwhile } = props;
  const { checks, coolDown } = one.definition;
  const [ticked, setTicked] = useState<Record<string, boolean>>({});
  const [degrees, setDegrees] = useState("");
  const [fahrenheit, setFahrenheit] = useState(false);
  const reading = one.state?.readings.findLast((one) => !one.impossible)?.value;
  const running = one.state?.timer != null && one.state.timer.stoppedAt === null;
  const cool =
    coolDown === undefined ||
    (coolDown.belowC !== undefined && reading !== undefined && reading < coolDown.belowC) ||
    (coolDown.minutes !== undefined && running && elapsedMinutes !== null && elapsedMinutes >= coolDown.minutes);
  // Draining and venting wait as well, and nothing of them is cool.
  const cools = coolDown?.belowC !== undefined;
  const all = cool && lock === null && checks.every((check) => ticked[check]);
  const question = useQuestion(props);
  const celsius = (typed: number): number => (fahrenheit ? Math.round(((typed - 32) * 50) / 9) / 10 : typed);
  const { value, fault, choices } = question.read(degrees, celsius);
  const logTemperature = (): void => {
    if (value === null) return;
    log({ type: "reading", ...at(one), value, unit: "°C" });
    setDegrees("");
  };
  return (
    <>
      {open && lock && <LockNotice lock={lock} log={log} />}
      {coolDown && (
        <section className="mb-5 border-2 border-ink p-3" aria-label={cools ? "Cool-down" : "Wait"}>
          <p className="text-lg">
            Opens{" "}
            {[
              coolDown.belowC === undefined ? null : `when the surface is below ${bothDegrees(coolDown.belowC)}`,
              coolDown.minutes === undefined ? null : `after ${coolDown.minutes} min`,
            ]
              .filter((part) => part !== null)
              .join(", or ")}
            .
          </p>
          <div className="flex flex-wrap items-end gap-x-8">
            {coolDown.belowC !== undefined && open && (
              <div className="mt-3 flex flex-wrap items-end gap-3">
                <div>
                  <label htmlFor="surface" className="mb-1 block font-semibold">
                    Surface temperature
                  </label>
                  <span className="flex items-center gap-2">
                    <input
                      id="surface"
                      className="field figure max-w-32 scroll-mb-32 text-2xl"
                      inputMode="decimal"
                      autoComplete="off"
                      aria-invalid={fault !== null || choices !== null}
                      aria-describedby="surface-says"
                      value={degrees}
                      onChange={(event) => setDegrees(event.target.value)}
                    />
                    {fahrenheit ? "°F" : "°C"}
                  </span>
                </div>
                <label className="flex min-h-12 items-center gap-2">
                  <input
                    type="checkbox"
                    className="size-6 accent-(--fill)"
                    checked={fahrenheit}
                    onChange={() => setFahrenheit(!fahrenheit)}
                  />
                  in °F
                </label>
                <button type="button" className="btn btn-big" aria-disabled={value === null} onClick={logTemperature}>
                  Log it
                </button>
              </div>
            )}
            {coolDown.minutes !== undefined && open && (
              <div className="mt-3 flex items-center gap-4">
                {running ? (
                  <p>
                    <span className="figure text-4xl font-bold">
                      {elapsedMinutes === null ? "–:––" : clock(elapsedMinutes)}
                    </span>{" "}
                    of {coolDown.minutes} min
                  </p>
                ) : (
                  <button
                    type="button"
                    className="btn btn-big"
                    onClick={() => {
                      alarm.askOnce();
                      log({ type: "timer-started", ...at(one) });
                    }}
                  >
                    Start the clock
                  </button>
                )}
              </div>
            )}
          </div>
          {coolDown.minutes !== undefined && open && !cool && (
            <div className="mt-3 text-sm">
              <AlarmNotice />
            </div>
          )}
          <p id="surface-says" className="mt-1.5 text-sm">
            {fault !== null && <strong>! {fault}</strong>}
            <Choices choices={choices} onChoice={setDegrees} />
          </p>
          {reading !== undefined && (
            <p className="mt-2 font-semibold">
              {cool ? "" : "! "}
              Last: <span className="figure">{reading} °C</span>
              {cool ? ", cool enough" : ", still too hot"}
            </p>
          )}
        </section>
      )}
      <GateTicks
        checks={checks}
        isTicked={(check) => one.settled || (ticked[check] ?? false)}
        disabled={!open}
        onTick={(check, is) => setTicked({ ...ticked, [check]: is })}
      />
      {open && (
        <Actions>
          {!cool && meanwhile}
          <button
            type="button"
            className={!cool && meanwhile ? "btn btn-big" : "btn btn-main btn-big"}
            aria-disabled={!all}
            onClick={() => all && log({ type: "safety-confirmed", ...at(one) })}
          >
            {all
              ? "All safe: go on"
              : lock
                ? "Not your lock"
                : cool
                  ? "Tick each first"
                  : cools
                    ? "Not cool yet"
                    : "Not yet"}
          </button>
        </Actions>
      )}
    </>
  );
}
