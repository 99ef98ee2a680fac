import type { MachineFacts, Part, Procedure, Step } from "../sheet/procedure";
import { usualSteps } from "../sheet/usual-steps";

export interface NeededItem {
  item: string;
  /** In the unit of the material list; parts in uses: a four-edged blade that is turned takes one, one renewed takes four. */
  qty: number;
  kind: "material" | "part";
}

export interface ProcedureNeeds {
  /** Used up by any service on which nothing is found. */
  sure: NeededItem[];
  /** What something found would take besides, as many as all its slots. */
  possible: NeededItem[];
}

/**
 * What one service of a procedure takes from the stores, on a machine with its options.
 *
 * @param procedure with nested procedures in place
 */
export function procedureNeeds(procedure: Procedure, machine: Pick<MachineFacts, "options">): ProcedureNeeds {
  const { steps, likely } = usualSteps(procedure, machine);
  const sure: NeededItem[] = [];
  const possible: NeededItem[] = [];
  for (const { item, qty } of procedure.materials) {
    // What no step names is taken by the work as a whole; of what steps name, those that are usually worked count.
    const needed = Math.max(0, qty - used(procedure.steps, item)) + used(steps, item);
    if (needed > 1e-9) sure.push({ item, qty: needed, kind: "material" });
    const perhaps = used(likely, item);
    if (perhaps > 0) possible.push({ item, qty: perhaps, kind: "material" });
  }
  for (const part of procedure.parts) {
    const certain = partUses(steps, part.item, part.uses ?? 1);
    if (certain > 0) sure.push({ item: part.item, qty: certain, kind: "part" });
    else if (partUses(likely, part.item, part.uses ?? 1) > 0)
      possible.push({ item: part.item, qty: likelyPieces(likely, part) * (part.uses ?? 1), kind: "part" });
  }
  return { sure, possible };
}

function used(steps: readonly Step[], item: string): number {
  return steps.reduce(
    (sum, step) => sum + (step.uses ?? []).reduce((inner, one) => inner + (one.item === item ? one.qty : 0), 0),
    0,
  );
}

/** As many as there are places, or one where those found worn alone are renewed: how many that is, nobody knows before. */
const likelyPieces = (steps: readonly Step[], { item, slots }: Part): number =>
  steps.every((step) => step.kind !== "replace" || step.item !== item || step.some) ? 1 : slots.length;

function partUses(steps: readonly Step[], item: string, usesPerPiece: number): number {
  return steps.reduce((sum, step) => {
    if (step.kind === "replace" && step.item === item) return sum + (step.some ? 1 : step.slots.length) * usesPerPiece;
    if (step.kind === "turn" && step.item === item) return sum + step.slots.length;
    return sum;
  }, 0);
}
