import { must } from "../must";
import { closes, isSameWork } from "./equal-steps";
import type { Procedure, Step } from "./procedure";
import { StateRules } from "./states";

/**
 * What a nested procedure ends with comes where the whole lets it: its refits, as no procedure gives an order between them and
 * those outside, in reverse, behind the refits of what comes off later; and what closes it behind the work outside it that
 * still needs the machine in a state that the closing would end: a machine that is isolated for both is powered once, for all
 * proofs.
 *
 * @param whole with nested procedures in place, their steps together
 */
export function closeLater(whole: Procedure): Procedure {
  if (!whole.states || whole.states.length === 0) return whole;
  const rules = new StateRules(whole.states);
  const steps = [...whole.steps];
  for (const nested of new Set(steps.map(topOf).filter((id) => id !== null))) {
    refitLater(steps, nested);
    const end = steps.findLastIndex((step) => topOf(step) === nested);
    const from = beginOfEnd(steps, nested, closes);
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

/** Where the end of a nested procedure begins; a wait for what closes it is part of it: a pump runs warm, then drips are looked for. */
function beginOfEnd(steps: readonly Step[], nested: string, isEnd: (step: Step) => boolean): number {
  const end = steps.findLastIndex((step) => topOf(step) === nested);
  let from = end + 1;
  const belongs = (at: number): boolean => {
    const step = must(steps[at]);
    if (topOf(step) !== nested) return false;
    return isEnd(step) || (step.kind === "wait" && step.path === undefined && at < end && closes(must(steps[at + 1])));
  };
  while (from > 0 && belongs(from - 1)) from--;
  return from;
}

/** Moves the refits at a nested procedure's end, and what closes it, behind the refits of what comes off after it. */
function refitLater(steps: Step[], nested: string): void {
  const end = steps.findLastIndex((step) => topOf(step) === nested);
  const from = beginOfEnd(steps, nested, (step) => closes(step) || (step.putsBack ?? []).length > 0);
  const items = new Set(steps.slice(from, end + 1).flatMap((step) => (step.putsBack ?? []).map((one) => one.item)));
  if (items.size === 0) return;
  // What comes off once more, otherwise, is back on before.
  const own = steps.filter((step) => topOf(step) === nested);
  const isAnother = (step: Step): boolean =>
    (step.takesOff ?? []).some(({ item }) => items.has(item)) && !own.some((one) => isSameWork(one, step));
  if (steps.slice(end + 1).some(isAnother)) return;
  const later = new Set(steps.slice(end + 1).flatMap((step) => (step.takesOff ?? []).map((one) => one.item)));
  const last = steps.findLastIndex((step, i) => i > end && (step.putsBack ?? []).some(({ item }) => later.has(item)));
  if (last < 0) return;
  const moved = steps.splice(from, end + 1 - from);
  steps.splice(last + 1 - moved.length, 0, ...moved);
}

/** The nested step of the procedure itself that a step came with; null when it is the procedure's own. */
function topOf(step: Step): string | null {
  return step.workedFor?.at(-1)?.within ?? null;
}
