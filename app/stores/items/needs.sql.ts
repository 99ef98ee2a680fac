/** Statements of needs that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { DutySql } from "./needs.server";

/** Duties read in one go, and those projected before other requests are let through. */
export const PAGE = 2000;

/** Each once. */
export function newestProcedures(): Promise<{ family: string }[]> {
  return getDb().select<{ family: string }>("SELECT DISTINCT family FROM procedures");
}

/** Joins, sums, puts lists together, each once. */
export function usesInLatestServices(
  values: Record<string, unknown>,
  latest: string,
): Promise<{ procedureId: string; itemId: string | null; total: number }[]> {
  return getDb().select<{ procedureId: string; itemId: string | null; total: number }>(
    `SELECT t.procedure_id AS procedureId, NULL AS itemId, COUNT(*) AS total FROM (${latest}) t GROUP BY t.procedure_id
     UNION ALL
     SELECT t.procedure_id, m.item_id, COUNT(DISTINCT m.sheet_id) FROM (${latest}) t JOIN stock_moves m ON m.sheet_id = t.sheet_id JOIN items i ON i.id = m.item_id AND i.kind = 'part'
     WHERE m.kind = 'use' GROUP BY t.procedure_id, m.item_id`,
    values,
  );
}

/** Joins, compares in the database. */
export function dutiesPage(values: {
  after: string;
  until: string;
  today: string;
  using: string[];
}): Promise<DutySql[]> {
  return getDb().select<DutySql>(
    `SELECT p.id, p.start_on AS startOn, p.rules, p.due_on AS dueOn, p.projected, p.procedure_id AS procedureId, p.machine_id AS machineId, p.site_id AS siteId, m.options,
         IF(p.planned_on >= :today, p.planned_on, NULL) AS plannedOn,
         COALESCE(IF(p.planned_on >= :today, p.planned_for, NULL), (SELECT r.closed_by FROM sheets r WHERE r.duty_id = p.id AND r.status = 'signed' ORDER BY r.closed_at DESC LIMIT 1)) AS plannedFor
       FROM duties p JOIN machines m ON m.id = p.machine_id
       WHERE p.id > :after AND p.active = 1 AND p.who <> 'operator' AND p.due_on IS NOT NULL AND p.due_on <= :until AND p.procedure_id IN (:using)
       ORDER BY p.id LIMIT ${PAGE}`,
    values,
  );
}

/** Joins: parts that open items take, on the day they are planned for or else wanted by. */
export function partsOfOpenItems(values: {
  until: string;
}): Promise<
  { item: string; on: string; dutyId: string; siteId: string; machineId: string; personId: string | null }[]
> {
  return getDb().select(
    `SELECT o.item, COALESCE(d.planned_on, o.wanted_by) AS \`on\`, d.id AS dutyId, d.site_id AS siteId, o.machine_id AS machineId,
       COALESCE(d.planned_for, o.owner_id) AS personId
     FROM open_items o JOIN duties d ON d.id = o.work_duty_id
     WHERE o.closed_at IS NULL AND o.item IS NOT NULL AND COALESCE(d.planned_on, o.wanted_by) <= :until ORDER BY o.wanted_by, o.id`,
    values,
  );
}
