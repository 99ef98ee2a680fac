import { ewmaChart, must } from "@core";
import { lazy, Suspense, useState } from "react";

import { toNumber } from "~/kit/forms/to-number";

import { attempt, FigureField, Result } from "./fields";

// The chart library is large and wanted on few visits.
const ControlChart = lazy(() => import("./control-chart").then((module) => ({ default: module.ControlChart })));

/** A control chart of typed values, separated by spaces. */
export function ControlChartBench() {
  const [text, setText] = useState("201 196 205 193 198 190 188 191");
  const [target, setTarget] = useState("200");
  const [sd, setSd] = useState("8");
  const [lambda, setLambda] = useState("0.2");
  const values = text.split(/[\s;]+/).filter((word) => word !== "");
  const numbers = values.map(toNumber);
  const figures = { target: toNumber(target), sd: toNumber(sd), lambda: toNumber(lambda) };
  const ready =
    numbers.every((one) => one !== null) && figures.target !== null && figures.sd !== null && figures.lambda !== null;
  const input = {
    values: numbers as number[],
    target: must(figures.target),
    sd: must(figures.sd),
    lambda: must(figures.lambda),
  };
  const checked = ready ? attempt(() => ewmaChart(input)) : null;
  return (
    <>
      <label htmlFor="chart-values" className="mb-1 block font-semibold">
        Values in order, with spaces between
      </label>
      <textarea
        id="chart-values"
        className="field figure"
        rows={2}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <div className="mt-2 flex flex-wrap gap-3">
        <FigureField label="Target" value={target} onChange={setTarget} />
        <FigureField label="Standard deviation" value={sd} onChange={setSd} />
        <FigureField label="Weight λ" value={lambda} onChange={setLambda} />
      </div>
      {checked?.problem && <Result problem={checked.problem} />}
      {checked?.value && (
        <Suspense fallback={<p>Drawing …</p>}>
          <ControlChart {...input} unit="" />
        </Suspense>
      )}
    </>
  );
}
