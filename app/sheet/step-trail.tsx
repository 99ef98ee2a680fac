import type { SheetStep, StepRef, StepStatus } from "@core";
import { must } from "@core";
import { clsx } from "clsx";
import { memo, useCallback, useEffect, useRef } from "react";

import { outcomeOf } from "./step-outcome";

const MARKS = { done: "✓", skipped: "–", "not-applicable": "/", running: "•", open: "" } as const;

/** All steps in order, what became of each, and where the work is now. */
export function StepTrail({
  steps,
  shown,
  next,
  unsent,
  onOpen,
}: {
  steps: SheetStep[];
  shown: StepRef | null;
  next: StepRef[];
  unsent: ReadonlySet<string>;
  onOpen: (step: SheetStep) => void;
}) {
  const latest = useRef({ steps, onOpen });
  useEffect(() => {
    latest.current = { steps, onOpen };
  });
  const open = useCallback((i: number) => latest.current.onOpen(must(latest.current.steps[i])), []);
  return (
    <ol className="space-y-px">
      {steps.map((one, i) => (
        <Row
          key={one.step}
          place={i}
          title={one.definition.title}
          area={one.definition.area !== steps[i - 1]?.definition.area ? (one.definition.area ?? null) : null}
          status={one.state?.status ?? "open"}
          round={one.round}
          outcome={outcomeOf(one)}
          isNext={next.some((ref) => ref.step === one.step && ref.round === one.round)}
          isShown={shown?.step === one.step && shown.round === one.round}
          waits={one.state?.lastEventId != null && unsent.has(one.state.lastEventId)}
          onOpen={open}
        />
      ))}
    </ol>
  );
}

// Plain values only: on a sheet of a hundred steps a tap draws the two rows that it changes, not all of them.
const Row = memo(function Row({
  place,
  title,
  area,
  status,
  round,
  outcome,
  isNext,
  isShown,
  waits,
  onOpen,
}: {
  place: number;
  title: string;
  area: string | null;
  status: StepStatus;
  round: number;
  outcome: string;
  isNext: boolean;
  isShown: boolean;
  waits: boolean;
  onOpen: (place: number) => void;
}) {
  return (
    <li>
      {area !== null && <p className="mt-2 px-2 text-sm font-bold">{area}</p>}
      <button
        type="button"
        onClick={() => onOpen(place)}
        aria-current={isShown ? "step" : undefined}
        className={clsx(
          "flex min-h-11 w-full items-start gap-2 border-l-4 px-2 py-1.5 text-left text-sm",
          isShown ? "border-tan-fill bg-surface font-semibold" : "border-transparent hover:bg-surface",
          !isNext && status === "open" && "text-ink-soft",
        )}
      >
        <span
          aria-hidden="true"
          className={clsx(
            "figure mt-0.5 grid size-5 shrink-0 place-items-center rounded-full border text-xs",
            status === "done" ? "border-fill bg-fill text-on-fill" : "border-current",
          )}
        >
          {MARKS[status] || place + 1}
        </span>
        <span className="min-w-0 wrap-anywhere">
          {title}
          <span className="sr-only">, {status.replace("-", " ")}</span>
          {round > 1 && <span className="text-ink-soft"> · pass {round}</span>}
          <span className="block font-normal text-ink-soft">{outcome}</span>
          {waits && <span className="block font-semibold">not sent yet</span>}
        </span>
      </button>
    </li>
  );
});
