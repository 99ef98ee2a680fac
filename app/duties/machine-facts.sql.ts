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
