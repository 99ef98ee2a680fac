import { Bar, BarChart, CartesianGrid, Legend, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";

import type { CostRow } from "./costs.server";

/** Parts and hours of the dearest rows, in euros. Loaded lazily: the table below says the same. */
export default function CostChart({ rows }: { rows: CostRow[] }) {
  const points = rows.map((row) => ({ name: row.name, parts: row.partsCents / 100, hours: row.hoursCents / 100 }));
  const tick = { fontSize: 12, fill: "var(--ink-soft)" };
  return (
    <div aria-hidden="true" style={{ height: 40 + 34 * points.length }}>
      <ResponsiveContainer width="100%" height="100%">
        <BarChart
          data={points}
          layout="vertical"
          margin={{ top: 8, right: 16, bottom: 4, left: 0 }}
          accessibilityLayer={false}
        >
          <defs>
            <pattern id="cost-parts" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <rect width="1.5" height="5" fill="currentColor" />
            </pattern>
          </defs>
          <CartesianGrid horizontal={false} stroke="var(--line)" />
          <XAxis type="number" stroke="var(--ink-soft)" tick={tick} unit=" €" />
          <YAxis type="category" dataKey="name" stroke="var(--ink-soft)" tick={tick} width={150} />
          <Tooltip
            contentStyle={{ background: "var(--surface)", color: "var(--ink)", border: "2px solid var(--ink)" }}
            isAnimationActive={false}
          />
          <Legend />
          <Bar dataKey="hours" name="Hours (solid)" stackId="cost" fill="var(--ink)" isAnimationActive={false} />
          <Bar
            dataKey="parts"
            name="Parts (hatched)"
            stackId="cost"
            fill="url(#cost-parts)"
            stroke="currentColor"
            isAnimationActive={false}
          />
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}
