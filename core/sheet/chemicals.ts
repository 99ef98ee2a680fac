import { instantMs } from "../days/parse-instant";
import { checkMix, type ChemicalClass } from "../mix/check-mix";
import { must } from "../must";
import { sheetSteps } from "./next-steps";
import type { MachineFacts, Material, Procedure, Step, StepRef } from "./procedure";
import type { RunState } from "./run-state";

/** Items that a step takes from the material list. */
export function itemsOf(step: Step): string[] {
  const items = (step.uses ?? []).map((use) => use.item);
  if (step.kind !== "mix") return items;
  const { recipe } = step;
  if (recipe.by === "dilution") return [...items, recipe.stock];
  return [
    ...items,
    ...(recipe.by === "additive"
      ? [recipe.item]
      : recipe.parts.map((one) => one.item).filter((item) => item !== "water")),
  ];
}

/** Product classes that a step brings onto the machine. */
export function chemicalsOf(step: Step, materials: readonly Material[]): ChemicalClass[] {
  const items = itemsOf(step);
  return materials.flatMap((one) => (one.chemical !== undefined && items.includes(one.item) ? [one.chemical] : []));
}

export interface ChemicalClash {
  /** Step that brought what is still on the machine. */
  after: string;
  afterTitle: string;
  present: ChemicalClass;
  brings: ChemicalClass;
  hazard: string;
  source: string;
}

/**
 * What must not be done now: the step brings a chemical that must not meet what the log says is still on the machine. A
 * rinse that was skipped has rinsed nothing away.
 *
 * @returns null when nothing clashes
 */
export function chemicalClash(
  procedure: Procedure,
  state: RunState,
  machine: MachineFacts,
  ref: StepRef,
): ChemicalClash | null {
  const step = procedure.steps.find((one) => one.id === ref.step);
  if (!step) return null;
  const brings = chemicalsOf(step, procedure.materials);
  if (brings.length === 0) return null;
  const shown = new Set(sheetSteps(procedure, state, machine).map((one) => one.step));
  const worked = Object.values(state.steps)
    .filter(
      (at) =>
        shown.has(at.step) &&
        (at.status === "done" || at.status === "running") &&
        !(at.step === ref.step && at.round === ref.round),
    )
    .map((at) => ({
      step: must(procedure.steps.find((one) => one.id === at.step)),
      ms: instantMs(at.timer?.startedAt ?? at.at ?? must(state.startedAt), "at"),
    }))
    .sort((a, b) => a.ms - b.ms);
  let present: { step: Step; chemical: ChemicalClass }[] = [];
  for (const { step: done } of worked) {
    if (done.rinses) present = [];
    present.push(...chemicalsOf(done, procedure.materials).map((chemical) => ({ step: done, chemical })));
  }
  for (const one of present) {
    for (const chemical of brings) {
      const verdict = checkMix(one.chemical, chemical);
      if (!verdict.safe)
        return {
          after: one.step.id,
          afterTitle: one.step.title,
          present: one.chemical,
          brings: chemical,
          hazard: must(verdict.hazard),
          source: must(verdict.source),
        };
    }
  }
  return null;
}
