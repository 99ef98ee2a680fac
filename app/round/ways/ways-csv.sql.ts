/** Statements of ways-csv that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

import type { Way } from "./ways-csv.server";

/** Joins, compares in the database. */
export function waysWithNames(values: { depotName: string; depotId: string }): Promise<Way[]> {
  return getDb().select<Way>(
    `SELECT COALESCE(a.name, :depotName) AS \`from\`, COALESCE(b.name, :depotName) AS \`to\`, t.minutes
     FROM travel_minutes t LEFT JOIN sites a ON a.id = t.from_place LEFT JOIN sites b ON b.id = t.to_place
     WHERE (a.id IS NOT NULL OR t.from_place = :depotId) AND (b.id IS NOT NULL OR t.to_place = :depotId) ORDER BY 1, 2 LIMIT 100000`,
    values,
  );
}

/** Adds or brings up to date. */
export function keepWays(
  values: Record<string, unknown>,
  part: { from: string; to: string; minutes: number }[],
  tx?: Transaction,
): Promise<number> {
  return getDb().run(
    `INSERT INTO travel_minutes (from_place, to_place, minutes) VALUES ${part.map((_, k) => `(:f${k}, :t${k}, :m${k})`).join(", ")} ON DUPLICATE KEY UPDATE minutes = VALUES(minutes)`,
    values,
    tx,
  );
}

/** Adds or brings up to date. */
export function keepDepot(values: Record<string, unknown>, tx?: Transaction): Promise<number> {
  return getDb().run(
    `INSERT INTO depots (id, name, time_zone, latitude, longitude) VALUES (:id, :name, :timeZone, :latitude, :longitude)
       ON DUPLICATE KEY UPDATE name = VALUES(name), time_zone = VALUES(time_zone), latitude = VALUES(latitude), longitude = VALUES(longitude)`,
    values,
    tx,
  );
}
