import { Bar, CartesianGrid, ComposedChart, Legend, Line, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";

import type { CauseRow } from "./down-time.server";

/** Where a name ends under its bar; it stands whole in the table. */
const ROOM = 20;
const short = (name: string): string => (name.length > ROOM ? `${name.slice(0, ROOM - 1).trimEnd()}…` : name);

/** Causes by how often they were found, and what they come to together. Loaded lazily: the table below says the same. */
export default function CausesChart({ rows }: { rows: readonly CauseRow[] }) {
  const points = rows.map(({ name, family, n, together }) => ({
    name,
    family,
    n,
    together: Math.round(together * 100),
  }));
  const tick = { fontSize: 12, fill: "var(--ink-soft)" };
  return (
    // A phone has no room for names under the bars: they stand in the table, in the same order.
    <div aria-hidden="true" className="h-80 max-sm:[&_.recharts-xAxis-tick-labels]:hidden">
      <ResponsiveContainer width="100%" height="100%">
        <ComposedChart data={points} margin={{ top: 8, right: 0, bottom: 64, left: 48 }} accessibilityLayer={false}>
          <CartesianGrid vertical={false} stroke="var(--line)" />
          <XAxis
            dataKey="name"
            stroke="var(--ink-soft)"
            tick={tick}
            tickFormatter={short}
            angle={-30}
            textAnchor="end"
            interval={0}
          />
          <YAxis yAxisId="n" stroke="var(--ink-soft)" tick={tick} allowDecimals={false} width={40} />
          <YAxis
            yAxisId="together"
            orientation="right"
            domain={[0, 100]}
            unit=" %"
            stroke="var(--ink-soft)"
            tick={tick}
            width={56}
          />
          <Tooltip
            contentStyle={{ background: "var(--surface)", color: "var(--ink)", border: "2px solid var(--ink)" }}
            isAnimationActive={false}
          />
          <Legend position="top" formatter={(name: string) => <span className="text-ink">{name}</span>} />
          <Bar
            yAxisId="n"
            dataKey="n"
            name="Found (bars)"
            fill="var(--tan-fill)"
            stroke="var(--ink)"
            isAnimationActive={false}
          />
          <Line
            yAxisId="together"
            dataKey="together"
            name="With those before, % (line)"
            stroke="var(--ink)"
            strokeWidth={2}
            dot={{ r: 4, fill: "var(--ink)" }}
            isAnimationActive={false}
          />
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}
