/** Statements of day-problem that Sequelize's models cannot say well. */
import type { Procedure } from "@core";
import { getDb } from "@db";

import type { DutySql } from "./day-problem.server";
import type { KnownSite } from "./day-sites.server";

/** Joins. */
export function dutiesOnDay(
  values: { personId: string; on: string; candidates: readonly string[] },
  candidates: readonly string[],
): Promise<DutySql[]> {
  return getDb().select<DutySql>(
    `SELECT p.id AS dutyId, p.procedure_id AS procedureId, p.title, p.minutes, p.rules, p.hard_stop AS hardStop, p.projected, p.due_on AS dueOn, p.anchor_on AS anchorOn,
       p.warning_from AS warningFrom, p.notice_from AS noticeFrom, p.firm_due_on AS firmDueOn, m.id AS machineId, m.name AS machineName, m.tag AS machineTag,
       p.pinned, m.options, m.free_hours AS freeHours, m.ready_by AS readyBy, m.site_id AS siteId, r.id AS sheetId, r.procedure_id AS sheetProcedure
     FROM duties p JOIN machines m ON m.id = p.machine_id LEFT JOIN sheets r ON r.duty_id = p.id AND r.status = 'open'
     WHERE ((p.planned_for = :personId AND p.planned_on = :on) ${candidates.length > 0 ? "OR p.id IN (:candidates)" : ""}) AND p.active = 1
     ORDER BY m.site_id, m.name, p.title, p.id`,
    values,
  );
}

/** Joins. */
export function sitesOnDay(values: { ids: readonly string[] }): Promise<KnownSite[]> {
  return getDb().select<KnownSite>(
    `SELECT s.id, s.name, s.latitude, s.longitude, s.access_hours AS accessHours, s.time_zone AS timeZone, s.shared_places AS sharedPlaces,
       s.holiday_region AS holidayRegion, c.name AS customerName
     FROM sites s JOIN customers c ON c.id = s.customer_id WHERE s.id IN (:ids) ORDER BY s.name, s.id`,
    values,
  );
}

/** Joins. */
export function proceduresOfSheets(values: {
  ids: readonly string[];
}): Promise<{ id: string; body: Procedure; expanded: Procedure | null }[]> {
  return getDb().select<{ id: string; body: Procedure; expanded: Procedure | null }>(
    "SELECT r.id, x.body, x.expanded FROM sheets r JOIN procedures x ON x.id = r.procedure_id AND x.version = r.procedure_version WHERE r.id IN (:ids)",
    values,
  );
}
