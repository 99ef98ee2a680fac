import { timedBounds } from "../sheet/judge";
import { currentRounds, type SheetStep, sheetStep } from "../sheet/next-steps";
import type { Procedure, Step } from "../sheet/procedure";
import { type RunState, stepKey } from "../sheet/run-state";
import { withoutIdlePaths } from "../sheet/sheet-paths";
import { type BenchPath, MACHINE } from "./bench-jobs";
import type { ProcedurePhases } from "./procedure-phases";
import type { Phase, PhaseRef } from "./types";

export interface RemainingPhases {
  phases: Phase[];
  /** When the first phase is a wait that is running: the instant it was started. */
  waitingSince: string | null;
  /** What is left of the ways on the bench, each with when its first wait was started. */
  bench?: (BenchPath & { waitingSince: string | null })[];
}

interface Way {
  path: string;
  after: PhaseRef[];
  phases: Phase[];
  steps: string[][];
}

/** What is left of one way, and where its phases stand now: those that are over stand nowhere. */
interface Left {
  way: Way;
  phases: Phase[];
  waitingSince: string | null;
  placeOf: Map<number, number>;
}

/**
 * What is left of a procedure's phases on a sheet that is being worked: settled steps are gone, a hands phase is as long as
 * its open steps' share, a clock that runs is a wait that has begun. So for the machine's way and for each on the bench.
 */
export function remainingPhases(procedure: Procedure, planned: ProcedurePhases, state: RunState): RemainingPhases {
  const open = new OpenSteps(procedure, state);
  const ways: Way[] = [{ path: MACHINE, after: [], phases: planned.phases, steps: planned.steps }, ...planned.bench];
  const left = new Map(ways.map((way) => [way.path, leftOf(way, open)]));
  const moved = (refs: readonly PhaseRef[]): PhaseRef[] =>
    refs.flatMap(({ job, index }) => {
      const place = left.get(job)?.placeOf.get(index);
      return place === undefined ? [] : [{ job, index: place }];
    });
  const phasesOf = ({ phases }: Left): Phase[] =>
    phases.map((phase) => {
      if (phase.kind !== "hands" || !phase.after) return { ...phase };
      const { after, ...plain } = phase;
      const still = moved(after);
      return still.length > 0 ? { ...plain, after: still } : plain;
    });
  const machine = left.get(MACHINE)!;
  const bench = [...left.values()].flatMap((one) =>
    one === machine || one.phases.length === 0
      ? []
      : [
          {
            path: one.way.path,
            // What has begun comes after nothing that is still to come.
            after: one.waitingSince === null ? moved(one.way.after) : [],
            phases: phasesOf(one),
            waitingSince: one.waitingSince,
          },
        ],
  );
  return { phases: phasesOf(machine), waitingSince: machine.waitingSince, ...(bench.length > 0 ? { bench } : {}) };
}

/** What of a procedure's steps is still to be done. */
class OpenSteps {
  readonly #standing: ReadonlyMap<string, SheetStep>;

  constructor(procedure: Procedure, state: RunState) {
    // Inside a block that is repeated, what was done in a pass before does not settle this one.
    const rounds = currentRounds(procedure, state);
    const all = procedure.steps.map((step, i) => {
      const round = rounds[i] ?? 1;
      return sheetStep(step, round, state.steps[stepKey(step.id, round)] ?? null);
    });
    this.#standing = new Map(withoutIdlePaths(procedure, all, state).map((one) => [one.step, one]));
  }

  isOpen(id: string): boolean {
    const one = this.#standing.get(id);
    return one !== undefined && !one.settled;
  }

  /** The first clock that runs among some steps. */
  running(ids: readonly string[]): { step: Step; since: string | null } | null {
    for (const id of ids) {
      const one = this.#standing.get(id);
      if (one?.state?.status === "running" && timedBounds(one.definition))
        return { step: one.definition, since: one.state.timer?.startedAt ?? null };
    }
    return null;
  }
}

function leftOf(way: Way, open: OpenSteps): Left {
  const running = open.running(way.steps.flat());
  const phases: Phase[] = [];
  const placeOf = new Map<number, number>();
  const bounds = running ? timedBounds(running.step) : null;
  if (running && bounds && running.since !== null) {
    const least = Math.ceil(bounds.minMinutes - 1e-9);
    phases.push({
      kind: "wait",
      minutes: least,
      ...(bounds.maxMinutes === undefined ? {} : { maxMinutes: Math.max(least, Math.floor(bounds.maxMinutes + 1e-9)) }),
      ...(running.step.needs ? { uses: running.step.needs } : {}),
    });
  }
  way.phases.forEach((phase, i) => {
    const steps = way.steps[i] ?? [];
    const isOwnClock = (id: string): boolean => id === running?.step.id;
    if (phase.kind === "wait") {
      // The clock itself, run or running, is no planned wait any more.
      if (steps.some(isOwnClock)) placeOf.set(i, 0);
      else if (steps.every((id) => open.isOpen(id))) placeOf.set(i, phases.push(phase) - 1);
      return;
    }
    const still = steps.filter((id) => open.isOpen(id) && !isOwnClock(id));
    // What takes no time of its own begins the wait behind it.
    const begins = steps.length === 0 && (way.steps[i + 1] ?? []).every((id) => open.isOpen(id) && !isOwnClock(id));
    if (still.length > 0)
      placeOf.set(
        i,
        phases.push({ ...phase, minutes: Math.max(1, Math.round((phase.minutes * still.length) / steps.length)) }) - 1,
      );
    else if (begins) placeOf.set(i, phases.push(phase) - 1);
  });
  const last = phases[phases.length - 1];
  if (last?.kind === "wait") {
    const { maxMinutes: _longest, ...endless } = last;
    phases[phases.length - 1] = endless;
  }
  return { way, phases, waitingSince: running?.since ?? null, placeOf };
}
