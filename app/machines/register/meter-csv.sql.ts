/** Statements of meter-csv that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** Joins. */
export function machinesByTag(values: { tags: string[] }): Promise<{ id: string; tag: string; timeZone: string }[]> {
  return getDb().select<{ id: string; tag: string; timeZone: string }>(
    "SELECT m.id, m.tag, s.time_zone AS timeZone FROM machines m JOIN sites s ON s.id = m.site_id WHERE m.tag IN (:tags)",
    values,
  );
}
