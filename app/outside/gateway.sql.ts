/** Statements of gateway that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

import type { Mapped } from "./gateway.server";
import type { ParkedView } from "./parked.server";

/** Says whether it was new. */
export function knowGateway(values: { name: string }): Promise<number> {
  return getDb().run("INSERT IGNORE INTO gateways (name) VALUES (:name)", values);
}

/** Joins. */
export function metersByReference(values: { refs: string[] }, tx?: Transaction): Promise<(Mapped & { ref: string })[]> {
  return getDb().select<Mapped & { ref: string }>(
    `SELECT g.gateway_ref AS ref, g.machine_id AS machineId, g.meter, g.unit, s.time_zone AS timeZone
           FROM machine_meters g JOIN machines m ON m.id = g.machine_id JOIN sites s ON s.id = m.site_id WHERE g.gateway_ref IN (:refs)`,
    values,
    tx,
  );
}

/** Joins, sums. */
export function lastValues(
  values: { ids: string[] },
  tx?: Transaction,
): Promise<{ machineId: string; meter: string; value: number; at: Date }[]> {
  return getDb().select<{ machineId: string; meter: string; value: number; at: Date }>(
    `SELECT r.machine_id AS machineId, r.meter, r.value, r.read_at AS at FROM meter_readings r
     JOIN (SELECT machine_id, meter, MAX(read_at) AS read_at FROM meter_readings WHERE machine_id IN (:ids) GROUP BY machine_id, meter) newest
       ON newest.machine_id = r.machine_id AND newest.meter = r.meter AND newest.read_at = r.read_at
     ORDER BY r.id`,
    values,
    tx,
  );
}

/** Says whether it was new. */
export function parkReadings(
  values: { id: string; externalId: string; ref: string; payload: string; reason: string; now: Date },
  tx?: Transaction,
): Promise<number> {
  return getDb().run(
    `INSERT IGNORE INTO parked_readings (id, external_id, gateway_ref, payload, reason, parked_at) VALUES (:id, :externalId, :ref, :payload, :reason, :now)`,
    values,
    tx,
  );
}

/** Joins. */
export function parkedNames(): Promise<
  (Omit<ParkedView, "value" | "at"> & { payload: { value: unknown; at: unknown; name?: string } })[]
> {
  return getDb().select(
    `SELECT x.id, x.gateway_ref AS ref, x.payload, x.reason, x.parked_at AS parkedAt, m.id AS machineId, m.name AS machineName, x.sheet_id AS sheetId
     FROM parked_readings x LEFT JOIN machine_meters g ON g.gateway_ref = x.gateway_ref
     LEFT JOIN machines m ON m.id = COALESCE(x.machine_id, g.machine_id)
     WHERE x.settled_at IS NULL ORDER BY x.parked_at DESC, x.id LIMIT 100`,
  );
}

/** Joins. */
export function settledReadings(values: { ref: string }, tx?: Transaction): Promise<Mapped[]> {
  return getDb().select<Mapped>(
    `SELECT g.machine_id AS machineId, g.meter, g.unit, s.time_zone AS timeZone FROM machine_meters g
         JOIN machines m ON m.id = g.machine_id JOIN sites s ON s.id = m.site_id WHERE g.gateway_ref = :ref`,
    values,
    tx,
  );
}
