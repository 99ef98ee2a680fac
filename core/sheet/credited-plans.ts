import { requireList, requireRecord, requireText } from "../inputs";
import { must } from "../must";
import { conditionHolds, sheetSteps } from "./next-steps";
import type { MachineFacts, Procedure, Step } from "./procedure";
import type { RunState, StepState } from "./run-state";

/** A duty and the steps of its procedure, as they are called there. */
export interface CreditablePlan {
  id: string;
  procedureId: string;
  steps: string[];
}

/**
 * Duties all of whose steps were worked on a sheet: its own, and those whose procedures are nested in it, by where each step
 * came from. Done counts, and so does what is not applicable, with its reason, and what this machine's options leave out; what
 * was skipped, cut short, or left out by an answer from outside the procedure does not. Of a procedure that is nested more than
 * once, one that was worked whole is enough.
 *
 * @param procedure with nested procedures in place
 * @returns ids in the order given
 * @throws CoreError for a malformed list of plans
 */
export function creditedPlans(
  procedure: Procedure,
  state: RunState,
  machine: MachineFacts,
  plans: readonly CreditablePlan[],
): string[] {
  requireList(plans, "plans").forEach((plan, p) => {
    const { id, procedureId, steps } = requireRecord(plan, `plans[${p}]`);
    requireText(id, `plans[${p}].id`);
    requireText(procedureId, `plans[${p}].procedureId`);
    requireList(steps, `plans[${p}].steps`);
  });
  const worked = new Worked(procedure, state, machine);
  return plans.filter((plan) => worked.all(plan)).map((plan) => plan.id);
}

/** Where a step stands for a procedure: in the sheet's own, or in one nested under a step. */
const OWN = "";

class Worked {
  readonly #procedure: Procedure;
  readonly #machine: MachineFacts;
  readonly #steps: ReadonlyMap<string, Step>;
  readonly #shown: ReadonlyMap<string, StepState | null>;
  /** By procedure, by where it stands, by the name of a step there. */
  readonly #instances = new Map<string, Map<string, Map<string, Step>>>();

  constructor(procedure: Procedure, state: RunState, machine: MachineFacts) {
    this.#procedure = procedure;
    this.#machine = machine;
    this.#shown = new Map(sheetSteps(procedure, state, machine).map((one) => [one.step, one.state]));
    this.#steps = new Map(procedure.steps.map((step) => [step.id, step]));
    for (const step of procedure.steps) {
      this.#add(procedure.id, OWN, step.id, step);
      for (const { procedure: id, step: name, within } of step.workedFor ?? []) this.#add(id, within, name, step);
    }
  }

  #add(procedure: string, within: string, name: string, step: Step): void {
    const places = this.#instances.get(procedure) ?? new Map<string, Map<string, Step>>();
    this.#instances.set(procedure, places);
    const steps = places.get(within) ?? new Map<string, Step>();
    places.set(within, steps.set(name, step));
  }

  all({ procedureId, steps }: CreditablePlan): boolean {
    if (steps.length === 0) return false;
    return [...(this.#instances.get(procedureId) ?? [])].some(([within, known]) => {
      // Of what is nested deeper, the steps under its name are meant.
      const named = steps.map((name) =>
        known.has(name)
          ? [must(known.get(name))]
          : [...known].flatMap(([id, step]) => (id.startsWith(`${name}-`) ? [step] : [])),
      );
      const meant = named.flat();
      return (
        named.every((some) => some.length > 0) &&
        meant.every((step) => this.#counts(step, procedureId, within)) &&
        meant.some((step) => this.#settledAs(step) !== null)
      );
    });
  }

  /** How a step was settled, when that counts. */
  #settledAs(step: Step): "done" | "not-applicable" | null {
    const at = this.#shown.get(step.id);
    if (at?.status === "not-applicable") return at.reason ? "not-applicable" : null;
    return at?.status === "done" && at.timer?.verdict !== "short" ? "done" : null;
  }

  #counts(step: Step, procedureId: string, within: string): boolean {
    if (this.#shown.has(step.id)) return this.#settledAs(step) !== null;
    // Gone: by an option of the machine, or by what was found in the procedure itself.
    return (step.when ?? []).some((condition) => {
      if ("option" in condition) return !conditionHolds(condition, this.#shown, this.#machine);
      const asked = this.#steps.get(condition.step);
      if (!asked || this.#settledAs(asked) === null || !this.#isOf(asked, procedureId, within)) return false;
      return !conditionHolds(condition, this.#shown, this.#machine);
    });
  }

  #isOf(step: Step, procedureId: string, within: string): boolean {
    if (within === OWN) return procedureId === this.#procedure.id;
    return (step.workedFor ?? []).some((one) => one.procedure === procedureId && one.within === within);
  }
}
