import { inWords, type Procedure, type Step } from "@core";

import { placeName } from "~/kit/place-name";

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
  return placeName(called, place);
}

/** The places that a step renews or turns, in its order, as the procedure calls them. */
export const placesOf = (
  { parts }: Pick<Procedure, "parts">,
  { item, slots }: Extract<Step, { kind: "replace" | "turn" }>,
): { id: string; name: string }[] => {
  const known = parts.find((one) => one.item === item)?.slots ?? [];
  return slots.map((id) => ({ id, name: known.find((one) => one.id === id)?.name ?? inWords(id) }));
};

export function materialName(
  procedure: Pick<Procedure, "materials"> & Partial<Pick<Procedure, "parts">>,
  item: string,
  names: ItemNames = {},
): string {
  const known =
    procedure.materials.find((one) => one.item === item) ?? procedure.parts?.find((one) => one.item === item);
  return known?.name ?? names[item] ?? item;
}
