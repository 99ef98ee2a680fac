import { type MachineFacts, must, type Procedure } from "@core";

/** Whole pieces of a part, its material's quantity as it is. */
export function pieces(procedure: Procedure, { item, qty }: { item: string; qty: number }): number {
  const uses = procedure.parts.find((part) => part.item === item)?.uses ?? 1;
  return uses === 1 ? qty : Math.ceil(qty / uses);
}

/** A piece on the machine that still has an edge or side is turned: none is taken along for it. */
export function piecesOf(
  procedure: Procedure,
  need: { item: string; qty: number },
  slots: NonNullable<MachineFacts["slots"]>,
): number {
  const part = procedure.parts.find((one) => one.item === need.item);
  if (!part || (part.uses ?? 1) === 1) return need.qty;
  const left = part.slots.reduce(
    (sum, slot) => sum + Math.max(0, (slots[slot.id]?.item === need.item ? must(slots[slot.id]).usesLeft : 0) - 1),
    0,
  );
  return Math.ceil(Math.max(0, need.qty - left) / (part.uses ?? 1));
}
