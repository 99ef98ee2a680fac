import { lotScores, must, percentOfOwn, relativeSd } from "@core";
import { useState } from "react";

import { toNumber } from "~/kit/forms/to-number";

import { figure } from "./calculator-why";
import { attempt, FigureField, Result } from "./fields";

interface Row {
  result: string;
  mean: string;
  sd: string;
}

const EMPTY: Row = { result: "", mean: "", sd: "" };
/** More analytes than a check fluid has on one path. */
const MOST = 30;

/** A check fluid's results beside its lot's sheet. Inside a step the one farthest off becomes its reading, with its sign. */
export function LotScore({ onTake }: { onTake?: (score: number) => void }) {
  const [rows, setRows] = useState<Row[]>([EMPTY]);
  const change = (i: number, set: Partial<Row>): void =>
    setRows(rows.map((row, k) => (k === i ? { ...row, ...set } : row)));
  const filled = rows.flatMap(({ result, mean, sd }) => {
    const [value, centre, spread] = [toNumber(result), toNumber(mean), toNumber(sd)];
    return value === null || centre === null || spread === null ? [] : [{ result: value, mean: centre, sd: spread }];
  });
  const begun = rows.filter((row) => row.result.trim() + row.mean.trim() + row.sd.trim() !== "").length;
  const complete = filled.length > 0 && filled.length === begun;
  const made = !complete
    ? null
    : filled.every((one) => one.sd > 0)
      ? attempt(() => lotScores(filled))
      : { problem: "A lot's SD is above 0: look at the sheet of the lot." };
  const value = made && "value" in made ? made.value : undefined;
  const scores = value?.scores.map((score) => Math.round(score * 100) / 100) ?? [];
  const worst = value ? must(scores[value.worst]) : null;
  return (
    <>
      {rows.map((row, i) => (
        <fieldset key={i} className="mb-3 grid grid-cols-2 gap-3 sm:grid-cols-3">
          <legend className={rows.length === 1 ? "sr-only" : "mb-1"}>Analyte {i + 1}</legend>
          <FigureField label="Result" value={row.result} onChange={(result) => change(i, { result })} />
          <FigureField label="Lot's mean" value={row.mean} onChange={(mean) => change(i, { mean })} />
          <FigureField label="Lot's SD" value={row.sd} onChange={(sd) => change(i, { sd })} />
        </fieldset>
      ))}
      {rows.length < MOST && (
        <button type="button" className="btn" onClick={() => setRows([...rows, EMPTY])}>
          One more analyte
        </button>
      )}
      <Outcome
        problem={made?.problem}
        value={worst}
        unit="SD"
        more={rows.length > 1 ? `, the farthest off of ${filled.length}` : ""}
        because={[
          "Rule: result less the lot's mean, divided by the lot's SD, both on the sheet of the lot.",
          ...filled.map(
            ({ result, mean, sd }, i) =>
              `(${figure(result, 6)} − ${figure(mean, 6)}) ÷ ${figure(sd, 6)} = ${scores[i]} SD`,
          ),
        ]}
        onTake={onTake}
      />
    </>
  );
}

/** A signal against the instrument's own when all was clean. */
export function PercentOfOwn({ onTake }: { onTake: (percent: number) => void }) {
  const [now, setNow] = useState("");
  const [own, setOwn] = useState("");
  const [nowValue, ownValue] = [toNumber(now), toNumber(own)];
  const complete = nowValue !== null && ownValue !== null;
  const made = !complete
    ? null
    : nowValue >= 0 && ownValue > 0
      ? attempt(() => percentOfOwn({ now: nowValue, own: ownValue }))
      : { problem: "Counts are 0 or more, and more than 0 when all was clean." };
  const value = made && "value" in made ? made.value : undefined;
  const percent = value === undefined ? null : Math.round(value * 10) / 10;
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        <FigureField label="Counts now" value={now} onChange={setNow} />
        <FigureField label="Counts when all was clean" value={own} onChange={setOwn} />
      </div>
      <Outcome
        problem={made?.problem}
        value={percent}
        unit="%"
        because={[
          "Rule: signal now, divided by the signal when all was clean, in percent.",
          `${figure(nowValue ?? 0, 9)} ÷ ${figure(ownValue ?? 0, 9)} × 100 = ${percent} %`,
        ]}
        onTake={onTake}
      />
    </>
  );
}

/** Scatter of repeats in percent of their mean. */
export function RelativeSd({ repeats, onTake }: { repeats: number; onTake: (percent: number) => void }) {
  const [texts, setTexts] = useState<Record<number, string>>({});
  const values = Array.from({ length: repeats }, (_, i) => toNumber(texts[i] ?? ""));
  const all = values.filter((value) => value !== null);
  const made = all.length === repeats ? attempt(() => relativeSd(all)) : null;
  const percent = made?.value === undefined ? null : Math.round(made.value.percent * 100) / 100;
  return (
    <>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
        {values.map((_, i) => (
          <FigureField
            key={i}
            label={`Repeat ${i + 1}`}
            value={texts[i] ?? ""}
            onChange={(text) => setTexts({ ...texts, [i]: text })}
          />
        ))}
      </div>
      <Outcome
        problem={made?.problem}
        value={percent}
        unit="%"
        because={[
          "Rule: standard deviation of the repeats (n − 1), divided by their mean, in percent.",
          `${figure(made?.value?.sd ?? 0, 4)} ÷ ${figure(made?.value?.mean ?? 0, 6)} × 100 = ${percent} %`,
        ]}
        onTake={onTake}
      />
    </>
  );
}

/** What it comes to, with its why, and the way into the step's field. */
function Outcome({
  problem,
  value,
  unit,
  more = "",
  because,
  onTake,
}: {
  problem: string | undefined;
  value: number | null;
  unit: string;
  more?: string;
  because: readonly string[];
  onTake: ((value: number) => void) | undefined;
}) {
  if (problem !== undefined) return <Result problem={problem} />;
  if (value === null) return null;
  return (
    <>
      <Result
        says={
          <>
            <strong className="figure">
              {value} {unit}
            </strong>
            {more}
          </>
        }
        because={because}
      />
      {onTake && (
        <button type="button" className="btn mt-3" onClick={() => onTake(value)}>
          Into the reading
        </button>
      )}
    </>
  );
}
