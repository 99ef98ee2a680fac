import { clsx } from "clsx";
import { type ReactNode, useState } from "react";
import { Link, useSearchParams } from "react-router";

import { toNumber } from "~/kit/forms/to-number";
import { StepFigure } from "~/ui/figure";
import { PageHead } from "~/ui/page-head";

import type { Route } from "./+types/bench.route";
import { BeltTime } from "./belt-time";
import { BENCH, type BenchTool } from "./bench-list";
import { ControlChartBench } from "./control-chart-bench";
import { Dilution } from "./dilution";
import { FigureField } from "./fields";
import { FaultOrder, Hydrometer, PolishMark, StrainerDrop } from "./machine-tools";
import { Additive, Compatibility, Parts } from "./more-mixes";
import { LotScore } from "./own-scale";
import { useUnits } from "./use-units";

export const meta: Route.MetaFunction = () => [{ title: "Bench – Humble Hound" }];

/** The calculators by themselves; each also opens inside the step that needs it. */
export default function Bench() {
  const [params] = useSearchParams();
  const [units, setUnits] = useUnits();
  const [id, title, about] = BENCH.find(([tool]) => tool === params.get("tool")) ?? BENCH[0];
  return (
    <>
      <p className="no-print text-sm">
        <Link to="/book">Book</Link>
      </p>
      <div className="no-print mt-1 mb-4 flex flex-wrap items-end justify-between gap-3">
        <PageHead title="Bench" />
        <fieldset className="flex gap-4">
          <legend className="sr-only">Units</legend>
          {(["metric", "us"] as const).map((system) => (
            <label key={system} className="flex min-h-11 items-center gap-2">
              <input
                type="radio"
                name="units"
                className="size-5 accent-(--fill)"
                checked={units === system}
                onChange={() => setUnits(system)}
              />
              {system === "metric" ? "Metric" : "US units"}
            </label>
          ))}
        </fieldset>
      </div>
      <div className="grid gap-6 md:grid-cols-[15rem_1fr]">
        <nav aria-label="Calculators" className="no-print">
          <ul className="grid grid-cols-2 gap-x-3 md:grid-cols-1">
            {BENCH.map(([tool, name]) => (
              <li key={tool}>
                <Link
                  to={`?tool=${tool}`}
                  replace
                  aria-current={tool === id ? "page" : undefined}
                  className={clsx(
                    "flex min-h-11 items-center border-l-4 px-3 no-underline",
                    tool === id ? "border-tan-fill font-bold" : "border-transparent hover:border-line",
                  )}
                >
                  {name}
                </Link>
              </li>
            ))}
          </ul>
        </nav>
        <section aria-labelledby="tool" className="panel p-4 sm:p-6">
          <h2 id="tool" className="text-xl">
            {title}
          </h2>
          <p className="mb-4 text-ink-soft">{about}</p>
          <Tool key={`${id}${units}`} id={id} />
        </section>
      </div>
    </>
  );
}

function Tool({ id }: { id: BenchTool }): ReactNode {
  switch (id) {
    case "dilution":
      return <Dilution />;
    case "parts":
      return <Parts />;
    case "additive":
      return <Additive />;
    case "compatibility":
      return <Compatibility />;
    case "tightening":
      return <Bolts />;
    case "belt-time":
      return <BeltTime />;
    case "battery":
      return <Hydrometer />;
    case "check-fluid":
      return <LotScore />;
    case "strainer":
      return <StrainerDrop />;
    case "polish-mark":
      return <PolishMark />;
    case "control-chart":
      return <ControlChartBench />;
    case "checks":
      return <FaultOrder />;
  }
}

function Bolts() {
  const [text, setText] = useState("8");
  const bolts = toNumber(text);
  const good = bolts !== null && Number.isInteger(bolts) && bolts >= 2 && bolts <= 60;
  return (
    <>
      <FigureField label="Bolts" value={text} onChange={setText} />
      {good ? <StepFigure figure={{ kind: "tightening", bolts }} /> : <p className="mt-2">From 2 to 60 bolts.</p>}
      <p className="max-w-prose">
        Finger-tight first, then in this order in two or three passes, each tighter than the last; one round in circle
        at the end. Torque by the maker's manual.
      </p>
    </>
  );
}
