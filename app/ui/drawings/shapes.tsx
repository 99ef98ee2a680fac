import type { ReactNode } from "react";

export const LINE = { fill: "none", stroke: "var(--ink)", strokeWidth: 2 } as const;
export const PART = { fill: "var(--surface)", stroke: "var(--ink)", strokeWidth: 2 } as const;
/** What the step is about. */
export const MEANT = { fill: "var(--tan-fill)", stroke: "var(--ink)", strokeWidth: 2 } as const;
export const GROUND = { fill: "var(--sunken)", stroke: "var(--line)" } as const;

export function Label({
  x,
  y,
  at = "middle",
  onTan = false,
  children,
}: {
  x: number;
  y: number;
  at?: "start" | "middle" | "end";
  onTan?: boolean;
  children: string;
}) {
  return (
    <text x={x} y={y} fontSize="13" fontWeight="700" fill={onTan ? "var(--on-tan)" : "var(--ink)"} textAnchor={at}>
      {children}
    </text>
  );
}

/** From where to where, with a head. */
export function Arrow({ from: [x1, y1], to: [x2, y2] }: { from: [number, number]; to: [number, number] }) {
  const angle = Math.atan2(y2 - y1, x2 - x1);
  const wing = (turn: number): string =>
    `${(x2 - 9 * Math.cos(angle + turn)).toFixed(1)} ${(y2 - 9 * Math.sin(angle + turn)).toFixed(1)}`;
  return <path d={`M${x1} ${y1}L${x2} ${y2}M${wing(0.5)}L${x2} ${y2}L${wing(-0.5)}`} {...LINE} strokeWidth={2.5} />;
}

export const Cross = ({ x, y }: { x: number; y: number }) => (
  <path d={`M${x - 7} ${y - 7}l14 14M${x + 7} ${y - 7}l-14 14`} stroke="var(--ink)" strokeWidth="3" />
);

export function Picture({ height, children }: { height: number; children: ReactNode }) {
  return (
    <svg viewBox={`0 0 280 ${height}`} className="w-full max-w-sm" aria-hidden="true">
      {children}
    </svg>
  );
}
