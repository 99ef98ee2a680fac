/** Statements of the service packet that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** Joins: the machine's last closed sheets but one. */
export function lastServices(values: {
  machineId: string;
  sheetId: string;
}): Promise<{ title: string; outcome: string; onDay: string; byName: string }[]> {
  return getDb().select(
    `SELECT r.title, r.outcome, r.on_day AS onDay, p.name AS byName
     FROM records r JOIN persons p ON p.id = r.closed_by
     WHERE r.machine_id = :machineId AND r.sheet_id <> :sheetId
     ORDER BY r.closed_at DESC LIMIT 8`,
    values,
  );
}

/** The newest of each name. */
export function lastReadings(values: {
  machineId: string;
}): Promise<{ reading: string; value: number; unit: string; readOn: string }[]> {
  return getDb().select(
    `SELECT r.reading, r.value, r.unit, r.read_on AS readOn FROM readings r
     JOIN (SELECT reading, MAX(read_at) AS readAt FROM readings WHERE machine_id = :machineId GROUP BY reading) n
       ON n.reading = r.reading AND n.readAt = r.read_at
     WHERE r.machine_id = :machineId ORDER BY r.read_at DESC LIMIT 20`,
    values,
  );
}
