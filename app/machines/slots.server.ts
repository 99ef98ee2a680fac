import type { Procedure } from "@core";
import { must } from "@core";

import { together } from "~/procedures/together";

import * as sql from "./slots.sql";

export interface SlotView {
  slot: string;
  slotName: string;
  item: string;
  itemName: string;
  /** What it and its fellows are called, where they are renewed together. */
  together: string | null;
  usesPerPiece: number;
  /** What is in it; null when nothing was logged yet. */
  fitted: {
    item: string;
    usesLeft: number;
    lot: string | null;
    on: string;
    sheetId: string;
    /** Meters then and now, where both are known. */
    meters: { meter: string; then: number; now: number | null }[];
  } | null;
}

/** Slots of a machine: what its procedures' parts sit in, and what is there since when and at which meter. */
export async function slotsOfMachine(machineId: string): Promise<SlotView[]> {
  const procedures = await sql.partsOfProcedures({ machineId });
  const fitted = await sql.fittedParts({ machineId });
  const now = new Map(
    (
      await sql.latestMeters({
        machineId,
      })
    ).map((row) => [row.meter, row.value]),
  );
  const views = new Map<string, SlotView>();
  for (const { parts } of procedures) {
    // JSON out of an expression comes as text.
    const list = (typeof parts === "string" ? JSON.parse(parts) : parts) as Procedure["parts"];
    for (const part of list)
      for (const { id, name } of part.slots)
        views.set(id, {
          slot: id,
          slotName: name,
          item: part.item,
          itemName: part.name,
          together: part.pair ? together(part) : null,
          usesPerPiece: part.uses ?? 1,
          fitted: null,
        });
  }
  for (const { slot, item, itemName, meters, ...one } of fitted) {
    const known = views.get(slot);
    const view = known ?? {
      slot,
      slotName: slot.replaceAll("-", " "),
      item,
      itemName: itemName ?? item,
      together: null,
      usesPerPiece: 1,
      fitted: null,
    };
    views.set(slot, {
      ...view,
      fitted: {
        item,
        ...one,
        meters: Object.entries(meters).map(([meter, then]) => ({
          meter,
          then,
          now: (now.get(meter) ?? -1) >= then ? must(now.get(meter)) : null,
        })),
      },
    });
  }
  return [...views.values()];
}
