/** Statements of sheets that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

import type { SheetView } from "./sheets.server";

/** Joins. */
export function machineWithSite(
  values: { id: string },
  tx?: Transaction | null,
): Promise<{ timeZone: string; options: string[] }[]> {
  return getDb().select<{ timeZone: string; options: string[] }>(
    "SELECT s.time_zone AS timeZone, m.options FROM machines m JOIN sites s ON s.id = m.site_id WHERE m.id = :id",
    values,
    tx,
  );
}

/** Adds or brings up to date. */
export function fillSlots(values: Record<string, unknown>, tx?: Transaction): Promise<number> {
  return getDb().run(
    `INSERT INTO machine_slots (machine_id, slot, item, uses_left, lot, fitted_at, changed_at, sheet_id, meters)
         VALUES (:machineId, :slot, :item, :usesLeft, :lot, :at, :at, :sheetId, :meters)
         ON DUPLICATE KEY UPDATE item = :item, uses_left = :usesLeft, lot = :lot, fitted_at = :at, changed_at = :at, sheet_id = :sheetId, meters = :meters`,
    values,
    tx,
  );
}

/** Joins, sums. */
export function lastMeters(
  values: { machineId: string },
  tx?: Transaction,
): Promise<{ meter: string; value: number }[]> {
  return getDb().select<{ meter: string; value: number }>(
    "SELECT r.meter, r.value FROM meter_readings r JOIN (SELECT meter, MAX(read_at) AS at FROM meter_readings WHERE machine_id = :machineId GROUP BY meter) last ON last.meter = r.meter AND last.at = r.read_at WHERE r.machine_id = :machineId",
    values,
    tx,
  );
}

/** The newest of each. */
export function lastReadings(
  values: { machineId: string; readings: readonly string[] },
  tx?: Transaction,
): Promise<{ reading: string; value: number }[]> {
  return getDb().select(
    `SELECT r.reading, r.value FROM readings r
     JOIN (SELECT reading, MAX(read_at) AS at FROM readings WHERE machine_id = :machineId AND reading IN (:readings) GROUP BY reading) last
       ON last.reading = r.reading AND last.at = r.read_at
     WHERE r.machine_id = :machineId ORDER BY r.id`,
    values,
    tx,
  );
}

/** Sums. */
export function newestVersion(values: { id: string }): Promise<{ version: number }[]> {
  return getDb().select<{ version: number }>("SELECT MAX(version) AS version FROM procedures WHERE id = :id", values);
}

/** Joins. */
export function machineOfSheet(values: { id: string }): Promise<SheetView["machine"][]> {
  return getDb().select<SheetView["machine"]>(
    `SELECT m.id, m.name, m.tag, m.family, m.area, m.maker, m.model, m.serial, m.options, s.name AS siteName, c.name AS customerName, s.address
     FROM machines m JOIN sites s ON s.id = m.site_id JOIN customers c ON c.id = s.customer_id WHERE m.id = :id`,
    values,
  );
}

/** Puts lists together. */
export function recentValues(
  values: { machineId: string },
  tx?: Transaction,
): Promise<{ id: string; name: string; value: number; on: string }[]> {
  return getDb().select(
    `(SELECT id, reading AS name, value, read_on AS \`on\`, read_at AS at FROM readings WHERE machine_id = :machineId ORDER BY read_at DESC, id DESC LIMIT 400)
     UNION ALL
     (SELECT id, meter AS name, value, read_on AS \`on\`, read_at AS at FROM meter_readings WHERE machine_id = :machineId ORDER BY read_at DESC, id DESC LIMIT 60)
     ORDER BY at`,
    values,
    tx,
  );
}

/** Puts lists together. */
export function sheetsThatTook(): Promise<{ sheetId: string }[]> {
  return getDb().select<{ sheetId: string }>(
    `SELECT sheet_id AS sheetId FROM log_entries WHERE type IN ('consumable-used','part-fitted','mixed') AND late = 0
     UNION SELECT sheet_id FROM stock_moves WHERE sheet_id IS NOT NULL`,
  );
}

/** Says whether it was new. */
export function parkValue(
  values: {
    id: string;
    entryId: string;
    machineId: string;
    sheetId: string;
    payload: string;
    reason: string;
    now: Date;
  },
  tx?: Transaction,
): Promise<number> {
  return getDb().run(
    `INSERT IGNORE INTO parked_readings (id, external_id, gateway_ref, payload, reason, parked_at, machine_id, sheet_id)
     VALUES (:id, :entryId, '', :payload, :reason, :now, :machineId, :sheetId)`,
    values,
    tx,
  );
}

/** Reckons in place, and only where it still is as it was seen. */
export function moveFrom(
  values: { dutyId: string; from: string; on: string | null; personId: string | null },
  tx: Transaction,
): Promise<number> {
  return getDb().run(
    `UPDATE duties SET planned_on = :on, planned_for = :personId, pinned = 0, sequence = sequence + 1
     WHERE id = :dutyId AND planned_on = :from`,
    values,
    tx,
  );
}

/** Reckons in place: what was on the giver's day is on the taker's. */
export function passOn(values: { dutyId: string; from: string; to: string }, tx: Transaction): Promise<number> {
  return getDb().run(
    "UPDATE duties SET planned_for = :to, sequence = sequence + 1 WHERE id = :dutyId AND planned_for = :from AND planned_on IS NOT NULL",
    values,
    tx,
  );
}
