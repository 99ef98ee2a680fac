import type { RunEventBody, SheetStep, StepRef } from "@core";
import { useCallback, useState } from "react";

export const same = (a: StepRef | null, b: StepRef | null): boolean =>
  a !== null && b !== null && a.step === b.step && a.round === b.round;

/**
 * Of all that may be done now, what comes first in the sheet's own order: parts go into their soak before the machine they came
 * off is wiped. What only waits comes last.
 */
export const firstInOrder = (steps: readonly SheetStep[], next: readonly StepRef[]): SheetStep | null => {
  const open = steps.filter((one) => next.some((ref) => same(ref, one)));
  return open.find((one) => one.definition.kind !== "wait" || one.state?.status !== "running") ?? open[0] ?? null;
};

/** Which step is on the page: the one that was gone to, one whose clock or reading has just come out wrong, else where the work is. */
export function useShownStep(
  steps: readonly SheetStep[],
  next: readonly StepRef[],
  /** Whether a settled step still wants somebody: the page stays with it after the tap that settled it. */
  wants: (one: SheetStep | null) => boolean,
): {
  chosen: StepRef | null;
  shown: SheetStep | null;
  choose: (one: StepRef | null) => void;
  /** After a tap the work is followed on. */
  follow: (bodies: readonly RunEventBody[]) => void;
} {
  const [chosen, setChosen] = useState<StepRef | null>(null);
  const [stopped, setStopped] = useState<StepRef | null>(null);
  const find = (ref: StepRef | null): SheetStep | null => steps.find((one) => same(one, ref)) ?? null;
  const held = find(stopped);
  const choose = useCallback((one: StepRef | null) => {
    setChosen(one === null ? null : { step: one.step, round: one.round });
    setStopped(null);
  }, []);
  const follow = useCallback((bodies: readonly RunEventBody[]) => {
    setChosen(null);
    const judged = bodies.findLast((body) => body.type === "timer-stopped" || body.type === "reading") ?? null;
    // A part that was taken for what is out of its limits leaves the page with it.
    if (judged || !bodies.every((body) => body.type === "consumable-used" || body.type === "part-fitted"))
      setStopped(judged);
  }, []);
  return {
    chosen,
    shown: find(chosen) ?? (wants(held) ? held : firstInOrder(steps, next)),
    choose,
    follow,
  };
}
