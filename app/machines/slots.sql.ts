/** Statements of slots that Sequelize's models cannot say well. */
import type { Procedure } from "@core";
import { getDb } from "@db";

/** Joins, sums, reads inside JSON, compares in the database. */
export function partsOfProcedures(values: { machineId: string }): Promise<{ parts: Procedure["parts"] }[]> {
  return getDb().select<{ parts: Procedure["parts"] }>(
    `SELECT JSON_EXTRACT(COALESCE(p.expanded, p.body), '$.parts') AS parts FROM duties x
       JOIN (SELECT id, MAX(version) AS version FROM procedures GROUP BY id) newest ON newest.id = x.procedure_id JOIN procedures p ON p.id = newest.id AND p.version = newest.version
     WHERE x.machine_id = :machineId AND x.active = 1`,
    values,
  );
}

/** Joins. */
export function fittedParts(values: { machineId: string }): Promise<
  {
    slot: string;
    item: string;
    itemName: string | null;
    usesLeft: number;
    lot: string | null;
    on: string;
    sheetId: string;
    meters: Record<string, number>;
  }[]
> {
  return getDb().select<{
    slot: string;
    item: string;
    itemName: string | null;
    usesLeft: number;
    lot: string | null;
    on: string;
    sheetId: string;
    meters: Record<string, number>;
  }>(
    `SELECT s.slot, s.item, i.name AS itemName, s.uses_left AS usesLeft, s.lot, DATE_FORMAT(s.fitted_at, '%Y-%m-%d') AS \`on\`, s.sheet_id AS sheetId, s.meters
     FROM machine_slots s LEFT JOIN items i ON i.id = s.item WHERE s.machine_id = :machineId ORDER BY s.slot`,
    values,
  );
}

/** Sums. */
export function latestMeters(values: { machineId: string }): Promise<{ meter: string; value: number }[]> {
  return getDb().select<{ meter: string; value: number }>(
    "SELECT meter, MAX(value) AS value FROM meter_readings WHERE machine_id = :machineId GROUP BY meter",
    values,
  );
}
