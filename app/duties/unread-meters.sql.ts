/** Statements of meters that wait to be read that Sequelize's models cannot say well. */
import { type DutyRules, getDb } from "@db";

export interface UnreadRow {
  dutyId: string;
  title: string;
  rules: DutyRules;
  /** A forecast whose day has come; null where none can be made. */
  dueOn: string | null;
  machineId: string;
  machineName: string;
  machineTag: string;
  siteName: string;
}

/** An index by name, joins: duties by a meter that have no day, or whose forecast day has come: one that has passed is today once it is assessed anew. */
export function unreadDuties(values: { today: string; machineId: string | null; most: number }): Promise<UnreadRow[]> {
  return getDb().select<UnreadRow>(
    `SELECT p.id AS dutyId, p.title, p.rules, p.due_on AS dueOn, m.id AS machineId, m.name AS machineName, m.tag AS machineTag, s.name AS siteName
     FROM duties p ${values.machineId === null ? "FORCE INDEX (duties_forecast)" : ""} JOIN machines m ON m.id = p.machine_id JOIN sites s ON s.id = m.site_id
     WHERE p.active = 1 AND p.projected = 1 AND (p.due_on IS NULL OR p.due_on <= :today) AND p.who <> 'operator' ${values.machineId === null ? "" : "AND p.machine_id = :machineId"}
     ORDER BY p.due_on, p.id LIMIT :most`,
    values,
  );
}

/** Numbered rows: the latest completions of each duty, so many that their intervals tell how it goes now. */
export function latestCompletions(values: {
  dutyIds: string[];
  most: number;
}): Promise<{ dutyId: string; doneOn: string }[]> {
  return getDb().select(
    `SELECT dutyId, doneOn FROM (
       SELECT duty_id AS dutyId, done_on AS doneOn, ROW_NUMBER() OVER (PARTITION BY duty_id ORDER BY done_on DESC) AS n
       FROM completions WHERE duty_id IN (:dutyIds)) c WHERE n <= :most`,
    values,
  );
}

/** Sums, each meter once: the last day on which it was read. */
export function lastRead(values: {
  machineIds: string[];
}): Promise<{ machineId: string; meter: string; on: string }[]> {
  return getDb().select(
    "SELECT machine_id AS machineId, meter, MAX(read_on) AS `on` FROM meter_readings WHERE machine_id IN (:machineIds) GROUP BY machine_id, meter",
    values,
  );
}
