import { must } from "@core";

import { useDayWords } from "~/ui/day";

import type { Trail, TrailKind } from "./trail.server";

const LANES: [TrailKind, string][] = [
  ["service", "Services"],
  ["operator", "Operator"],
  ["part", "Parts"],
  ["fault", "Faults"],
  ["meter", "Meters"],
  ["change", "Changes"],
];
const WIDTH = 1000;
const LEFT = 130;
const LANE = 34;
const SERIES = 56;
const AXIS = 28;
const month = new Intl.DateTimeFormat("en-GB", { month: "short", year: "2-digit", timeZone: "UTC" });

/** One machine's story on one line of time: what happened in lanes, what was measured as small curves under it. */
export function TrailLine({ trail, now }: { trail: Trail; now: number }) {
  const say = useDayWords();
  const times = [
    ...trail.items.map((one) => one.at),
    ...trail.series.flatMap((one) => one.points.map((point) => point.at)),
  ];
  const from = Math.min(now - 30 * 86_400_000, ...times);
  const x = (at: number): number => LEFT + ((at - from) / Math.max(1, now - from)) * (WIDTH - LEFT - 16);
  const lanes = LANES.filter(([kind]) => trail.items.some((one) => one.kind === kind));
  const series = trail.series.filter((one) => one.points.length > 1);
  const height = AXIS + lanes.length * LANE + series.length * SERIES + 8;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      className="w-full min-w-160"
      role="img"
      aria-label="The machine's story on a line of time; the list below says the same in words"
    >
      {ticks(from, now).map((at) => (
        <g key={at}>
          <line x1={x(at)} x2={x(at)} y1={AXIS - 6} y2={height} stroke="var(--line)" />
          <text x={x(at)} y={14} fontSize="13" textAnchor="middle" fill="var(--ink-soft)">
            {month.format(at)}
          </text>
        </g>
      ))}
      {lanes.map(([kind, name], lane) => {
        const y = AXIS + lane * LANE + LANE / 2;
        return (
          <g key={kind}>
            <text x={0} y={y + 5} fontSize="15" fill="currentColor">
              {name}
            </text>
            <line x1={LEFT} x2={WIDTH} y1={y} y2={y} stroke="currentColor" strokeWidth={kind === "service" ? 3 : 1} />
            {trail.items
              .filter((one) => one.kind === kind)
              .map((one, i) => (
                <g key={i} transform={`translate(${x(one.at)} ${y})`}>
                  <title>{`${say(one.on)} ${one.title} ${one.text}`}</title>
                  <Mark kind={kind} />
                </g>
              ))}
          </g>
        );
      })}
      {series.map((one, i) => {
        const top = AXIS + lanes.length * LANE + i * SERIES + 8;
        const values = one.points.map((point) => point.value);
        const low = Math.min(...values);
        const span = Math.max(...values) - low || 1;
        const y = (value: number): number => top + SERIES - 16 - ((value - low) / span) * (SERIES - 26);
        const last = must(one.points[one.points.length - 1]);
        return (
          <g key={one.name}>
            <text x={0} y={top + 22} fontSize="15" fill="currentColor">
              {one.name.length > 17 ? `${one.name.slice(0, 16)}…` : one.name}
            </text>
            <text x={0} y={top + 38} fontSize="13" className="figure" fill="var(--ink-soft)">
              {Math.round(last.value * 1000) / 1000} {one.unit}
            </text>
            <polyline
              points={one.points.map((point) => `${x(point.at)},${y(point.value)}`).join(" ")}
              fill="none"
              stroke="currentColor"
              strokeWidth="1.5"
            />
            {one.points.map((point) => (
              <circle
                key={point.at}
                cx={x(point.at)}
                cy={y(point.value)}
                r="2.5"
                fill="var(--surface)"
                stroke="currentColor"
                strokeWidth="1.5"
              />
            ))}
          </g>
        );
      })}
    </svg>
  );
}

/** A shape for each kind, so that the line reads without colour. */
function Mark({ kind }: { kind: TrailKind }) {
  const line = { stroke: "currentColor", strokeWidth: 2 };
  switch (kind) {
    case "service":
      return <circle r="6" fill="var(--surface)" {...line} />;
    case "operator":
      return <path d="M -5 0 L -1 4 L 5 -5" fill="none" {...line} />;
    case "part":
      return <rect x="-5" y="-5" width="10" height="10" fill="var(--tan-fill)" {...line} />;
    case "fault":
      return <path d="M -5 -6 L 5 6 M 5 -6 L -5 6" fill="none" {...line} />;
    case "meter":
      return <path d="M -6 0 H 6 M 0 -6 V 6" fill="none" {...line} />;
    case "change":
      return <path d="M 0 -6 L 6 5 H -6 Z" fill="var(--surface)" {...line} />;
  }
}

/** Month starts, as many as fit. */
function ticks(from: number, to: number): number[] {
  const months = Math.max(1, Math.ceil((to - from) / (30 * 86_400_000) / 12));
  const start = new Date(from);
  const found: number[] = [];
  for (let at = Date.UTC(start.getUTCFullYear(), start.getUTCMonth() + 1, 1); at < to;) {
    found.push(at);
    const day = new Date(at);
    at = Date.UTC(day.getUTCFullYear(), day.getUTCMonth() + months, 1);
  }
  return found;
}
