/** Statements of today that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { TodayDuty } from "./today-stops";

/** Joins; asks for absence. What is on a person's day, or was when it was planned. */
export function dutiesOfToday(values: {
  personId: string;
  on: string;
  ids: readonly string[];
  since: Date;
}): Promise<TodayDuty[]> {
  return getDb().select<TodayDuty>(
    `SELECT p.id AS dutyId, p.title, m.name AS machineName, p.site_id AS siteId, o.id AS sheetId,
       o.id IS NULL AND EXISTS (SELECT 1 FROM sheets c WHERE c.duty_id = p.id AND c.status <> 'open' AND c.closed_at >= :since) AS done
     FROM duties p JOIN machines m ON m.id = p.machine_id LEFT JOIN sheets o ON o.duty_id = p.id AND o.status = 'open'
     WHERE p.id IN (:ids) OR (p.planned_for = :personId AND p.planned_on = :on)`,
    values,
  );
}
