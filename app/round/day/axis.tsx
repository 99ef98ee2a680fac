import { clockTime } from "@core";
import type { ReactNode } from "react";

import { axisMarks, percent, type Span } from "./score-layout";

/** Times above a strip or lanes. */
export function Axis({ span, now }: { span: Span; now: number | null }) {
  const marks = axisMarks(span);
  return (
    <div className="relative h-6 text-xs text-ink-soft" aria-hidden="true">
      {marks.map((minute, i) => {
        const left = percent(minute, span);
        // A label at the very end would hang over.
        return (
          <span
            key={minute}
            className={`figure absolute bottom-0 ${i === 0 && left < 2 ? "" : left > 96 ? "-translate-x-full" : "-translate-x-1/2"}`}
            style={{ left: `${left}%` }}
          >
            {clockTime(minute)}
          </span>
        );
      })}
      {now !== null && now >= span.from && now <= span.to && (
        <span
          className="absolute -bottom-1 h-2 w-0 border-x-4 border-t-8 border-x-transparent border-t-ink"
          style={{ left: `calc(${percent(now, span)}% - 4px)` }}
        />
      )}
    </div>
  );
}

/** One lane: its name beside it on wide screens, above it on phones. */
export function Lane({ name, children, tall = false }: { name: ReactNode; children: ReactNode; tall?: boolean }) {
  return (
    <div className="sm:flex sm:items-stretch sm:gap-3">
      <div className="min-w-0 text-sm leading-tight sm:w-48 sm:shrink-0 sm:py-1 wrap-anywhere">{name}</div>
      <div className={`relative min-w-0 flex-1 border-b border-line bg-sunken ${tall ? "h-10" : "h-9"}`}>
        {children}
      </div>
    </div>
  );
}
