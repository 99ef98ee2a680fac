/** Statements of operator that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Joins, reads inside JSON, compares in the database. */
export function operatorDuties(values: {
  machineId: string;
  ownDuty: string;
}): Promise<{ dutyId: string; steps: { kind: string; title: string }[] }[]> {
  return getDb().select<{ dutyId: string; steps: { kind: string; title: string }[] }>(
    `SELECT p.id AS dutyId, JSON_EXTRACT(COALESCE(x.expanded, x.body), '$.steps') AS steps FROM duties p JOIN procedures x ON x.id = p.procedure_id
     WHERE p.machine_id = :machineId AND p.who = 'operator' AND x.id <> :ownDuty ORDER BY x.version`,
    values,
  );
}

/** Asks for absence. */
export function dutiesToTick(
  values: { dutyIds: readonly string[]; machineId: string; today: string },
  tx?: Transaction,
): Promise<{ id: string }[]> {
  return getDb().select<{ id: string }>(
    `SELECT p.id FROM duties p WHERE p.id IN (:dutyIds) AND p.machine_id = :machineId AND p.who = 'operator' AND p.active = 1
         AND NOT EXISTS (SELECT 1 FROM operator_ticks t WHERE t.duty_id = p.id AND t.done_on = :today)`,
    values,
    tx,
  );
}
