import { clsx } from "clsx";
import type { SheetStep, StepRef } from "@core";
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
  return (
    <ol className="space-y-px">
      {steps.map((one, i) => {
        const status = one.state?.status ?? "open";
        const isNext = next.some((ref) => ref.step === one.step && ref.round === one.round);
        const isShown = shown?.step === one.step && shown.round === one.round;
        const waits = one.state?.lastEventId != null && unsent.has(one.state.lastEventId);
        return (
          <li key={one.step}>
            <button
              type="button"
              onClick={() => onOpen(one)}
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
                {MARKS[status] || i + 1}
              </span>
              <span className="min-w-0 wrap-anywhere">
                {one.definition.title}
                <span className="sr-only">, {status.replace("-", " ")}</span>
                {one.round > 1 && <span className="text-ink-soft"> · round {one.round}</span>}
                <span className="block font-normal text-ink-soft">{outcomeOf(one)}</span>
                {waits && <span className="block font-semibold">not sent yet</span>}
              </span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}
