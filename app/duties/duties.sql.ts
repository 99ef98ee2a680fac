/** Statements of duties that Sequelize's models cannot say well. */
import { getDb, type PauseRow } from "@db";

/** Compares in the database. */
export function otherDuties(values: {
  machineId: string;
  dutyId: string;
  ownDuty: string;
}): Promise<{ key: string; title: string }[]> {
  return getDb().select<{ key: string; title: string }>(
    "SELECT IF(procedure_id = :ownDuty, id, procedure_id) AS `key`, title FROM duties WHERE machine_id = :machineId AND id <> :dutyId ORDER BY title",
    values,
  );
}

/** Joins. */
export function pausesOf(values: { machineId: string }): Promise<(PauseRow & { by: string })[]> {
  return getDb().select<PauseRow & { by: string }>(
    `SELECT x.id, x.machine_id AS machineId, x.duty_id AS dutyId, x.from_on AS fromOn, x.to_on AS toOn, x.reason, x.by_person AS byPerson,
       x.logged_at AS loggedAt, x.resumed_by AS resumedBy, x.resumed_at AS resumedAt, p.name AS \`by\`
     FROM pauses x JOIN persons p ON p.id = x.by_person WHERE x.machine_id = :machineId ORDER BY x.from_on DESC, x.id DESC LIMIT 20`,
    values,
  );
}
