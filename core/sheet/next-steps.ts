import { requireList, requireRecord } from "../inputs";
import { must } from "../must";
import type { MachineFacts, Procedure, Step, StepCondition, StepRef } from "./procedure";
import { isSettled, type RunState, stepKey, type StepState } from "./run-state";
import { SheetPaths, withoutIdlePaths } from "./sheet-paths";
import { withoutIdleGates } from "./standing-gates";

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
  const answer = latest.get(condition.step)?.answer ?? null;
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
    const head = headOf(steps, running);
    if (head && !paths.isHeld(head)) open.push(head);
  }
  return [...open, ...running].map(({ step, round }) => ({ step, round }));
}

/** The first open step of one way that nothing running forbids; its running waits are added to those of all. */
function headOf(steps: readonly SheetStep[], running: SheetStep[]): SheetStep | null {
  const own: SheetStep[] = [];
  for (const one of steps) {
    // Several waits at once allow only what all of them allow.
    const allowed = own.every(
      (wait) => wait.definition.kind === "wait" && (wait.definition.meanwhile ?? []).includes(one.step),
    );
    if (one.settled || !allowed) continue;
    if (one.definition.kind !== "wait" || one.state?.status !== "running") return one;
    own.push(one);
    running.push(one);
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
