import { getDb } from "@db";

/** How often each cause was found behind each symptom, on a machine and on the family's others; counted on one covering index. */
export function causesFound(values: {
  family: string;
  machineId: string;
}): Promise<{ symptom: string; cause: string; own: number; others: number }[]> {
  return getDb().select(
    `SELECT symptom, cause, CAST(SUM(machine_id = :machineId) AS UNSIGNED) AS own,
       CAST(SUM(machine_id <> :machineId) AS UNSIGNED) AS others
     FROM fault_outcomes WHERE family = :family AND outcome <> 'not-cured' GROUP BY symptom, cause`,
    values,
  );
}

/** Of so many a family had last: enough to say how long a remedy holds. */
const LATEST = 2000;

/** Looks at the row before: days between a cause that was cured and the same cause again on the same machine of a family. */
export function gapsBetween(values: {
  family: string;
  causes: readonly string[];
}): Promise<{ cause: string; days: number }[]> {
  return getDb().select(
    `SELECT cause, days FROM (
       SELECT cause, DATEDIFF(on_day, LAG(on_day) OVER (PARTITION BY machine_id, cause ORDER BY found_at)) AS days
       FROM (
         SELECT cause, machine_id, on_day, found_at, outcome FROM fault_outcomes
         WHERE family = :family ORDER BY found_at DESC LIMIT ${LATEST}
       ) latest WHERE outcome = 'cured' AND cause IN (:causes)) gaps
     WHERE days IS NOT NULL`,
    values,
  );
}
