/** Statements of needs that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { PlanSql } from "./needs.server";

/** Duties read in one go, and those projected before other requests are let through. */
export const PAGE = 2000;

/** Each once. */
export function procedures(): Promise<{ family: string }[]> {
  return getDb().select<{ family: string }>("SELECT DISTINCT family FROM procedures");
}

/** Joins, sums, puts lists together, each once. */
export function countX(
  values: Record<string, unknown>,
  latest: string,
): Promise<{ procedureId: string; itemId: string | null; total: number }[]> {
  return getDb().select<{ procedureId: string; itemId: string | null; total: number }>(
    `SELECT t.procedure_id AS procedureId, NULL AS itemId, COUNT(*) AS total FROM (${latest}) t GROUP BY t.procedure_id
     UNION ALL
     SELECT t.procedure_id, m.item_id, COUNT(DISTINCT m.run_id) FROM (${latest}) t JOIN stock_moves m ON m.run_id = t.run_id JOIN items i ON i.id = m.item_id AND i.kind = 'part'
     WHERE m.kind = 'use' GROUP BY t.procedure_id, m.item_id`,
    values,
  );
}

/** Joins, compares in the database. */
export function runs(values: { after: string; until: string; today: string; using: string[] }): Promise<PlanSql[]> {
  return getDb().select<PlanSql>(
    `SELECT p.id, p.start_on AS startOn, p.rules, p.due_on AS dueOn, p.procedure_id AS procedureId, p.machine_id AS machineId, p.site_id AS siteId, m.options,
         IF(p.planned_on >= :today, p.planned_on, NULL) AS plannedOn,
         COALESCE(IF(p.planned_on >= :today, p.planned_for, NULL), (SELECT r.closed_by FROM runs r WHERE r.plan_id = p.id AND r.status = 'signed' ORDER BY r.closed_at DESC LIMIT 1)) AS plannedFor
       FROM plans p JOIN machines m ON m.id = p.machine_id
       WHERE p.id > :after AND p.active = 1 AND p.who <> 'operator' AND p.due_on IS NOT NULL AND p.due_on <= :until AND p.procedure_id IN (:using)
       ORDER BY p.id LIMIT ${PAGE}`,
    values,
  );
}
