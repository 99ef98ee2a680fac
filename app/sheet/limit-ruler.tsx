import { judgeReading, type Limits, limitWords, must } from "@core";

const WIDTH = 320;
const LEFT = 14;
const RIGHT = WIDTH - 14;

/** Height of a value's own line over the band, so that values close to each other stay readable. */
const LINE = 18;

export interface RulerMark {
  /** Which point was read; "" where there is one alone. */
  label: string;
  value: number;
}

/**
 * Readings of one measurement against its limits: the allowed band, the last readings as ghosts, each new value where it falls.
 * Out of band speaks by hatching and words. Readings beyond the ruler sit at its end with an arrow.
 */
export function LimitRuler({
  limits,
  target,
  unit,
  marks,
  ghosts,
}: {
  limits: Limits;
  target?: number | undefined;
  unit: string;
  marks: readonly RulerMark[];
  ghosts: readonly number[];
}) {
  const low = limits.min ?? limits.above ?? null;
  const high = limits.max ?? limits.below ?? null;
  const [from, to] = rangeOf(low, high, target);
  const x = (figure: number): number => LEFT + Math.min(1, Math.max(0, (figure - from) / (to - from))) * (RIGHT - LEFT);
  const bandFrom = low === null ? LEFT - 14 : x(low);
  const bandTo = high === null ? RIGHT + 14 : x(high);
  const allowed = `Allowed: ${limitWords(limits, unit)}`;
  const said = marks.map(
    ({ label, value }) => `${label && `${label} `}${value} ${unit}: ${WORDS[judgeReading(value, limits)]}`,
  );
  const top = LINE * Math.max(0, marks.length - 1);
  return (
    <figure>
      <svg
        viewBox={`0 ${-top} ${WIDTH} ${76 + top}`}
        className="w-full max-w-xl"
        role="img"
        aria-label={[...said, allowed].join(". ")}
      >
        <Hatch />
        <rect x="0" y="30" width={WIDTH} height="16" fill="url(#hatch)" stroke="var(--ink)" strokeWidth="1" />
        <rect
          x={bandFrom}
          y="26"
          width={Math.max(2, bandTo - bandFrom)}
          height="24"
          fill="var(--surface)"
          stroke="var(--ink)"
          strokeWidth="2"
        />
        {target !== undefined && (
          <line
            x1={x(target)}
            x2={x(target)}
            y1="30"
            y2="46"
            stroke="var(--ink-soft)"
            strokeDasharray="2 2"
            strokeWidth="1.5"
          />
        )}
        {[low, high].map((limit) =>
          limit === null ? null : (
            <text
              key={limit}
              x={x(limit)}
              y="68"
              textAnchor="middle"
              className="figure"
              fontSize="14"
              fill="var(--ink)"
            >
              {limit}
            </text>
          ),
        )}
        {ghosts.map((ghost, i) => (
          <circle
            key={i}
            cx={x(ghost)}
            cy="38"
            r={3 + i * 0.6}
            fill="none"
            stroke="var(--ink-soft)"
            strokeWidth="1.5"
          />
        ))}
        {marks.map(({ label, value }, i) => (
          <g key={label}>
            {i > 0 && (
              <line x1={x(value)} x2={x(value)} y1={24 - i * LINE} y2="26" stroke="var(--ink)" strokeWidth="1" />
            )}
            <path d={`M ${x(value)} 40 l -8 -14 h 16 z`} fill="var(--tan-fill)" stroke="var(--ink)" strokeWidth="1.6" />
          </g>
        ))}
        {marks.map(({ label, value }, i) => (
          <text
            key={label}
            {...placeOf(x(value))}
            y={20 - i * LINE}
            className="figure"
            fontSize="16"
            fontWeight="700"
            fill="var(--ink)"
            // Over the lines of the marks above it.
            paintOrder="stroke"
            stroke="var(--surface)"
            strokeWidth="4"
          >
            {value < from ? "« " : ""}
            {label === "" ? "" : `${label} `}
            {value}
            {value > to ? " »" : ""}
          </text>
        ))}
      </svg>
      <figcaption className="text-sm">
        Allowed: <span className="figure">{limitWords(limits, unit)}</span>
        {ghosts.length > 0 && <span className="text-ink-soft"> · circles: last readings</span>}
      </figcaption>
    </figure>
  );
}

const Hatch = () => (
  <defs>
    <pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <rect width="6" height="6" fill="var(--surface)" />
      <line x1="0" y1="0" x2="0" y2="6" stroke="var(--ink)" strokeWidth="1.6" />
    </pattern>
  </defs>
);

const WORDS = { in: "within limits", low: "too low", high: "too high" } as const;

/** Words over a place, within the ruler at both of its ends. */
function placeOf(x: number): { x: number; textAnchor: "start" | "middle" | "end" } {
  if (x < WIDTH * 0.25) return { x: Math.max(2, x - 12), textAnchor: "start" };
  if (x > WIDTH * 0.75) return { x: Math.min(WIDTH - 2, x + 12), textAnchor: "end" };
  return { x, textAnchor: "middle" };
}

/** The stretch of the scale to draw: the band with as much again around it. */
function rangeOf(low: number | null, high: number | null, target: number | undefined): [number, number] {
  if (low !== null && high !== null) {
    const width = high - low || Math.abs(high) || 1;
    return [low - width * 0.6, high + width * 0.6];
  }
  const edge = must(low ?? high);
  const reach = Math.abs(target !== undefined ? target - edge : edge) || 1;
  return low !== null ? [edge - reach * 0.6, edge + reach] : [Math.min(0, edge - reach), edge + reach * 0.8];
}
