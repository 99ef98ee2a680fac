/** Statements of ahead-export that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { AheadFilter } from "./ahead.server";

/** Most rows of one file. */
export const MAX_ROWS = 100_000;

/** Joins. */
export function dutiesForCsv(
  values: Record<string, unknown>,
  filter: AheadFilter,
): Promise<Record<string, string | number | null>[]> {
  return getDb().select<Record<string, string | number | null>>(
    `SELECT c.name AS customer, s.name AS site, m.name AS machine, m.tag, p.title AS duty, p.who, p.due_on, p.projected AS forecast,
       p.planned_on, w.name AS planned_for, p.minutes
     FROM duties p JOIN machines m ON m.id = p.machine_id JOIN sites s ON s.id = p.site_id JOIN customers c ON c.id = s.customer_id
     LEFT JOIN persons w ON w.id = p.planned_for
     WHERE p.active = 1 AND p.due_on IS NOT NULL ${filter.siteId ? "AND p.site_id = :siteId" : ""} ${filter.family ? "AND m.family = :family" : ""}
       ${filter.who ? "AND p.who = :who" : ""} ${filter.personId ? "AND p.planned_for = :personId" : ""} ${filter.q ? "AND (s.name LIKE :like OR c.name LIKE :like)" : ""}
     ORDER BY p.due_on, p.id LIMIT ${MAX_ROWS}`,
    values,
  );
}
