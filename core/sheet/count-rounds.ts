import type { Step } from "./procedure";
import { type RunState, stepKey } from "./run-state";

/** A block is in the round after its unbroken run of "again" answers, and in its last one whatever the answer there is. */
export function countRounds(
  steps: ReadonlyMap<string, Step>,
  state: RunState,
  mostRounds: (step: string) => number,
): void {
  for (const step of steps.values()) {
    if (step.kind !== "repeat") continue;
    const most = mostRounds(step.id);
    let round = 1;
    while (round < most && state.steps[stepKey(step.id, round)]?.answer === "again") round++;
    if (round > 1) state.rounds[step.id] = round;
  }
}
