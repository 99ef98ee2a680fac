import { requireList, requireRecord } from "../inputs";
import { must } from "../must";
import type { MachineFacts, Procedure, Step, StepCondition, StepRef } from "./procedure";
import { isSettled, type RunState, stepKey, type StepState } from "./run-state";
import { SheetPaths, withoutIdlePaths } from "./sheet-paths";
import { withoutIdleGates } from "./standing-gates";
import { gateOf } from "./states";

/** A step of the sheet as it stands for this machine and this run. */
export interface SheetStep extends StepRef {
  definition: Step;
  /** Null while nothing was logged on it. */
  state: StepState | null;
  settled: boolean;
}

/** The round that each step is in: that of the innermost repeat block around it. */
export function currentRounds({ steps }: Procedure, state: RunState): number[] {
  const rounds = steps.map(() => 1);
  const place = new Map<string, number>();
  steps.forEach((step, i) => {
    if (!place.has(step.id)) place.set(step.id, i);
  });
  // From the end on, so that of blocks in one another the one that ends first has the last word.
  for (let end = steps.length - 1; end >= 0; end--) {
    const step = must(steps[end]);
    if (step.kind !== "repeat") continue;
    const from = place.get(step.from) ?? end + 1;
    rounds.fill(state.rounds[step.id] ?? 1, from, Math.max(from, end + 1));
  }
  return rounds;
}

/** A step of a sheet, with what was logged on it. */
export const sheetStep = (definition: Step, round: number, state: StepState | null): SheetStep => ({
  step: definition.id,
  round,
  definition,
  state,
  settled: isSettled(state),
});

/**
 * The steps that this machine's sheet has now, in order: variants that are not fitted, branches that were not taken, parts
 * that did not come off, and gates that change nothing are gone.
 */
export function sheetSteps(procedure: Procedure, state: RunState, machine: MachineFacts): SheetStep[] {
  requireList(requireRecord(procedure, "procedure").steps, "procedure.steps");
  requireRecord(requireRecord(state, "state").steps, "state.steps");
  requireList(requireRecord(machine, "machine").options, "machine.options");
  const latest = new Map<string, StepState | null>();
  const shown: SheetStep[] = [];
  const rounds = currentRounds(procedure, state);
  procedure.steps.forEach((definition, index) => {
    const round = must(rounds[index]);
    const at = state.steps[stepKey(definition.id, round)] ?? null;
    const holds = (definition.when ?? []).every((condition) => conditionHolds(condition, latest, machine));
    if (!holds) return;
    latest.set(definition.id, at);
    shown.push(sheetStep(definition, round, at));
  });
  return withoutIdleGates(procedure, withoutIdlePaths(procedure, shown, state), state);
}

/** @param latest what was logged on the steps that stand, by their ids */
export function conditionHolds(
  condition: StepCondition,
  latest: ReadonlyMap<string, StepState | null>,
  machine: MachineFacts,
): boolean {
  if ("option" in condition) return machine.options.includes(condition.option) === condition.fitted;
  const at = latest.get(condition.step);
  // A part that is renewed though it is within its limit is renewed as one beyond it.
  const answer = (at?.decided?.choice === "now" && at.answer === "in" ? at.decided.side : at?.answer) ?? null;
  return condition.is === "out" ? answer === "low" || answer === "high" : answer === condition.is;
}

/**
 * What may be done now: the first open step of the machine's own way, then that of each open path on the bench; while a wait
 * of theirs runs, the steps that may be done meanwhile. Running waits come last. A refit waits for the end of its part's path;
 * a proof and the hand-off wait until nothing is off that has to go back on.
 *
 * @returns empty when the sheet is settled or closed
 */
export function nextSteps(procedure: Procedure, state: RunState, machine: MachineFacts): StepRef[] {
  if (requireRecord(state, "state").status === "signed" || state.status === "ended") return [];
  const shown = sheetSteps(procedure, state, machine);
  const paths = new SheetPaths(procedure, shown, state);
  const running: SheetStep[] = [];
  const open: SheetStep[] = [];
  for (const [path, steps] of paths.lanes) {
    if (path !== null && !paths.isOpen(path)) continue;
    const head = headOf(steps, running, paths);
    if (head && !paths.isHeld(head)) open.push(head);
  }
  return [...open, ...running].map(({ step, round }) => ({ step, round }));
}

/**
 * The first open step of one way that nothing running forbids; its running waits are added to those of all. What may be done
 * meanwhile keeps its gates: they are passed when nothing that has to wait lies before them, and only when the waits do not
 * need the state that they end.
 */
function headOf(steps: readonly SheetStep[], running: SheetStep[], paths: SheetPaths): SheetStep | null {
  const own: SheetStep[] = [];
  // Several waits at once allow only what all of them allow.
  const mayBe = (one: SheetStep): boolean =>
    own.every((wait) => wait.definition.kind === "wait" && (wait.definition.meanwhile ?? []).includes(one.step));
  // No part goes back before it came off, and none moves ahead of a pass in which it may come off once more.
  let again = false;
  const mayMove = (one: SheetStep): boolean =>
    (one.definition.takesOff ?? one.definition.putsBack) === undefined || (!again && paths.isOff(one));
  let passedOver = false;
  for (const [i, one] of steps.entries()) {
    if (one.settled) continue;
    if (one.definition.kind === "wait" && one.state?.status === "running" && mayBe(one)) {
      own.push(one);
      running.push(one);
      continue;
    }
    if (own.length === 0) return one;
    if (gateOf(one.definition)) {
      const served = steps.slice(i).find((later) => !later.settled && !gateOf(later.definition));
      if (!passedOver && served && mayBe(served) && !paths.endsAny(one, own)) return one;
    } else if (mayBe(one) && paths.hasItsState(one) && mayMove(one)) return one;
    if (one.definition.kind === "repeat") again = true;
    passedOver = true;
  }
  return null;
}

export interface MissingStep extends StepRef {
  title: string;
  /** The counter's reset and the proof at the end are what gets forgotten most: they are named apart. */
  weight: "reset" | "proof" | "safety" | "step";
}

/** What stands between this sheet and a signature: the steps that are neither done, skipped nor not applicable. */
export function missingSteps(procedure: Procedure, state: RunState, machine: MachineFacts): MissingStep[] {
  return sheetSteps(procedure, state, machine)
    .filter((one) => !one.settled)
    .map(({ step, round, definition }) => ({
      step,
      round,
      title: definition.title,
      weight:
        definition.kind === "reset"
          ? "reset"
          : definition.kind === "prove"
            ? "proof"
            : definition.kind === "safety"
              ? "safety"
              : "step",
    }));
}
