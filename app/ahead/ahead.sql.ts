/** Statements of ahead that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { AheadFilter, DutySql } from "./ahead.server";

export const SITES_PER_PAGE = 12;

/** Sites that a search by words may name; more than these and the words are too few. */
export const MAX_NAMED_SITES = 500;

/** A day before any duty: keeps an index range open at its lower end, past the duties without a day. */
export const EARLIEST = "1000-01-01";

export const dutiesWhere = (alias: string, filter: AheadFilter): string =>
  `${alias}.active = 1 ${filter.who ? `AND ${alias}.who = :who` : ""} ${filter.family ? `AND ${alias}.family = :family` : ""}`;

/** An index by name, asks for absence. */
export function sitesByFirstDuty(
  values: Record<string, unknown>,
  filter: AheadFilter,
  afterDuty: string | undefined,
): Promise<{ id: string; first: string; mark: string }[]> {
  return getDb().select<{ id: string; first: string; mark: string }>(
    `SELECT p.site_id AS id, p.due_on AS first, p.id AS mark FROM duties p FORCE INDEX (duties_due)
     WHERE ${dutiesWhere("p", filter)} AND p.due_on >= :from ${afterDuty ? "AND (p.due_on > :from OR p.id > :afterDuty)" : ""}
       AND NOT EXISTS (SELECT 1 FROM duties q FORCE INDEX (duties_site_due)
         WHERE ${dutiesWhere("q", filter)} AND q.site_id = p.site_id AND q.due_on >= '${EARLIEST}' AND q.due_on <= p.due_on
           AND (q.due_on < p.due_on OR q.id < p.id))
     ORDER BY p.due_on, p.id LIMIT ${SITES_PER_PAGE + 1}`,
    values,
  );
}

/** Joins, puts lists together. */
export function sitesWithDuties(values: { like: string }): Promise<{ id: string }[]> {
  return getDb().select<{ id: string }>(
    `SELECT id FROM sites WHERE name LIKE :like UNION SELECT s.id FROM customers c JOIN sites s ON s.customer_id = c.id WHERE c.name LIKE :like LIMIT ${MAX_NAMED_SITES}`,
    values,
  );
}

/** Sums. */
export function countSites(
  values: Record<string, unknown>,
  filter: AheadFilter,
  siteIds: string[] | null,
  siteId: string | null,
  afterSite: string | undefined,
): Promise<{ id: string; first: string; mark: string; total: number }[]> {
  return getDb().select<{ id: string; first: string; mark: string; total: number }>(
    `SELECT id, first, id AS mark, total FROM (
       SELECT p.site_id AS id, MIN(p.due_on) AS first, COUNT(*) OVER () AS total FROM duties p
       WHERE ${dutiesWhere("p", filter)} AND p.due_on >= '${EARLIEST}' ${siteIds ? "AND p.site_id IN (:siteIds)" : ""} ${siteId ? "AND p.site_id = :siteId" : ""}
         ${filter.personId ? "AND p.planned_for = :personId" : ""}
       GROUP BY p.site_id
     ) found ${afterSite ? "WHERE first > :afterDay OR (first = :afterDay AND id > :afterSite)" : ""} ORDER BY first, id LIMIT ${SITES_PER_PAGE + 1}`,
    values,
  );
}

/** Joins, asks for absence. */
export function dutiesOfSites(values: Record<string, unknown>, filter: AheadFilter): Promise<DutySql[]> {
  return getDb().select<DutySql>(
    `SELECT p.id, p.title, p.procedure_id AS procedureId, p.machine_id AS machineId, p.who, p.start_on AS startOn, p.rules, p.due_on AS dueOn,
       p.warning_from AS warningFrom, p.notice_from AS noticeFrom, p.projected, p.firm_due_on AS firmDueOn,
       p.site_id AS siteId, p.planned_on AS plannedOn, p.planned_for AS plannedFor, p.hard_stop AS hardStop, p.minutes,
       m.name AS machineName, m.tag AS machineTag, p.family,
       EXISTS (SELECT 1 FROM machine_holds h WHERE h.cleared_at IS NULL AND h.machine_id = m.id) AS held
     FROM duties p JOIN machines m ON m.id = p.machine_id
     WHERE p.active = 1 AND p.site_id IN (:siteIds) AND p.due_on IS NOT NULL
       ${filter.family ? "AND p.family = :family" : ""} ${filter.who ? "AND p.who = :who" : ""} ${filter.personId ? "AND p.planned_for = :personId" : ""}
     ORDER BY p.due_on, p.id`,
    values,
  );
}

/** Joins. */
export function siteNames(values: {
  ids: string[];
}): Promise<{ id: string; name: string; customerName: string; accessHours: string; timeZone: string }[]> {
  return getDb().select<{ id: string; name: string; customerName: string; accessHours: string; timeZone: string }>(
    `SELECT s.id, s.name, c.name AS customerName, s.access_hours AS accessHours, s.time_zone AS timeZone
         FROM sites s JOIN customers c ON c.id = s.customer_id WHERE s.id IN (:ids)`,
    values,
  );
}
