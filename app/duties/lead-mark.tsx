import { daysBetween, type DueState } from "@core";

const START = 5;
const POST = 62;
const END = 79;

/**
 * The lead: how close a duty is to its due point. A knot where it was last done, a post where it is due, and a marker
 * for today; past the post when overdue, a fork when a second rule runs along, a padlock for a hard stop, a bar where the day is foretold
 * and may be earlier or later. Shapes alone
 * carry the meaning: it reads in black and white and at 80 px.
 */
export function LeadMark({
  state,
  anchorOn,
  dueOn,
  today,
  rivals = [],
  foretoldFrom = null,
  foretoldTo = null,
  hardStop = false,
  width = 96,
}: {
  state: DueState;
  anchorOn: string | null;
  dueOn: string | null;
  today: string;
  rivals?: readonly string[];
  /** Between which days its day lies, where it is foretold from what was measured. */
  foretoldFrom?: string | null;
  foretoldTo?: string | null;
  hardStop?: boolean;
  width?: number;
}) {
  const x = position(anchorOn, dueOn);
  const at = dueOn === null ? 22 : x(today);
  const rival =
    rivals.length === 0 || dueOn === null ? null : Math.min(END - 1, x(rivals.reduce((a, b) => (a < b ? a : b))));
  const band = bandOf(foretoldFrom, foretoldTo, dueOn === null ? null : x);
  const past = dueOn !== null && today > dueOn;
  return (
    <svg
      viewBox="0 0 82 26"
      width={width}
      height={(width * 26) / 82}
      role="img"
      aria-label={leadWords(state, dueOn, today)}
      className="shrink-0 overflow-visible"
    >
      {/* what is still to go, or what has run over */}
      <line
        x1={at}
        x2={dueOn === null ? END : POST}
        y1="16"
        y2="16"
        stroke="currentColor"
        strokeWidth="1.5"
        strokeDasharray="2 3"
      />
      {past && <path d={wave(POST, at)} fill="none" stroke="currentColor" strokeWidth="2.5" />}
      {/* what has been used */}
      <line x1={START} x2={past ? POST : at} y1="16" y2="16" stroke="currentColor" strokeWidth="3.5" />
      {rival !== null && (
        <path
          d={`M ${Math.min(at + 2, POST - 14)} 16 L ${Math.min(at + 2, POST - 14) + 6} 22 L ${rival} 22 M ${rival} 19 V 25`}
          fill="none"
          stroke="currentColor"
          strokeWidth="1.4"
        />
      )}
      {band && (
        <rect
          x={band.from}
          y="10.5"
          width={band.to - band.from}
          height="11"
          fill="var(--tan-fill)"
          fillOpacity="0.75"
          stroke="currentColor"
          strokeWidth="0.8"
        />
      )}
      <circle cx={START} cy="16" r="3.4" fill="var(--surface)" stroke="currentColor" strokeWidth="2" />
      {dueOn !== null &&
        (hardStop ? (
          <g>
            <path
              d={`M ${POST - 2.6} 11 V 8.5 a 2.6 2.6 0 0 1 5.2 0 V 11`}
              fill="none"
              stroke="currentColor"
              strokeWidth="1.6"
            />
            <rect x={POST - 4.2} y="11" width="8.4" height="10" fill="currentColor" />
          </g>
        ) : (
          <rect x={POST - 1.6} y="7" width="3.2" height="16" fill="currentColor" />
        ))}
      <path
        d={`M ${at} 13 L ${at - 4.5} 4 H ${at + 4.5} Z`}
        fill="var(--tan-fill)"
        stroke="currentColor"
        strokeWidth="1.4"
      />
    </svg>
  );
}

/** Where a day lies on the mark: the interval up to the post, and as much again squeezed behind it. */
function position(anchorOn: string | null, dueOn: string | null): (day: string) => number {
  if (dueOn === null) return () => START;
  const interval = anchorOn === null ? 7 : Math.max(1, daysBetween(anchorOn, dueOn));
  return (day) => {
    const share = 1 + daysBetween(dueOn, day) / interval;
    if (share <= 1) return START + Math.max(0, share) * (POST - START);
    return POST + 7 + (1 - 1 / (1 + (share - 1) * 2)) * (END - POST - 7);
  };
}

/** The bar of a foretold day, around the post; wide enough to be seen. */
function bandOf(
  from: string | null,
  to: string | null,
  x: ((day: string) => number) | null,
): { from: number; to: number } | null {
  if (from === null || !x) return null;
  const low = Math.min(POST - 2.5, Math.max(START + 5, x(from)));
  return { from: low, to: Math.max(POST + 2.5, to === null ? END : Math.min(END, x(to))) };
}

function wave(from: number, to: number): string {
  const steps = Math.max(2, Math.round((to - from) / 3));
  const length = (to - from) / steps;
  return Array.from(
    { length: steps },
    (_, i) => `${i === 0 ? `M ${from} 16` : ""} q ${length / 2} ${i % 2 ? 4 : -4} ${length} 0`,
  ).join(" ");
}

/** The same in words, for the list and for screen readers. */
export function leadWords(state: DueState, dueOn: string | null, today: string): string {
  if (dueOn === null) return "no due day yet";
  const days = daysBetween(today, dueOn);
  const count = (n: number): string => `${n} ${n === 1 ? "day" : "days"}`;
  if (state === "stopped") return `locked: ${count(-days)} past, must stand still`;
  if (days < 0) return `${count(-days)} overdue`;
  if (days === 0) return "due today";
  return `due in ${count(days)}`;
}
