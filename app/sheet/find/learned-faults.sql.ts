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
