import { ewmaChart, must, westgard } from "@core";
import { useMemo } from "react";
import { Line, LineChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from "recharts";

import { figure } from "./calculator-why";
import { Result } from "./fields";

const RULE_WORDS: Record<string, string> = {
  "1-2s": "one value beyond 2 s: look closely",
  "1-3s": "one value beyond 3 s",
  "2-2s": "two in a row beyond 2 s on the same side",
  "R-4s": "two in a row on opposite sides beyond 2 s",
  "4-1s": "four in a row beyond 1 s on the same side",
  "10x": "ten in a row on the same side",
};

/** A reading over the services: its moving average within control limits, and the control rules. The last value may be typed just now. */
export function ControlChart({
  values,
  target,
  sd,
  lambda = 0.2,
  unit,
}: {
  values: number[];
  target: number;
  sd: number;
  lambda?: number;
  unit: string;
}) {
  const chart = useMemo(() => ewmaChart({ values, target, sd, lambda }), [values, target, sd, lambda]);
  const hits = useMemo(() => westgard({ values, mean: target, sd }), [values, target, sd]);
  const rows = values.map((value, i) => ({
    n: i + 1,
    value,
    average: chart.ewma[i],
    lower: chart.lower[i],
    upper: chart.upper[i],
  }));
  const last = values.length - 1;
  const now = hits.filter((hit) => hit.at === last);
  const drifting = chart.signals.includes(last);
  const says =
    values.length === 0
      ? "No values yet."
      : drifting
        ? `Drifting: the moving average ${figure(must(chart.ewma[last]))} ${unit} is out of its limits.`
        : now.some((hit) => hit.rule !== "1-2s")
          ? `A control rule is broken: ${now.map((hit) => `${hit.rule}, ${RULE_WORDS[hit.rule]}`).join("; ")}.`
          : "In control.";
  return (
    <div>
      <div className="h-44" role="img" aria-label={`Chart of the last ${values.length} values. ${says}`}>
        <ResponsiveContainer width="100%" height="100%">
          <LineChart data={rows} margin={{ top: 8, right: 8, bottom: 0, left: 0 }} accessibilityLayer={false}>
            <XAxis dataKey="n" stroke="var(--ink-soft)" tick={{ fontSize: 12 }} />
            <YAxis domain={["auto", "auto"]} width={52} stroke="var(--ink-soft)" tick={{ fontSize: 12 }} />
            <ReferenceLine y={target} stroke="var(--ink-soft)" strokeDasharray="4 3" />
            <Line dataKey="upper" stroke="var(--ink)" strokeWidth={1} dot={false} isAnimationActive={false} />
            <Line dataKey="lower" stroke="var(--ink)" strokeWidth={1} dot={false} isAnimationActive={false} />
            <Line dataKey="average" stroke="var(--ink)" strokeWidth={3} dot={false} isAnimationActive={false} />
            <Line
              dataKey="value"
              stroke="none"
              dot={{ r: 4, fill: "var(--tan-fill)", stroke: "var(--ink)" }}
              isAnimationActive={false}
            />
          </LineChart>
        </ResponsiveContainer>
      </div>
      <p className="text-sm text-ink-soft">
        Dots: values. Thick line: moving average. Thin lines: its limits. Dashed: target.
      </p>
      <Result
        says={says}
        because={[
          `Moving average with λ = ${lambda}, limits at 3 standard deviations (exact, widening); target ${figure(target, 6)} ${unit}, standard deviation ${figure(sd)} ${unit}.`,
          ...now.map((hit) => `${hit.rule}: ${RULE_WORDS[hit.rule]}.`),
        ]}
        caution="A signal says look; it does not say why."
      />
    </div>
  );
}
