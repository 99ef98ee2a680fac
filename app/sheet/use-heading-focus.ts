import { useEffect, useRef } from "react";

const STEP_TITLE = "step-title";
/** Heading of the check or gate in sight, within a search. */
export const CARD_TITLE = "card-title";

/**
 * Focus goes with the work: to the heading of the next step, of the next card within one, of what it came to, which is read out with its place. Not away from where somebody is
 * typing, when another device has logged something.
 *
 * @param chosen somebody has gone to the step
 */
export function useHeadingFocus(step: string | null, chosen: boolean, id = STEP_TITLE): void {
  const before = useRef(step);
  useEffect(() => {
    if (before.current === step) return;
    before.current = step;
    const { activeElement } = document;
    if (chosen || activeElement === null || activeElement === document.body) document.getElementById(id)?.focus();
  }, [step, chosen, id]);
}
