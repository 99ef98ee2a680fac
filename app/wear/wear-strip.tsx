import { daysBetween } from "@core";

import type { Told } from "./wear-words";

const START = 6;
const END = 154;
const BASE = 24;
/** Days at the right end: what lies further on is squeezed out. */
const FAR = 400;

/** A stretched scale: the next weeks have most of the room. */
const place = (days: number): number => START + (END - START) * Math.sqrt(Math.min(1, Math.max(0, days / FAR)));

/**
 * How long a part lasts, on a line from today: the band in which it passes its limit with the likeliest day in it, and the next two
 * visits as posts. Shapes alone carry the meaning; the words beside it say the same.
 */
export function WearStrip({
  told,
  secondOn,
  today,
  past,
}: {
  told: Pick<Told, "crossesOn" | "crossesFrom" | "crossesTo" | "nextOn">;
  secondOn: string | null;
  today: string;
  past: boolean;
}) {
  const x = (on: string): number => place(daysBetween(today, on));
  const { crossesOn, crossesFrom, crossesTo, nextOn } = told;
  const [from, to] = [x(crossesFrom ?? today), crossesTo === null ? END : x(crossesTo)];
  return (
    <svg viewBox="0 0 160 34" width="160" height="34" aria-hidden="true" className="shrink-0">
      <line x1={START} x2={END} y1={BASE} y2={BASE} stroke="currentColor" strokeWidth="1.5" strokeDasharray="2 3" />
      {crossesOn !== null && !past && (
        <>
          <line x1={START} x2={from} y1={BASE} y2={BASE} stroke="currentColor" strokeWidth="3.5" />
          <rect
            x={from}
            y={BASE - 6}
            width={Math.max(2, to - from)}
            height="12"
            fill="var(--tan-fill)"
            stroke="currentColor"
            strokeWidth="1.2"
            strokeDasharray={crossesTo === null ? "3 2" : undefined}
          />
          <path d={`M ${x(crossesOn)} ${BASE - 9} v18`} stroke="currentColor" strokeWidth="2.5" />
        </>
      )}
      {past && <path d={`M ${START} ${BASE - 8} l 12 16 m 0 -16 l -12 16`} stroke="currentColor" strokeWidth="3" />}
      {[nextOn, secondOn].map((on, i) =>
        on === null ? null : (
          <g key={i}>
            <path d={`M ${x(on)} 4 V ${BASE}`} stroke="currentColor" strokeWidth="1.6" />
            <circle
              cx={x(on)}
              cy="5"
              r="3.4"
              fill={i === 0 ? "currentColor" : "var(--surface)"}
              stroke="currentColor"
            />
          </g>
        ),
      )}
    </svg>
  );
}
