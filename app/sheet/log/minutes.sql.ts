/** Statements of minutes that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Services looked back on for one procedure. */
export const LOOK_BACK = 60;

/** Adds or brings up to date. */
export function addSheetMinutes(values: Record<string, unknown>, places: string, tx?: Transaction): Promise<number> {
  return getDb().run(
    `INSERT INTO sheet_minutes (sheet_id, procedure_id, site_id, person_id, done_on, hands_minutes) VALUES ${places}
     ON DUPLICATE KEY UPDATE hands_minutes = VALUES(hands_minutes)`,
    values,
    tx,
  );
}

/** Its shape varies. */
export function minutesByProcedure(values: {
  ids: string[];
}): Promise<{ procedureId: string; siteId: string; personId: string; minutes: number }[]> {
  return getDb().select<{ procedureId: string; siteId: string; personId: string; minutes: number }>(
    `SELECT procedure_id AS procedureId, site_id AS siteId, person_id AS personId, hands_minutes AS minutes FROM (
       SELECT procedure_id, site_id, person_id, hands_minutes, ROW_NUMBER() OVER (PARTITION BY procedure_id ORDER BY done_on DESC) AS place
       FROM sheet_minutes WHERE procedure_id IN (:ids)
     ) recent WHERE place <= ${LOOK_BACK}`,
    values,
  );
}
