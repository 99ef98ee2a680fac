import type { PracticeLine } from "@core";

import { inHours } from "~/kit/days/day-time";

/** What was done and seen, with the machine's own time. */
export function Happened({ lines, label = "What happened" }: { lines: readonly PracticeLine[]; label?: string }) {
  if (lines.length === 0) return <p className="text-ink-soft">Nothing done yet.</p>;
  return (
    <ol aria-label={label} className="space-y-1.5">
      {lines.map(({ minute, text, kind }, i) => (
        <li key={i} className="flex gap-3 wrap-anywhere">
          <span className="figure w-14 shrink-0 text-right text-sm text-ink-soft">{inHours(minute)}</span>
          <span className={kind === "unsafe" ? "min-w-0 font-semibold" : "min-w-0"}>
            {kind === "unsafe" && "! Unsafe: "}
            {text}
          </span>
        </li>
      ))}
    </ol>
  );
}
