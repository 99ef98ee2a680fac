import {
  Bar,
  BarChart,
  CartesianGrid,
  Legend,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";

/** Hours a week before and after levelling. Loaded lazily: the table beside it says the same. */
export default function WorkloadChart({
  weeks,
  bound,
}: {
  weeks: { week: string; before: number; after: number }[];
  bound: number;
}) {
  return (
    <ResponsiveContainer width="100%" height="100%">
      <BarChart data={weeks} margin={{ top: 8, right: 8, bottom: 4, left: 0 }} accessibilityLayer={false}>
        <defs>
          <pattern id="as-it-falls" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width="1.5" height="5" fill="currentColor" />
          </pattern>
        </defs>
        <CartesianGrid vertical={false} stroke="var(--line)" />
        <XAxis
          dataKey="week"
          stroke="var(--ink-soft)"
          tick={{ fontSize: 12, fill: "var(--ink-soft)" }}
          interval="equidistantPreserveStart"
          minTickGap={14}
        />
        <YAxis stroke="var(--ink-soft)" tick={{ fontSize: 12, fill: "var(--ink-soft)" }} unit=" h" width={60} />
        <Tooltip
          contentStyle={{ background: "var(--surface)", color: "var(--ink)", border: "2px solid var(--ink)" }}
          isAnimationActive={false}
        />
        <Legend />
        <ReferenceLine y={bound} stroke="var(--ink)" strokeDasharray="4 4" />
        <Bar
          dataKey="before"
          name="As it falls (hatched)"
          fill="url(#as-it-falls)"
          stroke="currentColor"
          isAnimationActive={false}
        />
        <Bar dataKey="after" name="Levelled (solid)" fill="var(--ink)" isAnimationActive={false} />
      </BarChart>
    </ResponsiveContainer>
  );
}
