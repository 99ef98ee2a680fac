import { must } from "../must";
import type { Procedure, Step } from "./procedure";
import { StateRules } from "./states";

const CLOSES = new Set<Step["kind"]>(["prove", "reset", "hand-off"]);

/**
 * What closes a nested procedure comes behind the work outside it that still needs the machine in a state that the closing
 * would end: a machine that is isolated for both is powered once, for all proofs.
 *
 * @param whole with nested procedures in place, their steps together
 */
export function closeLater(whole: Procedure): Procedure {
  if (!whole.states || whole.states.length === 0) return whole;
  const rules = new StateRules(whole.states);
  const steps = [...whole.steps];
  for (const nested of new Set(steps.map(topOf).filter((id) => id !== null))) {
    const end = steps.findLastIndex((step) => topOf(step) === nested);
    let from = end + 1;
    while (from > 0 && topOf(must(steps[from - 1])) === nested && CLOSES.has(must(steps[from - 1]).kind)) from--;
    const needs = steps.slice(from, end + 1).flatMap((step) => rules.needs(step));
    const last = steps.findLastIndex(
      (step, i) => i > end && rules.needs(step).some((state) => needs.some((one) => rules.ends(one, state))),
    );
    if (last < 0) continue;
    const closing = steps.splice(from, end + 1 - from);
    steps.splice(last + 1 - closing.length, 0, ...closing);
  }
  return { ...whole, steps };
}

/** The nested step of the procedure itself that a step came with; null when it is the procedure's own. */
function topOf(step: Step): string | null {
  return step.workedFor?.at(-1)?.within ?? null;
}
