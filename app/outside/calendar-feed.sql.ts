/** Statements of calendar-feed that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { FeedRow } from "./calendar-feed.server";

export const MAX_EVENTS = 5000;

/** Joins, compares in the database. */
export function dutiesOfCalendar(values: { id: string; until: string }, forPerson: boolean): Promise<FeedRow[]> {
  return getDb().select<FeedRow>(
    `SELECT p.id AS dutyId, p.title, p.due_on AS dueOn, p.planned_on AS plannedOn, p.anchor_on AS anchorOn, p.sequence, p.minutes,
       p.assessed_at AS assessedAt, m.name AS machineName, m.tag AS machineTag, s.name AS siteName, s.address, s.access_hours AS accessHours,
       s.latitude, s.longitude
     FROM duties p JOIN machines m ON m.id = p.machine_id JOIN sites s ON s.id = m.site_id
     WHERE p.active = 1 AND ${forPerson ? "p.planned_for = :id AND p.planned_on IS NOT NULL" : "p.site_id = :id AND p.due_on IS NOT NULL AND p.due_on <= :until"}
     ORDER BY COALESCE(p.planned_on, p.due_on), p.id LIMIT ${MAX_EVENTS}`,
    values,
  );
}
