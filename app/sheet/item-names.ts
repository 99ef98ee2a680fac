import { inWords, type Procedure } from "@core";

/** Names of items by the catalogue, for what the procedure does not name. */
export type ItemNames = Readonly<Record<string, string>>;

/** A part in its place, as the procedure calls them, else as the catalogue does. */
export function partName(
  procedure: Pick<Procedure, "parts">,
  item: string,
  slot: string,
  names: ItemNames = {},
): string {
  const part = procedure.parts.find((one) => one.item === item);
  const place = part?.slots.find((one) => one.id === slot)?.name ?? inWords(slot);
  const called = part?.name ?? names[item] ?? item;
  return called.toLowerCase() === place.toLowerCase() ? called : `${called}: ${place}`;
}

export function materialName(
  procedure: Pick<Procedure, "materials"> & Partial<Pick<Procedure, "parts">>,
  item: string,
  names: ItemNames = {},
): string {
  const known =
    procedure.materials.find((one) => one.item === item) ?? procedure.parts?.find((one) => one.item === item);
  return known?.name ?? names[item] ?? item;
}
