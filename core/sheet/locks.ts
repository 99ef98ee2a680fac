import { instantMs } from "../days/parse-instant";
import { passedGates } from "./passed-gates";
import type { Procedure } from "./procedure";
import type { RunState } from "./run-state";

/** A lock that is on: who put it on or took it over; null once a lead has lifted it, then anybody may take it off. */
export interface Lock {
  /** Id of the state that it keeps. */
  state: string;
  /** Id of the person. */
  by: string | null;
  /** When it came to them; null when the duty before left it. */
  at: string | null;
}

/** A lock that somebody took off whose lock it was not. */
export interface LockTakenOff {
  step: string;
  state: string;
  heldBy: string;
  takenOffBy: string;
  at: string;
}

/**
 * Whose locks are on, by the log. Who goes through the gate into a state that is kept by a lock or a tag has put it on; handing
 * the sheet over passes on what the one who hands it over holds, and a lead may lift a lock with a reason.
 *
 * @returns `on` in the order in which they were put on; `takenOff` by others than who held them, in order: to be answered for
 */
export function locksOf(procedure: Procedure, state: RunState): { on: Lock[]; takenOff: LockTakenOff[] } {
  const { states = [] } = procedure;
  const locked = new Set(
    states.flatMap(({ id, in: into }) =>
      (into.gates ?? []).some((gate) => gate === "lock-out" || gate === "tag") ? [id] : [],
    ),
  );
  const on = new Map<string, Lock>();
  const takenOff: LockTakenOff[] = [];
  if (locked.size === 0) return { on: [], takenOff };
  for (const left of state.begins?.states ?? [])
    if (locked.has(left)) on.set(left, { state: left, by: state.begins?.heldBy ?? null, at: null });

  const passed = passedGates(procedure, state).flatMap((one) =>
    locked.has(one.gate.state) && one.at !== null && one.by !== null ? [{ ...one, at: one.at, by: one.by }] : [],
  );
  let next = 0;
  const change = (until: number): void => {
    for (; next < state.lockChanges.length; next++) {
      const one = state.lockChanges[next];
      if (!one || instantMs(one.at, "at") >= until) return;
      for (const lock of on.values()) {
        const passes = "to" in one ? lock.by === one.by : lock.state === one.state;
        if (passes) on.set(lock.state, { ...lock, by: "to" in one ? one.to : null, at: one.at });
      }
    }
  };
  for (const { step, gate, by, at, status } of passed) {
    change(instantMs(at, "at"));
    const lock = on.get(gate.state);
    if (gate.way === "in") {
      if (status === "done") on.set(gate.state, { state: gate.state, by, at });
    } else {
      if (lock?.by != null && lock.by !== by)
        takenOff.push({ step, state: gate.state, heldBy: lock.by, takenOffBy: by, at });
      on.delete(gate.state);
    }
  }
  change(Infinity);
  return { on: [...on.values()], takenOff };
}
