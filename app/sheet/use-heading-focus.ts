import { useEffect, useRef } from "react";

/**
 * Focus goes with the work: to the next step's heading, which is read out with its place. Not away from where somebody is
 * typing, when another device has logged something.
 *
 * @param chosen somebody has gone to the step
 */
export function useHeadingFocus(step: string | null, chosen: boolean): void {
  const before = useRef(step);
  useEffect(() => {
    if (before.current === step) return;
    before.current = step;
    const { activeElement } = document;
    if (chosen || activeElement === null || activeElement === document.body)
      document.getElementById("step-title")?.focus();
  }, [step, chosen]);
}
