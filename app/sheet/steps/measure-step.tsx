import { must, possibleOf, type RunEventBody, summaryOf, trialScatter } from "@core";
import { useEffect, useState } from "react";

import { figure } from "~/bench/calculator-why";
import { capital } from "~/kit/capital";
import { shortDay } from "~/kit/days/day-time";
import { LimitRuler } from "~/sheet/limit-ruler";
import { useSheetFacts } from "~/sheet/sheet-facts";
import { Disclosure } from "~/ui/disclosure";

import { Actions } from "./actions";
import { CalculatorInStep, WorkedReading } from "./calculator-in-step";
import { InstrumentField, useInstrument } from "./instrument-field";
import { LeftSo, OutOfLimits } from "./out-of-limits";
import { at, type StepCardProps } from "./step-props";
import { Choices, useQuestion } from "./use-question";
import { wantsReading } from "./wants-reading";
import { WearNotice } from "./wear-notice";

const otherSign = (text: string): string => (/^\s*[-−]/.test(text) ? text.replace(/^\s*[-−]/, "") : `-${text}`);

export function MeasureStep(props: StepCardProps<"measure">) {
  const { one, open, log, ghosts, leave, used } = props;
  const { definition, state } = one;
  const points =
    definition.points ??
    (definition.trials ? Array.from({ length: definition.trials }, (_, i) => `run ${i + 1}`) : [""]);
  const several = points.length > 1;
  const [texts, setTexts] = useState<Record<number, string>>({});
  const [scatter, setScatter] = useState<ReturnType<typeof trialScatter>>(null);
  const [again, setAgain] = useState(false);
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
  // It is settled and out of its limits: the page stays with it until it is measured again, or left so.
  const judging = leave !== undefined && !open && !again && wantsReading(one, props.procedure.steps);
  const takes = open || again;
  useEffect(() => {
    if (again) document.getElementById("point-0")?.focus();
  }, [again]);
  const shownValues = points.map((_, i) => values[i] ?? latest.get(i)?.value ?? null);
  const summary =
    judge !== "each" && shownValues.every((value) => value !== null) ? summaryOf(judge, shownValues) : null;
  const past = ghosts[definition.meter ?? definition.reading] ?? [];
  const history = past.map((one) => one.value);
  const last = past.at(-1);
  // The figures' keyboard of a phone has no minus.
  const lowest = definition.meter === undefined ? (definition.possible?.min ?? possibleOf(definition.unit)[0]) : 0;
  const mayBeBelowZero = lowest === null || lowest < 0;
  const impliedStage = definition.stage ?? (latest.size > 0 ? "as-left" : "as-found");

  const log1 = (): void => {
    if (!complete || !any) return;
    const all = shownValues.filter((value) => value !== null);
    const apart = trialScatter(definition, all);
    setScatter(apart);
    if (!apart) logAll(false);
  };

  const logAll = (sure: boolean): void => {
    const given = values.flatMap((value, point) =>
      value === null ? [] : [{ value, label: capital(points[point] ?? ""), field: `point-${point}`, point }],
    );
    question.ask(given, (askedOf) => {
      log(
        ...given.map(({ value, point }): RunEventBody => {
          const asked = askedOf(value) ?? (sure ? { answer: "right" as const } : null);
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
      {!takes && <WearNotice one={one} procedure={props.procedure} log={log} leave={leave} />}
      <div className={several ? "grid grid-cols-2 gap-x-4 sm:grid-cols-3" : ""}>
        {points.map((point, i) => {
          const { fault = null, choices = null } = typed[i] ?? {};
          return (
            <div key={point} className="mb-3">
              <label htmlFor={`point-${i}`} className="mb-1 block font-semibold">
                {point === "" ? "Reading" : capital(point)}
              </label>
              <div className="flex items-center gap-2">
                <input
                  id={`point-${i}`}
                  className="field figure max-w-44 text-2xl"
                  inputMode="decimal"
                  autoComplete="off"
                  disabled={!takes}
                  aria-invalid={fault !== null || choices !== null}
                  aria-describedby={`point-${i}-says`}
                  value={texts[i] ?? (latest.has(i) && !takes ? String(must(latest.get(i)).value) : "")}
                  onChange={(event) => {
                    setTexts({ ...texts, [i]: event.target.value });
                    question.close();
                    setScatter(null);
                  }}
                  enterKeyHint={i < points.length - 1 ? "next" : "done"}
                  onKeyDown={(event) => {
                    if (event.key !== "Enter") return;
                    // To the next point that is still empty; after the last one it is logged.
                    const next = points.findIndex((_, at) => at > i && (texts[at] ?? "").trim() === "");
                    if (next >= 0 && !complete) document.getElementById(`point-${next}`)?.focus();
                    else log1();
                  }}
                />
                <span className="text-xl">{definition.unit}</span>
                {takes && mayBeBelowZero && (
                  <button
                    type="button"
                    className="btn figure"
                    aria-label={`Minus${point === "" ? "" : `, ${point}`}`}
                    onClick={() => {
                      setTexts({ ...texts, [i]: otherSign(texts[i] ?? "") });
                      document.getElementById(`point-${i}`)?.focus();
                    }}
                  >
                    ±
                  </button>
                )}
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
            </div>
          );
        })}
      </div>
      {out && definition.advice?.[out] && (
        <p role="alert" className="mb-4 border-2 border-ink p-3 font-semibold">
          <span aria-hidden="true">! </span>
          {definition.advice[out]}
        </p>
      )}
      {limits && judge === "each" && (
        <div className="mb-3">
          <LimitRuler
            limits={limits}
            target={definition.target}
            unit={definition.unit}
            marks={points.flatMap((point, i) => {
              const value = shownValues[i] ?? null;
              return value === null ? [] : [{ label: capital(point), value }];
            })}
            ghosts={history.slice(-3)}
          />
        </div>
      )}
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
            marks={summary === null ? [] : [{ label: "", value: Number(summary.toPrecision(5)) }]}
            ghosts={[]}
          />
        </div>
      )}
      {takes && (
        <WorkedReading calculator={definition.calculator} onValue={(value) => setTexts({ 0: String(value) })} />
      )}
      {definition.calculator && !judging && (
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
      {takes && <InstrumentField {...instrument} />}
      {takes && limits && (
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
        <LeftSo
          trigger="It cannot be brought within limits"
          onLeft={(reason) => log({ type: "step-done", ...at(one), reason })}
        />
      )}
      {scatter && (
        <Scattered
          {...scatter}
          unit={definition.unit}
          onAgain={() => {
            setTexts({});
            setScatter(null);
            document.getElementById("point-0")?.focus();
          }}
          onRight={() => logAll(true)}
        />
      )}
      {question.panel}
      {judging && out && limits && (
        <OutOfLimits
          out={out}
          limits={limits}
          unit={definition.unit}
          onAgain={() => setAgain(true)}
          onReplaced={used}
          onLeft={(reason) => {
            log({ type: "note", text: `${definition.title}, left out of its limits: ${reason}`, ...at(one) });
            leave();
          }}
        />
      )}
      {takes && !question.asking && !scatter && (
        <Actions>
          <button type="button" className="btn btn-main btn-big" aria-disabled={!complete || !any} onClick={log1}>
            {out ? "Log the new reading" : several ? "Log the readings" : "Log the reading"}
          </button>
        </Actions>
      )}
    </>
  );
}

/** Trials that lie too far apart are not averaged: one of them was timed wrong, or it does not run evenly. */
function Scattered({
  apart,
  most,
  unit,
  onAgain,
  onRight,
}: {
  apart: number;
  most: number;
  unit: string;
  onAgain: () => void;
  onRight: () => void;
}) {
  return (
    <section role="alert" className="mb-4 border-4 border-ink p-3">
      <p className="text-xl font-bold">
        These lie <span className="figure">{figure(apart, 4)}</span> {unit} apart
      </p>
      <p className="mt-1">
        More than {figure(most, 4)} {unit}: their mean says nothing. Take them again; if they still scatter, it does not
        run evenly.
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        <button type="button" className="btn btn-main btn-big" onClick={onAgain}>
          Take them again
        </button>
        <button type="button" className="btn btn-big" onClick={onRight}>
          They are right
        </button>
      </div>
    </section>
  );
}
