import { must } from "../must";
import { inTime } from "./in-time";
import type { Ledger, Step } from "./procedure";
import type { RunState, StepState } from "./run-state";

interface Entry {
  of: Ledger[number];
  /** Step that took it off; null when the duty before left it off. */
  by: string | null;
  /** How many there are is as logged, not as the procedure says. */
  asLogged: boolean;
}

/**
 * What is off, from what was logged: counted as it came off, less what went back on. A step done again in a later pass takes
 * off what it took off before only when that is back on.
 *
 * @returns `ledger` in the order in which it came off; `leftOff` what a refit that was skipped left off
 */
export function partsOff(
  steps: ReadonlyMap<string, Step>,
  state: Pick<RunState, "steps" | "begins">,
): { ledger: Ledger; leftOff: Ledger } {
  const off: Entry[] = (state.begins?.off ?? []).map((of) => ({ of: { ...of }, by: null, asLogged: true }));
  const leftOff: Ledger = [];
  for (const at of inTime(steps.values(), state, (step) => (step.takesOff ?? step.putsBack) !== undefined)) {
    const step = steps.get(at.step);
    if (step?.takesOff && at.status === "done") takeOff(off, step, at);
    for (const { item, count } of step?.putsBack ?? []) {
      if (at.status === "done") putBack(off, item, count);
      else if (at.status === "skipped") leftOff.push(...putBack(off, item, count));
      else if (at.back?.[item] !== undefined) putBack(off, item, at.back[item], true);
    }
  }
  return { ledger: off.map((entry) => entry.of), leftOff };
}

function takeOff(off: Entry[], step: Step, at: StepState): void {
  for (const { item, count, wayRound, place } of at.off ?? step.takesOff ?? []) {
    if (count <= 0) continue;
    const told = step.takesOff?.find((one) => one.item === item);
    const [way, put] = [wayRound ?? told?.wayRound, place ?? told?.place];
    const of = {
      item,
      count,
      ...(way === undefined ? {} : { wayRound: way }),
      ...(put === undefined ? {} : { place: put }),
      ...(step.opens === undefined ? (step.path === undefined ? {} : { path: step.path }) : { path: step.opens }),
    };
    const known = off.find((entry) => entry.by === step.id && entry.of.item === item);
    if (known) known.of = of;
    else off.push({ of, by: step.id, asLogged: at.off !== undefined });
  }
}

/** Takes so many off the ledger, the last that came off first. @returns what went */
function putBack(off: Entry[], item: string, count: number, exact = false): Ledger {
  const gone: Ledger = [];
  let left = count;
  for (let i = off.length - 1; i >= 0 && left > 0; i--) {
    const entry = must(off[i]);
    if (entry.of.item !== item) continue;
    // Where the log says how many there are, all of them go back with the step.
    const most = entry.asLogged && !exact ? entry.of.count : Math.min(left, entry.of.count);
    left -= most;
    gone.push({ ...entry.of, count: most });
    if (most === entry.of.count) off.splice(i, 1);
    else entry.of = { ...entry.of, count: entry.of.count - most };
  }
  return gone;
}
