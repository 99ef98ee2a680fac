/** Statements of what comes after a signature that Sequelize's models cannot say well. */
import { getDb } from "@db";

export interface PlannedRow {
  dutyId: string;
  title: string;
  machineName: string;
  siteId: string;
  siteName: string;
}

/** Joins: what a person has on a day and nobody has a sheet of. */
export function plannedFor(values: { personId: string; on: string }): Promise<PlannedRow[]> {
  return getDb().select<PlannedRow>(
    `SELECT p.id AS dutyId, p.title, m.name AS machineName, s.id AS siteId, s.name AS siteName
     FROM duties p JOIN machines m ON m.id = p.machine_id JOIN sites s ON s.id = m.site_id
       LEFT JOIN sheets r ON r.open_duty_id = p.id
     WHERE p.planned_for = :personId AND p.planned_on = :on AND p.active = 1 AND r.id IS NULL
     ORDER BY s.name, m.name, p.title LIMIT 40`,
    values,
  );
}

/** Joins: sheets with their machines. */
export function machinesOf(values: { sheetIds: string[] }): Promise<{ sheetId: string; machineName: string }[]> {
  return getDb().select(
    "SELECT r.id AS sheetId, m.name AS machineName FROM sheets r JOIN machines m ON m.id = r.machine_id WHERE r.id IN (:sheetIds) ORDER BY m.name, r.id",
    values,
  );
}
