import type { MachineFacts, Procedure } from "../sheet/procedure";
import { gateOf, StateRules } from "../sheet/states";
import { usualSteps } from "../sheet/usual-steps";

/** Something that a customer can do before somebody comes. */
export interface Beforehand {
  /** `cool`, or the id of the step that it does away with. */
  id: string;
  /** Steps that take no time any more: the wait of a gate, or the work of a step. */
  steps: string[];
  /** Minutes before the work begins by which it has to be done: as long as the machine cools. */
  lead: number;
  /** The words of the procedure; null for `cool`. */
  text: string | null;
}

/** Name of what a machine that was switched off beforehand has done. */
export const COOL_BEFOREHAND = "cool";

/**
 * What the customer can do before the work on a sheet begins, so that it need not be waited for or worked: what its steps say,
 * and switching a hot machine off in time. The latter only where the gate opens by a measured temperature, so that what was
 * done is seen on the spot and need not be believed, and only where nothing before the gate needs the machine as it was.
 *
 * @param procedure with nested procedures and gates in place
 */
export function beforehandOf(procedure: Procedure, machine: Pick<MachineFacts, "options">): Beforehand[] {
  const { steps } = usualSteps(procedure, machine);
  const rules = new StateRules(procedure.states ?? []);
  const asked = steps.flatMap((step): Beforehand[] =>
    step.beforehand === undefined ? [] : [{ id: step.id, steps: [step.id], lead: 0, text: step.beforehand }],
  );
  for (const state of procedure.states ?? []) {
    if (state.in.belowC === undefined || !state.in.waitMinutes) continue;
    const at = steps.findIndex((step) => gateOf(step)?.state === state.id && gateOf(step)?.way === "in");
    const gate = steps[at];
    if (!gate || steps.slice(0, at).some((step) => rules.needs(step).some((one) => rules.ends(one, state.id))))
      continue;
    asked.unshift({ id: COOL_BEFOREHAND, steps: [gate.id], lead: state.in.waitMinutes, text: null });
  }
  return asked;
}
