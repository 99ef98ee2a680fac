import { checkMix, type ChemicalClass } from "../mix/check-mix";
import { inWords } from "../short-name";
import { exclusive, whenever } from "./always-covered";
import { chemicalsOf, harmsOf, itemsOf } from "./chemicals";
import { pathsOfParts } from "./parts";
import type { Procedure, Step } from "./procedure";

/** Steps as they are worked when each block is done a second time; a block within one is done again in both passes. */
function withSecondPasses(steps: readonly Step[]): Step[] {
  const worked: Step[] = [];
  /** Where each step was last worked. */
  const place = new Map<string, number>();
  for (const step of steps) {
    place.set(step.id, worked.push(step) - 1);
    const from = step.kind === "repeat" ? place.get(step.from) : undefined;
    // Blocks within blocks double: beyond this nothing new comes of it.
    if (from !== undefined && worked.length < MOST_PASSES * steps.length) worked.push(...worked.slice(from));
  }
  return worked;
}

const MOST_PASSES = 8;

export function chemicalsThatMeet({ steps, materials }: Procedure): { step: string; message: string }[] {
  /**
   * What may still be on the machine, under null, and on the parts of each path: of each kind the last step that brought it, for
   * each set of conditions.
   */
  const lanes = new Map<string | null, Map<string, { step: Step; chemical: ChemicalClass }>>([[null, new Map()]]);
  const pathsOf = pathsOfParts(steps);
  const found = new Map<string, { step: string; message: string }>();
  for (const step of withSecondPasses(steps)) {
    const lane = step.path ?? null;
    let present = lanes.get(lane) ?? new Map<string, { step: Step; chemical: ChemicalClass }>();
    if (step.rinses)
      present = new Map([...present].filter(([, one]) => !whenever(step, one.step) && !exclusive(step, one.step)));
    for (const chemical of chemicalsOf(step, materials)) {
      for (const before of present.values()) {
        const verdict = exclusive(step, before.step) ? { safe: true } : checkMix(before.chemical, chemical);
        if (verdict.safe) continue;
        const where =
          before.step === step
            ? `"${step.title}" brings ${before.chemical} and ${chemical} together`
            : `"${step.title}" brings ${chemical} after ${before.chemical} of "${before.step.title}"`;
        const message = `${where} without a rinse. ${verdict.hazard ?? ""}`.trim();
        found.set(`${step.id} ${message}`, { step: step.id, message });
      }
      present.set(`${chemical} ${JSON.stringify(step.when ?? [])}`, { step, chemical });
    }
    lanes.set(lane, present);
    // A part takes along what is on it, and brings back what is on it then.
    if (step.opens !== undefined) lanes.set(step.opens, new Map(present));
    const back = (step.putsBack ?? []).flatMap(({ item }) => [...(pathsOf.get(item) ?? [])]);
    for (const [key, one] of back.flatMap((path) => [...(lanes.get(path) ?? [])]))
      if (!present.has(key)) present.set(key, one);
  }
  return [...found.values()];
}

export function agentsThatHarm({ steps, materials }: Procedure): { step: string; message: string }[] {
  return steps.flatMap((step) =>
    harmsOf(step, materials).flatMap(({ material, surface, harm }) =>
      surface === null
        ? []
        : [
            {
              step: step.id,
              message: `"${step.title}" brings ${material} onto ${inWords(surface)}. ${harm}`,
            },
          ],
    ),
  );
}

export function gradesForbidden({ steps, materials }: Procedure): { step: string; message: string }[] {
  return steps.flatMap((step) =>
    harmsOf(step, materials).flatMap(({ material, surface }) =>
      surface === null
        ? [{ step: step.id, message: `"${step.title}" uses ${material}, a grade that it must not have.` }]
        : [],
    ),
  );
}

export function limitsWithoutUnit({ steps }: Procedure): { step: string; message: string }[] {
  return steps
    .filter(
      (step) =>
        step.kind === "measure" &&
        (step.limits !== undefined || step.target !== undefined) &&
        !((step.unit as string | undefined) ?? "").trim(),
    )
    .map((step) => ({ step: step.id, message: `"${step.title}" has a limit without a unit.` }));
}

export function materialsNotListed({ steps, materials }: Procedure): { step: string; message: string }[] {
  const listed = new Set(materials.map((one) => one.item));
  return steps.flatMap((step) =>
    itemsOf(step)
      .filter((item) => !listed.has(item))
      .map((item) => ({
        step: step.id,
        message: `"${step.title}" uses "${item}", which is not on the material list: it would not be loaded.`,
      })),
  );
}

export function materialsNotUsed({ steps, materials }: Procedure): { message: string }[] {
  const used = new Set(steps.flatMap(itemsOf));
  // What a nested procedure uses is on its own list.
  if (steps.some((step) => step.kind === "nested")) return [];
  return materials
    .filter((one) => !used.has(one.item))
    .map((one) => ({ message: `"${one.name}" is on the material list, and no step uses it.` }));
}
