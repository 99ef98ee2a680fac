import type { Procedure } from "@core";
import { getDb } from "@db";

export interface SlotView {
  slot: string;
  slotName: string;
  item: string;
  itemName: string;
  /** Renewed together with its fellows. */
  pair: boolean;
  usesPerPiece: number;
  /** What is in it; null when nothing was logged yet. */
  fitted: {
    item: string;
    usesLeft: number;
    lot: string | null;
    on: string;
    runId: string;
    /** Meters then and now, where both are known. */
    meters: { meter: string; then: number; now: number | null }[];
  } | null;
}

/** Slots of a machine: what its procedures' parts sit in, and what is there since when and at which meter. */
export async function slotsOfMachine(machineId: string): Promise<SlotView[]> {
  const db = getDb();
  const procedures = await db.select<{ parts: Procedure["parts"] }>(
    `SELECT JSON_EXTRACT(COALESCE(p.expanded, p.body), '$.parts') AS parts FROM plans x
       JOIN (SELECT id, MAX(version) AS version FROM procedures GROUP BY id) newest ON newest.id = x.procedure_id JOIN procedures p ON p.id = newest.id AND p.version = newest.version
     WHERE x.machine_id = :machineId AND x.active = 1`,
    { machineId },
  );
  const fitted = await db.select<{
    slot: string;
    item: string;
    itemName: string | null;
    usesLeft: number;
    lot: string | null;
    on: string;
    runId: string;
    meters: Record<string, number>;
  }>(
    `SELECT s.slot, s.item, i.name AS itemName, s.uses_left AS usesLeft, s.lot, DATE_FORMAT(s.fitted_at, '%Y-%m-%d') AS \`on\`, s.run_id AS runId, s.meters
     FROM machine_slots s LEFT JOIN items i ON i.id = s.item WHERE s.machine_id = :machineId ORDER BY s.slot`,
    { machineId },
  );
  const now = new Map(
    (
      await db.select<{ meter: string; value: number }>(
        "SELECT meter, MAX(value) AS value FROM meter_readings WHERE machine_id = :machineId GROUP BY meter",
        {
          machineId,
        },
      )
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
          pair: part.pair === true,
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
      pair: false,
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
          now: (now.get(meter) ?? -1) >= then ? now.get(meter)! : null,
        })),
      },
    });
  }
  return [...views.values()];
}
