import { instantMs } from "../days/parse-instant";
import type { Step } from "./procedure";
import type { RunState, StepState } from "./run-state";

/**
 * What was logged on some steps, in every pass, as it was logged; what was logged at once in the sheet's order, and what is not
 * settled at the end.
 *
 * @param steps in the sheet's order
 */
export function inTime(
  steps: Iterable<Step>,
  state: Pick<RunState, "steps">,
  wanted: (step: Step) => boolean,
): StepState[] {
  const places = new Map<string, number>();
  let place = 0;
  for (const step of steps) {
    if (wanted(step)) places.set(step.id, place);
    place++;
  }
  if (places.size === 0) return [];
  return Object.values(state.steps)
    .flatMap((at) => {
      const own = places.get(at.step);
      return own === undefined ? [] : [{ at, place: own, ms: at.at === null ? Infinity : instantMs(at.at, "at") }];
    })
    .sort((a, b) => (a.ms === b.ms ? a.at.round - b.at.round || a.place - b.place : a.ms - b.ms))
    .map((one) => one.at);
}
