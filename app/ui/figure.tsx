import { type Figure, tighteningOrder } from "@core";
import type { ReactNode } from "react";

import { DRAWINGS } from "./drawings/drawings";

/** Schematics drawn for this app: where a picture beats words. Each says in words what it shows. */
export function StepFigure({ figure }: { figure: Figure }) {
  return (
    <figure className="my-3">
      {draw(figure)}
      <figcaption className="text-sm text-ink-soft">{words(figure)}</figcaption>
    </figure>
  );
}

function draw(figure: Figure): ReactNode {
  switch (figure.kind) {
    case "tightening":
      return <Tightening bolts={figure.bolts} />;
    case "polish-mark":
      return <PolishMark low={`${figure.low} ${figure.unit}`} high={`${figure.high} ${figure.unit}`} />;
    case "battery-level":
      return <BatteryLevel school={figure.school} />;
    case "gap-gauge":
      return <GapGauge limit={`${figure.limit} ${figure.unit}`} />;
    case "pair":
    case "slots":
      return <Slots labels={figure.labels} joined={figure.kind === "pair"} />;
    case "edges":
      return <Edges count={figure.count} />;
    case "drawing": {
      const { Drawing } = DRAWINGS[figure.of];
      return <Drawing />;
    }
  }
}

function words(figure: Figure): string {
  switch (figure.kind) {
    case "tightening":
      return `Crosswise: ${tighteningOrder(figure.bolts).join(", ")}. Seen from above, numbered clockwise; the large figure is the turn.`;
    case "polish-mark":
      return `The mark is the strip that the broom polishes: good from ${figure.low} to ${figure.high} ${figure.unit}.`;
    case "battery-level":
      return figure.school === "height"
        ? "Water stands about 1/8 in (3 mm) over the plates."
        : "Water stands between the marks, above the plates and below the top.";
    case "gap-gauge":
      return `A blade of ${figure.limit} ${figure.unit} must not go in.`;
    case "pair":
      return `A pair: ${figure.labels.join(" and ")}, always both.`;
    case "slots":
      return figure.labels.join(" · ");
    case "edges":
      return `${figure.count} usable ${figure.count === 2 ? "sides" : "edges"}: turn before you throw away.`;
    case "drawing":
      return DRAWINGS[figure.of].words;
  }
}

const LINE = { fill: "none", stroke: "var(--ink)", strokeWidth: 2 } as const;
const TEXT = { fill: "var(--ink)", textAnchor: "middle", fontWeight: 700 } as const;

/** Bolts round a flange; each shows when its turn comes. */
export function Tightening({ bolts }: { bolts: number }) {
  const order = tighteningOrder(bolts);
  const turnOf = new Map(order.map((bolt, i) => [bolt, i + 1]));
  const at = (bolt: number): [number, number] => {
    const angle = ((bolt - 1) / bolts) * 2 * Math.PI - Math.PI / 2;
    return [90 + 62 * Math.cos(angle), 90 + 62 * Math.sin(angle)];
  };
  const radius = bolts <= 12 ? 15 : bolts <= 20 ? 10 : 7;
  return (
    <svg viewBox="0 0 180 180" className="w-48" aria-hidden="true">
      <circle cx="90" cy="90" r="84" {...LINE} />
      <circle cx="90" cy="90" r="36" {...LINE} />
      <polyline
        points={order.map((bolt) => at(bolt).join(",")).join(" ")}
        fill="none"
        stroke="var(--tan)"
        strokeWidth="1.5"
        strokeDasharray="4 3"
      />
      {Array.from({ length: bolts }, (_, i) => {
        const [x, y] = at(i + 1);
        return (
          <g key={i}>
            <circle cx={x} cy={y} r={radius} fill="var(--surface)" stroke="var(--ink)" strokeWidth="2" />
            <text x={x} y={y + radius * 0.35} fontSize={radius * 1.05} {...TEXT}>
              {turnOf.get(i + 1)}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

function PolishMark({ low, high }: { low: string; high: string }) {
  return (
    <svg viewBox="0 0 260 110" className="w-72" aria-hidden="true">
      <rect x="10" y="10" width="240" height="90" fill="var(--sunken)" stroke="var(--line)" />
      <rect x="40" y="42" width="180" height="26" fill="var(--tan-fill)" stroke="var(--ink)" strokeWidth="2" />
      <path d="M228 42v26M222 42h12M222 68h12" {...LINE} />
      <text x="130" y="34" fontSize="13" {...TEXT}>
        {low} to {high}
      </text>
      <text x="130" y="88" fontSize="12" fill="var(--ink-soft)" textAnchor="middle">
        polished strip on the floor
      </text>
    </svg>
  );
}

function BatteryLevel({ school }: { school: "height" | "band" }) {
  return (
    <svg viewBox="0 0 200 130" className="w-56" aria-hidden="true">
      <path d="M40 12v106h120V12" {...LINE} />
      <rect x="42" y="52" width="116" height="64" fill="var(--tan-fill)" opacity="0.5" />
      {[60, 80, 100, 120, 140].map((x) => (
        <path key={x} d={`M${x} 66v48`} stroke="var(--ink)" strokeWidth="5" />
      ))}
      <path d="M42 52h116" {...LINE} />
      {school === "height" ? (
        <>
          <path d="M170 52v14M166 52h8M166 66h8" {...LINE} />
          <text x="184" y="64" fontSize="12" {...TEXT}>
            ⅛ in
          </text>
        </>
      ) : (
        <path d="M34 40h14M34 60h14M152 40h14M152 60h14" {...LINE} strokeDasharray="4 2" />
      )}
    </svg>
  );
}

function GapGauge({ limit }: { limit: string }) {
  return (
    <svg viewBox="0 0 240 100" className="w-64" aria-hidden="true">
      <rect x="20" y="10" width="90" height="30" {...LINE} />
      <rect x="20" y="48" width="90" height="42" {...LINE} />
      <path d="M112 44h70l40 6-40-2h-70z" fill="var(--tan-fill)" stroke="var(--ink)" strokeWidth="1.5" />
      <path d="M122 30l12 28M134 30l-12 28" stroke="var(--ink)" strokeWidth="3" />
      <text x="180" y="34" fontSize="14" {...TEXT}>
        {limit}
      </text>
    </svg>
  );
}

function Slots({ labels, joined }: { labels: string[]; joined: boolean }) {
  const width = 250 / labels.length;
  return (
    <svg viewBox="0 0 260 74" className="w-full max-w-md" aria-hidden="true">
      {labels.map((label, i) => (
        <g key={label}>
          <rect
            x={5 + i * width + 4}
            y="12"
            width={width - 8}
            height="34"
            fill="var(--surface)"
            stroke="var(--ink)"
            strokeWidth="2"
          />
          <text x={5 + i * width + width / 2} y="64" fontSize="12" {...TEXT}>
            {label}
          </text>
          {joined && i > 0 && <path d={`M${5 + i * width - 4} 29h8`} stroke="var(--ink)" strokeWidth="5" />}
        </g>
      ))}
    </svg>
  );
}

/** A blade seen from its end, its usable edges numbered. */
function Edges({ count }: { count: number }) {
  return (
    <svg viewBox="0 0 200 90" className="w-52" aria-hidden="true">
      <rect x="50" y="22" width="100" height="46" fill="var(--tan-fill)" stroke="var(--ink)" strokeWidth="2" />
      {Array.from({ length: count }, (_, i) => {
        const right = i % 2 === 1;
        const low = count > 2 && i >= 2;
        const y = count === 2 ? 50 : low ? 78 : 18;
        return (
          <text key={i} x={right ? 168 : 32} y={y} fontSize="18" {...TEXT}>
            {i + 1}
          </text>
        );
      })}
    </svg>
  );
}
