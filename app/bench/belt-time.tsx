import { beltTime } from "@core";
import { useEffect, useRef, useState } from "react";

import { toNumber } from "~/kit/forms/to-number";

import { figure } from "./calculator-why";
import { attempt, FigureField, Result } from "./fields";

/** How long one place of the belt takes through the oven, against the dial. Inside a step the runs become its readings. */
export function BeltTime({
  setSeconds,
  tolerancePercent,
  onRun,
}: {
  setSeconds?: number;
  tolerancePercent?: number;
  onRun?: (seconds: number) => void;
}) {
  const [dial, setDial] = useState(String(setSeconds ?? 300));
  const [runs, setRuns] = useState<number[]>([]);
  const { seconds, running, press } = useStopwatch((measured) => {
    setRuns((known) => [...known, measured]);
    onRun?.(measured);
  });
  const set = toNumber(dial);
  const made =
    set !== null && runs.length > 0
      ? attempt(() =>
          beltTime({
            setSeconds: set,
            runsSeconds: runs,
            ...(tolerancePercent === undefined ? {} : { tolerancePercent }),
          }),
        )
      : null;
  return (
    <>
      <div className="flex flex-wrap items-end gap-4">
        <FigureField label="Dial" unit="s" value={dial} onChange={setDial} disabled={setSeconds !== undefined} />
        <p className="figure text-5xl font-bold" role="timer" aria-label="Stopwatch">
          {seconds.toFixed(1)}
        </p>
        <button type="button" className="btn btn-main btn-big" onClick={press}>
          {running ? "The rim comes out" : "The rim goes in"}
        </button>
      </div>
      {runs.length > 0 && (
        <p className="mt-2">
          Runs: <span className="figure">{runs.map((run) => run.toFixed(1)).join(" · ")}</span> s{" "}
          <button type="button" className="min-h-11 underline underline-offset-4" onClick={() => setRuns([])}>
            Start again
          </button>
        </p>
      )}
      {made && (
        <Result
          {...(made.problem ? { problem: made.problem } : {})}
          {...(made.value
            ? {
                says: made.value.advice,
                because: [
                  `Mean of ${runs.length} ${runs.length === 1 ? "run" : "runs"}: ${figure(made.value.meanSeconds, 4)} s.`,
                  `(${figure(made.value.meanSeconds, 4)} − ${dial}) ÷ ${dial} × 100 = ${figure(made.value.errorPercent)} %; typical tolerance ${tolerancePercent ?? 5} %.`,
                ],
              }
            : {})}
          caution="The belt is hot and draws in: time it by eye, from outside."
        />
      )}
    </>
  );
}

function useStopwatch(onStop: (seconds: number) => void): { seconds: number; running: boolean; press: () => void } {
  const [startedAt, setStartedAt] = useState<number | null>(null);
  const [seconds, setSeconds] = useState(0);
  const stop = useRef(onStop);
  useEffect(() => {
    stop.current = onStop;
  });
  useEffect(() => {
    if (startedAt === null) return;
    const timer = setInterval(() => setSeconds((performance.now() - startedAt) / 1000), 100);
    return () => clearInterval(timer);
  }, [startedAt]);
  const press = (): void => {
    if (startedAt === null) {
      setSeconds(0);
      setStartedAt(performance.now());
      return;
    }
    const measured = Math.round((performance.now() - startedAt) / 100) / 10;
    setSeconds(measured);
    setStartedAt(null);
    stop.current(measured);
  };
  return { seconds, running: startedAt !== null, press };
}
