import { instantMs } from "../days/parse-instant";
import { inTime } from "./in-time";
import type { Procedure } from "./procedure";
import { isSettled, type RunState, type StepStatus } from "./run-state";
import { gateOf } from "./states";

/** A way into a state or out of it that was gone, or left out with a reason. */
export interface PassedGate {
  step: string;
  /** Place of the step in the procedure. */
  place: number;
  round: number;
  gate: { state: string; way: "in" | "out" };
  status: StepStatus;
  by: string | null;
  at: string | null;
}

/** The gates of a sheet that were passed, those within a search among them, in the order in which that was logged. */
export function passedGates({ steps }: Procedure, state: Pick<RunState, "steps">): PassedGate[] {
  const gates = new Map<string, { gate: PassedGate["gate"]; place: number }>();
  const searches = new Map<string, number>();
  steps.forEach((step, place) => {
    const gate = gateOf(step);
    if (gate) gates.set(step.id, { gate, place });
    if (step.kind === "find") searches.set(step.id, place);
  });
  const passed = inTime(steps, state, (step) => gates.has(step.id)).flatMap((one): PassedGate[] => {
    const gate = gates.get(one.step);
    if (!gate || !isSettled(one)) return [];
    return [{ ...gate, step: one.step, round: one.round, status: one.status, by: one.by, at: one.at }];
  });
  if (searches.size === 0) return passed;
  const within = Object.values(state.steps).flatMap(({ step, round, gates: logged = [] }) => {
    const place = searches.get(step);
    if (place === undefined) return [];
    return logged.map((one): PassedGate => {
      const { state: name, way, by, at } = one;
      return { step, place, round, gate: { state: name, way }, status: "done", by, at };
    });
  });
  const ms = ({ at }: PassedGate): number => (at === null ? Infinity : instantMs(at, "at"));
  return [...passed, ...within].sort((a, b) => (ms(a) === ms(b) ? 0 : ms(a) - ms(b)));
}
