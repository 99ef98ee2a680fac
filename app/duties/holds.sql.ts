/** Statements of holds that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { HoldView } from "./holds.server";

export const HOLD_COLUMNS = `h.id, h.machine_id AS machineId, h.reason, h.sheet_id AS sheetId, h.entry_id AS entryId, h.since, h.cleared_at AS clearedAt, h.cleared_note AS clearedNote,
  m.name AS machineName, m.tag AS machineTag, s.name AS siteName, p.name AS byName, q.name AS clearedByName
  FROM machine_holds h JOIN machines m ON m.id = h.machine_id JOIN sites s ON s.id = m.site_id
  JOIN persons p ON p.id = h.by_person LEFT JOIN persons q ON q.id = h.cleared_by`;

/** Its shape varies. */
export function openHolds(limit: number): Promise<HoldView[]> {
  return getDb().select<HoldView>(
    `SELECT ${HOLD_COLUMNS} WHERE h.cleared_at IS NULL AND m.retired_on IS NULL ORDER BY h.since LIMIT ${limit}`,
  );
}

/** Its shape varies. */
export function holdsOfMachine(values: { machineId: string }): Promise<HoldView[]> {
  return getDb().select<HoldView>(
    `SELECT ${HOLD_COLUMNS} WHERE h.machine_id = :machineId ORDER BY h.cleared_at IS NOT NULL, h.since DESC LIMIT 30`,
    values,
  );
}

/** Each once. */
export function heldMachines(values: { machineIds: readonly string[] }): Promise<{ id: string }[]> {
  return getDb().select<{ id: string }>(
    "SELECT DISTINCT machine_id AS id FROM machine_holds WHERE cleared_at IS NULL AND machine_id IN (:machineIds)",
    values,
  );
}
