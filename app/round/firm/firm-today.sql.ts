/** Statements of the firm's day that Sequelize's models cannot say well. */
import { type DayRow, getDb } from "@db";

export interface DayOfPerson extends Pick<DayRow, "id" | "status" | "plan" | "figures" | "endMinute"> {
  personId: string;
  name: string;
  duties: number;
  done: number;
}

/** Joins, counts. Everybody who has something on the day, or whose day it is. */
export function daysToday(values: { on: string; since: Date }): Promise<DayOfPerson[]> {
  return getDb().select<DayOfPerson>(
    `SELECT p.id AS personId, p.name, COALESCE(d.id, '') AS id, COALESCE(d.status, 'open') AS status, d.plan, d.figures,
       COALESCE(d.end_minute, 0) AS endMinute,
       (SELECT COUNT(*) FROM duties u WHERE u.planned_for = p.id AND u.planned_on = :on AND u.active = 1) AS duties,
       (SELECT COUNT(*) FROM sheets s WHERE s.closed_by = p.id AND s.closed_at >= :since AND s.status <> 'open') AS done
     FROM persons p LEFT JOIN days d ON d.person_id = p.id AND d.on_day = :on
     WHERE p.active = 1 AND (p.role = 'technician' OR d.plan IS NOT NULL)
     ORDER BY p.name, p.id LIMIT 60`,
    values,
  );
}

export interface WaitingItem {
  id: string;
  severity: "unsafe" | "major";
  title: string;
  machineId: string;
  machineName: string;
  siteName: string;
  wantedBy: string;
  /** How many there are in all. */
  total: number;
}

/** Joins, a window. What was left open and is bad, and that nobody has a day for; each with how many there are. */
export function itemsWithoutDay(values: { today: string; fetch: number }): Promise<WaitingItem[]> {
  return getDb().select<WaitingItem>(
    `SELECT o.id, o.severity, o.title, m.id AS machineId, m.name AS machineName, s.name AS siteName, o.wanted_by AS wantedBy, COUNT(*) OVER () AS total
     FROM open_items o JOIN machines m ON m.id = o.machine_id JOIN sites s ON s.id = m.site_id LEFT JOIN duties d ON d.id = o.work_duty_id
     WHERE o.closed_at IS NULL AND o.severity IN ('unsafe', 'major') AND o.booked_for IS NULL AND (d.planned_on IS NULL OR d.planned_on < :today)
     ORDER BY FIELD(o.severity, 'unsafe', 'major'), o.wanted_by, o.id LIMIT :fetch`,
    values,
  );
}

export interface Refused {
  sheetId: string;
  dutyId: string;
  title: string;
  reason: string;
  machineName: string;
  siteName: string;
  closedAt: Date;
}

/** Joins, asks for absence. Work that a customer refused, and that nobody has planned or tried since. */
export function refusedLately(values: { today: string; since: Date; fetch: number }): Promise<Refused[]> {
  return getDb().select<Refused>(
    `SELECT r.id AS sheetId, p.id AS dutyId, p.title, COALESCE(r.outcome_reason, '') AS reason, m.name AS machineName, s.name AS siteName, r.closed_at AS closedAt
     FROM sheets r JOIN duties p ON p.id = r.duty_id JOIN machines m ON m.id = p.machine_id JOIN sites s ON s.id = p.site_id
     WHERE r.closed_at >= :since AND r.status = 'ended' AND r.outcome = 'refused' AND p.active = 1
       AND (p.planned_on IS NULL OR p.planned_on < :today)
       AND NOT EXISTS (SELECT 1 FROM sheets l WHERE l.duty_id = p.id AND l.opened_at > r.opened_at)
     ORDER BY r.closed_at DESC LIMIT :fetch`,
    values,
  );
}

export interface WaitingDuty {
  dutyId: string;
  title: string;
  dueOn: string;
  machineName: string;
  siteName: string;
}

const OPEN_DUTIES = `FROM duties p JOIN machines m ON m.id = p.machine_id JOIN sites s ON s.id = p.site_id
  WHERE p.active = 1 AND p.who <> 'operator' AND (p.planned_on IS NULL OR p.planned_on < :today)`;

/** Joins. Overdue, and on nobody's day to come. */
export function overdueWithoutDay(values: { today: string; fetch: number }): Promise<WaitingDuty[]> {
  return getDb().select<WaitingDuty>(
    `SELECT p.id AS dutyId, p.title, p.due_on AS dueOn, m.name AS machineName, s.name AS siteName ${OPEN_DUTIES} AND p.due_on < :today AND p.projected = 0
     ORDER BY p.due_on, p.id LIMIT :fetch`,
    values,
  );
}

/** Joins. Those after which the machine must not run on, by tomorrow, and on nobody's day. */
export function hardStopsBy(values: { today: string; by: string; fetch: number }): Promise<WaitingDuty[]> {
  return getDb().select<WaitingDuty>(
    `SELECT p.id AS dutyId, p.title, p.due_on AS dueOn, m.name AS machineName, s.name AS siteName ${OPEN_DUTIES} AND p.hard_stop = 1
       AND p.due_on BETWEEN :today AND :by ORDER BY p.due_on, p.id LIMIT :fetch`,
    values,
  );
}
