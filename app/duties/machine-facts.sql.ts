/** Statements of machine-facts that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Joins. */
export function machinesWithSites(
  values: { machineIds: readonly string[] },
  tx?: Transaction,
): Promise<{ id: string; siteId: string; timeZone: string; accessHours: string; holidayRegion: string }[]> {
  return getDb().select(
    `SELECT m.id, m.site_id AS siteId, s.time_zone AS timeZone, s.access_hours AS accessHours, s.holiday_region AS holidayRegion
     FROM machines m JOIN sites s ON s.id = m.site_id WHERE m.id IN (:machineIds)`,
    values,
    tx,
  );
}

/** Joins, sums: since when the pieces that a reading tells of are in, where all of its slots were renewed. */
export function renewals(
  values: { machineIds: readonly string[] },
  tx?: Transaction,
): Promise<{ machineId: string; reading: string; at: Date }[]> {
  return getDb().select(
    `SELECT w.machine_id AS machineId, w.reading, MIN(f.at) AS at
     FROM (SELECT DISTINCT machine_id, reading, slot FROM wear_lines WHERE machine_id IN (:machineIds)) w
       LEFT JOIN (SELECT machine_id, slot, MAX(fitted_at) AS at FROM slot_fits WHERE machine_id IN (:machineIds) GROUP BY machine_id, slot) f
         ON f.machine_id = w.machine_id AND f.slot = w.slot
     GROUP BY w.machine_id, w.reading HAVING COUNT(*) = COUNT(f.at)`,
    values,
    tx,
  );
}

export interface CompletionFacts {
  machineId: string;
  dutyId: string;
  on: string;
  meters: Record<string, number> | string | null;
  credits: string[] | string | null;
}

/** NULLIF spares parsing: most completions note no meter, and a register has millions of them. */
export function recentCompletions(
  values: { machineIds: readonly string[] },
  tx?: Transaction,
): Promise<CompletionFacts[]> {
  return getDb().select(
    "SELECT machine_id AS machineId, duty_id AS dutyId, done_on AS `on`, NULLIF(meters, '{}') AS meters, credits FROM completions WHERE machine_id IN (:machineIds) ORDER BY done_on",
    values,
    tx,
  );
}
