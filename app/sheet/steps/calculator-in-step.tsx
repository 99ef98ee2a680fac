import type { Calculator } from "@core";
import { lazy, Suspense } from "react";

import { BeltTime } from "~/bench/belt-time";
import { Hydrometer, PolishMark, StrainerDrop } from "~/bench/machine-tools";
import { LotScore, PercentOfOwn, RelativeSd } from "~/bench/own-scale";
import { Disclosure } from "~/ui/disclosure";

// The chart library is large and wanted in few steps.
const ControlChart = lazy(() => import("~/bench/control-chart").then((module) => ({ default: module.ControlChart })));

/** A reading on the instrument's own scale is worked out of what it shows: of results and their lot's sheet, or of two signals. */
export function WorkedReading({
  calculator,
  onValue,
}: {
  calculator: Calculator | undefined;
  onValue: (value: number) => void;
}) {
  if (calculator?.kind !== "control-chart" || !calculator.worked) return null;
  return (
    <Disclosure title="Work it out" look="strong" open className="mb-4 border-2 border-line p-3">
      {calculator.worked === "lot-score" ? <LotScore onTake={onValue} /> : <PercentOfOwn onTake={onValue} />}
    </Disclosure>
  );
}

/** The calculator that a measuring step asks for; what it comes to goes into the step's fields. */
export function CalculatorInStep({
  calculator,
  unit,
  value,
  history,
  onValue,
  onValues,
}: {
  calculator: Calculator;
  unit: string;
  /** What is typed now, or was logged last. */
  value: number | null;
  history: number[];
  onValue: (value: number) => void;
  onValues: (values: number[]) => void;
}) {
  switch (calculator.kind) {
    case "belt-time":
      return (
        <BeltTime
          setSeconds={calculator.setSeconds}
          {...(calculator.tolerancePercent === undefined ? {} : { tolerancePercent: calculator.tolerancePercent })}
          onRun={onValue}
        />
      );
    case "hydrometer":
      return <Hydrometer cells={calculator.cells} onCorrected={onValues} />;
    case "strainer-drop":
      return <StrainerDrop cleanDrop={calculator.cleanDrop} unit={calculator.unit} drop={value} />;
    case "polish-mark":
      return (
        <PolishMark
          lowMm={calculator.lowMm}
          highMm={calculator.highMm}
          markMm={value === null ? null : unit === "in" ? value * 25.4 : value}
        />
      );
    case "relative-sd":
      return <RelativeSd repeats={calculator.repeats} onTake={(percent) => onValues([percent])} />;
    case "control-chart":
      return (
        <Suspense fallback={<p>Drawing …</p>}>
          <ControlChart
            values={value === null ? history : [...history, value]}
            target={calculator.target}
            sd={calculator.sd}
            {...(calculator.lambda === undefined ? {} : { lambda: calculator.lambda })}
            unit={unit}
          />
        </Suspense>
      );
  }
}
