/** Statements of due that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { DueSqlRow, MachineDutySqlRow } from "./due.server";

export const DUE_COLUMNS = `
  p.id AS dutyId, p.procedure_id AS procedureId, p.title, p.minutes, p.who, p.anchor_on AS anchorOn, p.rivals, p.hard_stop AS hardStop, p.projected,
  p.foretold_from AS foretoldFrom, p.foretold_to AS foretoldTo,
  p.due_on AS dueOn, p.warning_from AS warningFrom, p.notice_from AS noticeFrom, p.firm_due_on AS firmDueOn, p.planned_on AS plannedOn, w.name AS plannedForName,
  m.id AS machineId, m.name AS machineName, m.tag AS machineTag, m.family, m.area,
  s.id AS siteId, s.name AS siteName, s.time_zone AS timeZone, s.access_hours AS accessHours, c.name AS customerName
  FROM duties p JOIN machines m ON m.id = p.machine_id JOIN sites s ON s.id = m.site_id JOIN customers c ON c.id = s.customer_id
  LEFT JOIN persons w ON w.id = p.planned_for`;

/** Joins, an index by name. */
export function dueDuties(
  values: { latest: string; siteId: string; afterDay: string; afterId: string; fetch: number },
  filter: { siteId?: string | null; after?: string | null; limit?: number },
  afterDay: string | undefined,
  afterId: string | undefined,
): Promise<DueSqlRow[]> {
  return getDb().select<DueSqlRow>(
    `SELECT ${DUE_COLUMNS}
     JOIN (
       SELECT id FROM duties FORCE INDEX (${filter.siteId ? "duties_site_due" : "duties_due"})
       WHERE active = 1 AND who <> 'operator' AND notice_from <= :latest
         ${filter.siteId ? "AND site_id = :siteId" : ""}
         ${afterDay && afterId ? "AND (due_on > :afterDay OR (due_on = :afterDay AND id > :afterId))" : ""}
       ORDER BY due_on, id LIMIT :fetch
     ) page ON page.id = p.id
     ORDER BY p.due_on, p.id`,
    values,
  );
}

/** Its shape varies. */
export function dutiesOfMachine(values: { machineId: string }): Promise<DueSqlRow[]> {
  return getDb().select<DueSqlRow>(
    `SELECT ${DUE_COLUMNS} WHERE p.machine_id = :machineId AND p.active = 1 ORDER BY p.due_on IS NULL, p.due_on, p.title`,
    values,
  );
}

/** Joins. */
export function dutiesOfMachines(values: { machineIds: readonly string[] }): Promise<MachineDutySqlRow[]> {
  return getDb().select<MachineDutySqlRow>(
    `SELECT p.machine_id AS machineId, p.title, p.who, p.anchor_on AS anchorOn, p.rivals, p.hard_stop AS hardStop, p.projected, p.due_on AS dueOn,
       p.foretold_from AS foretoldFrom, p.foretold_to AS foretoldTo,
       p.warning_from AS warningFrom, p.notice_from AS noticeFrom, p.firm_due_on AS firmDueOn, s.time_zone AS timeZone
     FROM duties p JOIN sites s ON s.id = p.site_id WHERE p.machine_id IN (:machineIds) AND p.active = 1`,
    values,
  );
}

/** Its shape varies. */
export function oneDuty(values: { dutyId: string }): Promise<DueSqlRow[]> {
  return getDb().select<DueSqlRow>(`SELECT ${DUE_COLUMNS} WHERE p.id = :dutyId`, values);
}

/** Joins. */
export function latestSheets(values: { dutyIds: string[] }): Promise<
  {
    id: string;
    dutyId: string;
    status: string;
    outcome: string | null;
    reason: string | null;
    closedAt: Date | null;
  }[]
> {
  return getDb().select<{
    id: string;
    dutyId: string;
    status: string;
    outcome: string | null;
    reason: string | null;
    closedAt: Date | null;
  }>(
    `SELECT r.id, r.duty_id AS dutyId, r.status, r.outcome, r.outcome_reason AS reason, r.closed_at AS closedAt
     FROM duties p JOIN sheets r ON r.duty_id = p.id AND r.opened_at >= p.anchor_on - INTERVAL 1 DAY
     WHERE p.id IN (:dutyIds) ORDER BY r.opened_at`,
    values,
  );
}
