import { timedBounds } from "../sheet/judge";
import { currentRounds } from "../sheet/next-steps";
import type { Procedure } from "../sheet/procedure";
import { isSettled, type RunState, stepKey } from "../sheet/run-state";
import type { ProcedurePhases } from "./procedure-phases";
import type { Phase } from "./types";

export interface RemainingPhases {
  phases: Phase[];
  /** When the first phase is a wait that is running: the instant it was started. */
  waitingSince: string | null;
}

/**
 * What is left of a procedure's phases on a sheet that is being worked: settled steps are gone, a hands phase is as long as
 * its open steps' share, a clock that runs is a wait that has begun.
 */
export function remainingPhases(procedure: Procedure, planned: ProcedurePhases, state: RunState): RemainingPhases {
  // Inside a block that is repeated, what was done in a pass before does not settle this one.
  const rounds = currentRounds(procedure, state);
  const now = new Map(
    procedure.steps.map((step, i) => [step.id, state.steps[stepKey(step.id, rounds[i] ?? 1)] ?? null]),
  );
  const settled = (id: string): boolean => isSettled(now.get(id) ?? null);
  const running = procedure.steps.find((step) => now.get(step.id)?.status === "running" && timedBounds(step));
  const phases: Phase[] = [];
  let waitingSince: string | null = null;
  if (running) {
    const { minMinutes, maxMinutes } = timedBounds(running)!;
    waitingSince = now.get(running.id)!.timer?.startedAt ?? null;
    const least = Math.ceil(minMinutes - 1e-9);
    if (waitingSince !== null) {
      phases.push({
        kind: "wait",
        minutes: least,
        ...(maxMinutes === undefined ? {} : { maxMinutes: Math.max(least, Math.floor(maxMinutes + 1e-9)) }),
        ...(running.needs ? { uses: running.needs } : {}),
      });
    }
  }
  planned.phases.forEach((phase, i) => {
    const steps = planned.steps[i]!;
    if (phase.kind === "wait") {
      // The clock itself, run or running, is no planned wait any more.
      if (!steps.some((id) => settled(id) || id === running?.id)) phases.push(phase);
      return;
    }
    const open = steps.filter((id) => !settled(id) && id !== running?.id);
    if (open.length > 0)
      phases.push({ ...phase, minutes: Math.max(1, Math.round((phase.minutes * open.length) / steps.length)) });
  });
  const last = phases[phases.length - 1];
  if (last?.kind === "wait") {
    const { maxMinutes: _longest, ...open } = last;
    phases[phases.length - 1] = open;
  }
  return { phases: phases.map(({ ...phase }) => phase), waitingSince };
}
