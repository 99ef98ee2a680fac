import { useState } from "react";
import type { RunEventBody } from "@core";
import { toNumber } from "~/shared/to-number";
import { LimitRuler } from "../limit-ruler";
import { Actions } from "./actions";
import { at, type StepCardProps } from "./step-props";

export function MeasureStep(props: StepCardProps<"measure">) {
  const { one, open, log, ghosts } = props;
  const { definition, state } = one;
  const points = definition.points ?? [""];
  const [texts, setTexts] = useState<Record<number, string>>({});
  const [leaving, setLeaving] = useState("");
  const values = points.map((_, point) => (texts[point] === undefined ? null : toNumber(texts[point])));
  const latest = new Map((state?.readings ?? []).map((reading) => [reading.point, reading]));
  const complete = values.every((value, point) => value !== null || (latest.has(point) && (texts[point] ?? "") === ""));
  const any = values.some((value) => value !== null);
  const out = state?.answer === "low" || state?.answer === "high" ? state.answer : null;
  const limits = definition.limits;
  return (
    <>
      {points.map((point, i) => {
        const value = values[i] ?? latest.get(i)?.value ?? null;
        const typed = (texts[i] ?? "").trim() !== "" && values[i] === null;
        return (
          <div key={point} className="mb-4">
            <label htmlFor={`point-${i}`} className="mb-1 block font-semibold">
              {point === "" ? "Reading" : point.charAt(0).toUpperCase() + point.slice(1)}
            </label>
            <div className="flex items-center gap-2">
              <input
                id={`point-${i}`}
                className="field figure max-w-44 text-2xl"
                inputMode="decimal"
                autoComplete="off"
                disabled={!open}
                aria-invalid={typed}
                aria-describedby={`point-${i}-says`}
                value={texts[i] ?? (latest.has(i) && !open ? String(latest.get(i)!.value) : "")}
                onChange={(event) => setTexts({ ...texts, [i]: event.target.value })}
              />
              <span className="text-xl">{definition.unit}</span>
            </div>
            <p id={`point-${i}-says`} className="min-h-6 text-sm">
              {typed ? (
                <strong>! This is no figure: digits with a point or a comma.</strong>
              ) : definition.meter !== undefined && (ghosts[definition.meter]?.length ?? 0) > 0 ? (
                <>
                  Last value: <span className="figure">{ghosts[definition.meter]!.at(-1)}</span>
                </>
              ) : null}
            </p>
            {limits && (
              <LimitRuler
                limits={limits}
                target={definition.target}
                unit={definition.unit}
                value={value}
                ghosts={ghosts[definition.reading]?.slice(-3) ?? []}
              />
            )}
          </div>
        );
      })}
      {out && definition.advice?.[out] && (
        <p role="alert" className="mb-4 border-2 border-ink p-3 font-semibold">
          <span aria-hidden="true">! </span>
          {definition.advice[out]}
        </p>
      )}
      {out && open && definition.retest && (
        <details className="mb-4">
          <summary className="inline-block min-h-11 underline decoration-dotted underline-offset-4">It cannot be brought within limits</summary>
          <label htmlFor="leaving" className="mt-1 block font-semibold">
            Why is it left so?
          </label>
          <div className="flex gap-2">
            <input id="leaving" className="field" value={leaving} onChange={(event) => setLeaving(event.target.value)} maxLength={1000} />
            <button
              type="button"
              className="btn"
              aria-disabled={leaving.trim() === ""}
              onClick={() => leaving.trim() !== "" && log({ type: "step-done", ...at(one), reason: leaving.trim() })}
            >
              Leave it
            </button>
          </div>
        </details>
      )}
      {open && (
        <Actions>
          <button
            type="button"
            className="btn btn-main btn-big"
            aria-disabled={!complete || !any}
            onClick={() => {
              if (!complete || !any) return;
              log(
                ...values.flatMap((value, point): RunEventBody[] =>
                  value === null ? [] : [{ type: "reading", ...at(one), value, unit: definition.unit, ...(definition.points ? { point } : {}) }],
                ),
              );
              setTexts({});
            }}
          >
            {out ? "Log the new reading" : points.length > 1 ? "Log the readings" : "Log the reading"}
          </button>
        </Actions>
      )}
    </>
  );
}
