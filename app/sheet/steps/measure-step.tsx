import { must, type RunEventBody, summaryOf } from "@core";
import { useState } from "react";

import { figure } from "~/bench/calculator-why";
import { shortDay } from "~/kit/days/day-time";
import { LimitRuler } from "~/sheet/limit-ruler";
import { useSheetFacts } from "~/sheet/sheet-facts";
import { Disclosure } from "~/ui/disclosure";

import { Actions } from "./actions";
import { CalculatorInStep } from "./calculator-in-step";
import { InstrumentField, useInstrument } from "./instrument-field";
import { at, type StepCardProps } from "./step-props";
import { Choices, useQuestion } from "./use-question";

export function MeasureStep(props: StepCardProps<"measure">) {
  const { one, open, log, ghosts } = props;
  const { definition, state } = one;
  const points =
    definition.points ??
    (definition.trials ? Array.from({ length: definition.trials }, (_, i) => `run ${i + 1}`) : [""]);
  const several = points.length > 1;
  const [texts, setTexts] = useState<Record<number, string>>({});
  const [leaving, setLeaving] = useState("");
  const [stage, setStage] = useState<"as-found" | "as-left" | null>(null);
  const instrument = useInstrument(definition.instrument);
  const question = useQuestion(props);
  const { today } = useSheetFacts();
  const typed = points.map((_, point) => question.read(texts[point]));
  const values = typed.map((one) => one.value);
  const latest = new Map((state?.readings ?? []).map((reading) => [reading.point, reading]));
  const complete = values.every((value, point) => value !== null || (latest.has(point) && (texts[point] ?? "") === ""));
  const any = values.some((value) => value !== null);
  const out = state?.answer === "low" || state?.answer === "high" ? state.answer : null;
  const { limits, judge = "each" } = definition;
  const shownValues = points.map((_, i) => values[i] ?? latest.get(i)?.value ?? null);
  const summary =
    judge !== "each" && shownValues.every((value) => value !== null) ? summaryOf(judge, shownValues) : null;
  const past = ghosts[definition.meter ?? definition.reading] ?? [];
  const history = past.map((one) => one.value);
  const last = past.at(-1);
  const impliedStage = definition.stage ?? (latest.size > 0 ? "as-left" : "as-found");

  const log1 = (): void => {
    if (!complete || !any) return;
    const given = values.flatMap((value, point) =>
      value === null ? [] : [{ value, label: points[point] ?? "", field: `point-${point}`, point }],
    );
    question.ask(given, (askedOf) => {
      log(
        ...given.map(({ value, point }): RunEventBody => {
          const asked = askedOf(value);
          return {
            type: "reading",
            ...at(one),
            value,
            unit: definition.unit,
            ...(several ? { point } : {}),
            ...(stage === null || stage === impliedStage ? {} : { stage }),
            ...(asked ? { asked } : {}),
            ...instrument.logged(),
          };
        }),
      );
      setTexts({});
    });
  };

  return (
    <>
      <div className={several && !limits ? "grid gap-x-4 sm:grid-cols-2" : ""}>
        {points.map((point, i) => {
          const { fault = null, choices = null } = typed[i] ?? {};
          return (
            <div key={point} className="mb-3">
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
                  aria-invalid={fault !== null || choices !== null}
                  aria-describedby={`point-${i}-says`}
                  value={texts[i] ?? (latest.has(i) && !open ? String(must(latest.get(i)).value) : "")}
                  onChange={(event) => {
                    setTexts({ ...texts, [i]: event.target.value });
                    question.close();
                  }}
                  onKeyDown={(event) => event.key === "Enter" && log1()}
                />
                <span className="text-xl">{definition.unit}</span>
              </div>
              <p id={`point-${i}-says`} className="mt-1 min-h-6 text-sm">
                {fault !== null ? (
                  <strong>! {fault}</strong>
                ) : choices !== null ? (
                  <Choices choices={choices} onChoice={(text) => setTexts({ ...texts, [i]: text })} />
                ) : i === 0 && last ? (
                  <>
                    Last: <span className="figure">{last.value}</span> {definition.unit} on {shortDay(last.on, today)}
                  </>
                ) : null}
              </p>
              {limits && judge === "each" && (
                <LimitRuler
                  limits={limits}
                  target={definition.target}
                  unit={definition.unit}
                  value={shownValues[i] ?? null}
                  ghosts={history.slice(-3)}
                />
              )}
            </div>
          );
        })}
      </div>
      {limits && judge !== "each" && (
        <div className="mb-3">
          <p className="font-semibold">
            {judge === "mean" ? "Mean" : "Spread, highest less lowest"}:{" "}
            <span className="figure">{summary === null ? "–" : `${figure(summary, 5)} ${definition.unit}`}</span>
          </p>
          <LimitRuler
            limits={limits}
            target={definition.target}
            unit={definition.unit}
            value={summary === null ? null : Number(summary.toPrecision(5))}
            ghosts={[]}
          />
        </div>
      )}
      {definition.calculator && (
        <Disclosure
          title={definition.calculator.kind === "control-chart" ? "Control chart of the last services" : "Work it out"}
          look="strong"
          open={definition.calculator.kind !== "control-chart"}
          className="mb-4 border-2 border-line p-3"
        >
          <CalculatorInStep
            calculator={definition.calculator}
            unit={definition.unit}
            value={values[0] ?? (open ? null : (latest.get(0)?.value ?? null))}
            history={history.slice(-30)}
            onValue={(value) => {
              const free = points.findIndex((_, i) => (texts[i] ?? "").trim() === "");
              if (free >= 0) setTexts({ ...texts, [free]: String(value) });
            }}
            onValues={(all) =>
              setTexts(Object.fromEntries(all.slice(0, points.length).map((value, i) => [i, String(value)])))
            }
          />
        </Disclosure>
      )}
      {open && <InstrumentField {...instrument} />}
      {out && definition.advice?.[out] && (
        <p role="alert" className="mb-4 border-2 border-ink p-3 font-semibold">
          <span aria-hidden="true">! </span>
          {definition.advice[out]}
        </p>
      )}
      {open && limits && (
        <fieldset className="mb-4 flex flex-wrap items-center gap-x-5">
          <legend className="sr-only">The reading is</legend>
          {(["as-found", "as-left"] as const).map((value) => (
            <label key={value} className="flex min-h-12 items-center gap-2">
              <input
                type="radio"
                name="stage"
                className="size-5 accent-(--fill)"
                checked={(stage ?? impliedStage) === value}
                onChange={() => setStage(value)}
              />
              {value === "as-found" ? "As found" : "As left"}
            </label>
          ))}
        </fieldset>
      )}
      {out && open && definition.retest && (
        <Disclosure title="It cannot be brought within limits" className="mb-4">
          <label htmlFor="leaving" className="mt-1 block font-semibold">
            Why is it left so?
          </label>
          <div className="flex gap-2">
            <input
              id="leaving"
              className="field"
              value={leaving}
              onChange={(event) => setLeaving(event.target.value)}
              maxLength={1000}
            />
            <button
              type="button"
              className="btn"
              aria-disabled={leaving.trim() === ""}
              onClick={() => leaving.trim() !== "" && log({ type: "step-done", ...at(one), reason: leaving.trim() })}
            >
              Leave it
            </button>
          </div>
        </Disclosure>
      )}
      {question.panel}
      {open && !question.asking && (
        <Actions>
          <button type="button" className="btn btn-main btn-big" aria-disabled={!complete || !any} onClick={log1}>
            {out ? "Log the new reading" : several ? "Log the readings" : "Log the reading"}
          </button>
        </Actions>
      )}
    </>
  );
}
