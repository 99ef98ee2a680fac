import type { Procedure } from "@core";

/** A part in its place, as the procedure calls them. */
export function partName(procedure: Pick<Procedure, "parts">, item: string, slot: string): string {
  const part = procedure.parts.find((one) => one.item === item);
  return `${part?.name ?? item}: ${part?.slots.find((one) => one.id === slot)?.name ?? slot}`;
}

export function materialName(procedure: Pick<Procedure, "materials">, item: string): string {
  return procedure.materials.find((one) => one.item === item)?.name ?? item;
}
