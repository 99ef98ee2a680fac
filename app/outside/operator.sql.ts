/** Statements of operator that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

/** Joins. */
export function machines(values: {
  machineId: string;
}): Promise<{ name: string; area: string; siteName: string; timeZone: string }[]> {
  return getDb().select<{ name: string; area: string; siteName: string; timeZone: string }>(
    "SELECT m.name, m.area, s.name AS siteName, s.time_zone AS timeZone FROM machines m JOIN sites s ON s.id = m.site_id WHERE m.id = :machineId",
    values,
  );
}

/** Joins, reads inside JSON, compares in the database. */
export function plans(values: {
  machineId: string;
  ownDuty: string;
}): Promise<{ planId: string; steps: { kind: string; title: string }[] }[]> {
  return getDb().select<{ planId: string; steps: { kind: string; title: string }[] }>(
    `SELECT p.id AS planId, JSON_EXTRACT(COALESCE(x.expanded, x.body), '$.steps') AS steps FROM plans p JOIN procedures x ON x.id = p.procedure_id
     WHERE p.machine_id = :machineId AND p.who = 'operator' AND x.id <> :ownDuty ORDER BY x.version`,
    values,
  );
}

/** Asks for absence. */
export function plansForTickDuties(
  values: { planIds: readonly string[]; machineId: string; today: string },
  tx?: Transaction,
): Promise<{ id: string }[]> {
  return getDb().select<{ id: string }>(
    `SELECT p.id FROM plans p WHERE p.id IN (:planIds) AND p.machine_id = :machineId AND p.who = 'operator' AND p.active = 1
         AND NOT EXISTS (SELECT 1 FROM operator_ticks t WHERE t.plan_id = p.id AND t.done_on = :today)`,
    values,
    tx,
  );
}
