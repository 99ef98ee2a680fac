import { instantMs } from "../days/parse-instant";
import { checkMix, type ChemicalClass } from "../mix/check-mix";
import { harmTo, type Surface } from "../mix/surfaces";
import { must } from "../must";
import { sheetSteps } from "./next-steps";
import { pathsOfParts } from "./parts";
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
  const present = chemicalsAt(
    step.path ?? null,
    worked.map((one) => one.step),
    procedure,
  );
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

interface Present {
  step: Step;
  chemical: ChemicalClass;
}

/**
 * What is still on the machine, or on the parts of a path, after steps in the order in which they were done. A part takes along
 * what is on it when it comes off, and brings back what is on it then.
 */
function chemicalsAt(lane: string | null, done: readonly Step[], { steps, materials }: Procedure): Present[] {
  const lanes = new Map<string | null, Present[]>();
  const pathsOf = pathsOfParts(steps);
  const at = (one: string | null): Present[] => lanes.get(one) ?? [];
  for (const step of done) {
    const own = step.path ?? null;
    const back = (step.putsBack ?? []).flatMap(({ item }) => [...(pathsOf.get(item) ?? [])]).flatMap(at);
    const now = [
      ...(step.rinses ? [] : at(own)),
      ...chemicalsOf(step, materials).map((chemical) => ({ step, chemical })),
      ...back,
    ];
    lanes.set(own, now);
    if (step.opens !== undefined) lanes.set(step.opens, now);
  }
  return at(lane);
}

export interface Harm {
  /** What is used, by name. */
  material: string;
  /** What it harms; null when the step forbids the grade. */
  surface: Surface | null;
  harm: string;
  source: string;
}

/** What a step uses and must not: an agent on a surface that it harms, or a grade that the step forbids. */
export function harmsOf(step: Step, materials: readonly Material[]): Harm[] {
  const used = new Set(itemsOf(step));
  return materials
    .filter((one) => used.has(one.item))
    .flatMap(({ name, chemical, grade }): Harm[] => [
      ...(step.surfaces ?? []).flatMap((surface) =>
        [chemical, grade].flatMap((agent) => {
          const harm = agent && harmTo(agent, surface);
          return harm ? [{ material: name, surface, ...harm }] : [];
        }),
      ),
      ...(grade && step.forbids?.includes(grade)
        ? [{ material: name, surface: null, harm: "This step must not have it.", source: "the procedure" }]
        : []),
    ]);
}
