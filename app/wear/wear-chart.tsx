import { addDays } from "@core";
import {
  Area,
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  XAxis,
  YAxis,
} from "recharts";

import { useDayWords } from "~/ui/day";

import type { WearChartPoints } from "./wear-chart-points";
import { figure } from "./wear-words";

interface Shape {
  cx?: number;
  cy?: number;
  payload?: { stage: "found" | "left"; light: boolean };
}

/** Found: a full dot. Left after an adjustment: a ring. Counting less, as it lies off the others: crossed. */
function Knot({ cx = 0, cy = 0, payload }: Shape) {
  return (
    <g>
      <circle
        cx={cx}
        cy={cy}
        r="5"
        fill={payload?.stage === "left" ? "var(--surface)" : "var(--ink)"}
        stroke="var(--ink)"
        strokeWidth="2"
      />
      {payload?.light && <path d={`M ${cx - 8} ${cy - 8} l 16 16`} stroke="var(--ink)" strokeWidth="2" />}
    </g>
  );
}

/** Values against use, with the line, its band, the limit and the next visits. Loaded lazily: the table below says the same. */
export default function WearChart({
  points,
  unit,
  baseUnit,
}: {
  points: WearChartPoints;
  unit: string;
  baseUnit: string;
}) {
  const say = useDayWords();
  const tick = { fontSize: 12, fill: "var(--ink-soft)" };
  const { values, earlier, line, limit, visits, nowX, originOn } = points;
  const end = line.at(-1)?.x ?? nowX;
  const byDay = baseUnit === "days";
  const label = (value: string, position: "top" | "insideTopLeft" | "insideBottomRight") => ({
    ...{ value, position, fontSize: 12, fill: "var(--ink)" },
  });
  return (
    <div aria-hidden="true" className="h-72">
      <ResponsiveContainer width="100%" height="100%">
        <ComposedChart margin={{ top: 22, right: 12, bottom: 4, left: 0 }} accessibilityLayer={false}>
          <CartesianGrid stroke="var(--line)" />
          <XAxis
            dataKey="x"
            type="number"
            domain={[0, "dataMax"]}
            stroke="var(--ink-soft)"
            tick={tick}
            tickFormatter={(x: number) =>
              byDay ? say(addDays(originOn, Math.round(x))) : figure(Math.round(x), baseUnit)
            }
          />
          <YAxis
            type="number"
            domain={["auto", "auto"]}
            stroke="var(--ink-soft)"
            tick={tick}
            width={72}
            tickFormatter={(value: number) => figure(Math.round(value * 1000) / 1000, unit)}
          />
          <Area
            data={line}
            dataKey="band"
            fill="var(--tan-fill)"
            fillOpacity={0.45}
            stroke="none"
            isAnimationActive={false}
          />
          {earlier.map((piece, i) => (
            <Line
              key={i}
              data={piece}
              dataKey="value"
              stroke="var(--ink-soft)"
              strokeOpacity={0.55}
              strokeDasharray="2 4"
              dot={false}
              isAnimationActive={false}
            />
          ))}
          <Line data={line} dataKey="fit" stroke="var(--ink)" strokeWidth={2} dot={false} isAnimationActive={false} />
          {limit !== null && (
            <ReferenceLine
              y={limit}
              stroke="var(--ink)"
              strokeDasharray="8 4"
              strokeWidth={2}
              ifOverflow="extendDomain"
              label={label(`limit ${figure(limit, unit)}`, "insideTopLeft")}
            />
          )}
          <ReferenceLine
            x={nowX}
            stroke="var(--ink-soft)"
            strokeDasharray="2 2"
            label={label("today", "insideBottomRight")}
          />
          {visits.map(({ x, on }, i) => (
            <ReferenceLine
              key={on}
              x={x}
              stroke="var(--ink)"
              strokeWidth={3}
              // Two posts side by side have room for one name.
              {...(i > 0 && x - (visits[0]?.x ?? 0) < end * 0.12 ? {} : { label: label(say(on), "top") })}
            />
          ))}
          <Scatter data={values} dataKey="value" shape={<Knot />} isAnimationActive={false} />
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}
