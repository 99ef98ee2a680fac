import { type SheetStep, sheetStep, sheetSteps } from "./next-steps";
import type { MachineFacts, Procedure } from "./procedure";
import { type RunState, stepKey } from "./run-state";

/**
 * The sheet's steps for a record: as {@link sheetSteps}, and before the last round of a repeat block everything that was
 * logged in the rounds before it, round by round.
 */
export function allRounds(procedure: Procedure, state: RunState, machine: MachineFacts): SheetStep[] {
  const listed: SheetStep[] = [];
  const now = new Map(sheetSteps(procedure, state, machine).map((one) => [one.step, one]));
  const blockStart = new Map<string, { end: number; rounds: number }>();
  procedure.steps.forEach((step, end) => {
    if (step.kind === "repeat") blockStart.set(step.from, { end, rounds: state.rounds[step.id] ?? 1 });
  });
  procedure.steps.forEach((definition, i) => {
    const block = blockStart.get(definition.id);
    for (let round = 1; block && round < block.rounds; round++) {
      for (const inner of procedure.steps.slice(i, block.end + 1)) {
        const at = state.steps[stepKey(inner.id, round)];
        if (at) listed.push(sheetStep(inner, round, at));
      }
    }
    const current = now.get(definition.id);
    if (current) listed.push(current);
  });
  return listed;
}
