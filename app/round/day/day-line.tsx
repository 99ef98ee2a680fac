import { clockTime, type DayPlan } from "@core";

import { Axis } from "./axis";
import { percent, type Span } from "./score-layout";

/** The whole day on one line: ways thin, sites thick, the end wished for as a post. */
export function DayLine({
  plan,
  startAt,
  endBy,
  siteName,
  now,
  done,
}: {
  plan: DayPlan;
  startAt: number;
  endBy: number;
  siteName: (id: string) => string;
  now: number | null;
  done: (site: string) => boolean;
}) {
  const span: Span = { from: Math.min(startAt, plan.stops[0]?.arrive ?? startAt), to: Math.max(endBy, plan.endAt) + 5 };
  return (
    <div className="overflow-hidden" aria-hidden="true">
      <Axis span={span} now={now} />
      <div className="relative h-14 border-b border-line bg-sunken">
        <span
          className="absolute top-1/2 h-0.5 bg-ink"
          style={{
            left: `${percent(startAt, span)}%`,
            width: `${percent(plan.endAt, span) - percent(startAt, span)}%`,
          }}
        />
        {plan.stops.map((stop) => (
          <span
            key={stop.site}
            className={`absolute inset-y-2 overflow-hidden border-2 border-ink px-1 text-xs leading-tight ${done(stop.site) ? "bg-tan-fill text-on-tan" : "bg-surface"}`}
            style={{
              left: `${percent(stop.arrive, span)}%`,
              width: `${percent(stop.leave, span) - percent(stop.arrive, span)}%`,
            }}
            title={`${siteName(stop.site)} ${clockTime(stop.arrive)}–${clockTime(stop.leave)}`}
          >
            {siteName(stop.site)}
          </span>
        ))}
        {(plan.breaks ?? []).map((one) => (
          <span
            key={one.from}
            className="absolute bottom-0.5 h-3 border-2 border-dotted border-ink bg-surface"
            style={{
              left: `${percent(one.from, span)}%`,
              width: `${percent(one.to, span) - percent(one.from, span)}%`,
            }}
            title={`Break ${clockTime(one.from)}–${clockTime(one.to)}`}
          />
        ))}
        <span
          className="absolute inset-y-0 border-r-4 border-ink"
          style={{ left: `calc(${percent(endBy, span)}% - 2px)` }}
          title={`Back by ${clockTime(endBy)}`}
        />
      </div>
    </div>
  );
}
