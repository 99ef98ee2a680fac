/** Statements of a day's evening that Sequelize's models cannot say well. */
import { getDb } from "@db";

export interface EveningSheet {
  sheetId: string;
  dutyId: string;
  title: string;
  machineName: string;
  siteName: string;
  status: "open" | "signed" | "ended";
  outcome: string | null;
  outcomeReason: string | null;
  closedAt: Date | null;
  handsMinutes: number | null;
}

/** Joins: a person's sheets that are open, or were closed around a day. */
export function sheetsAround(values: { personId: string; on: string }): Promise<EveningSheet[]> {
  const what = `SELECT r.id AS sheetId, r.duty_id AS dutyId, p.title, m.name AS machineName, s.name AS siteName, r.status,
       r.outcome, r.outcome_reason AS outcomeReason, r.closed_at AS closedAt, t.hands_minutes AS handsMinutes
     FROM sheets r JOIN duties p ON p.id = r.duty_id JOIN machines m ON m.id = r.machine_id JOIN sites s ON s.id = m.site_id
       LEFT JOIN sheet_minutes t ON t.sheet_id = r.id`;
  return getDb().select<EveningSheet>(
    `${what} WHERE r.held_by = :personId AND r.status = 'open'
     UNION ALL ${what} WHERE r.closed_by = :personId AND r.closed_at >= :on - INTERVAL 1 DAY AND r.closed_at < :on + INTERVAL 2 DAY
       AND r.status <> 'open'
     ORDER BY closedAt, sheetId`,
    values,
  );
}

export interface EveningDuty {
  dutyId: string;
  title: string;
  machineName: string;
  siteId: string;
  siteName: string;
  active: boolean;
  dueOn: string | null;
  plannedOn: string | null;
  plannedFor: string | null;
  plannedForName: string | null;
}

/** Joins: what is on a person's day, and where what was on it stands now. */
export function dutiesOfDay(values: { personId: string; on: string; ids: string[] }): Promise<EveningDuty[]> {
  return getDb().select<EveningDuty>(
    `SELECT p.id AS dutyId, p.title, m.name AS machineName, s.id AS siteId, s.name AS siteName, p.active = 1 AS active,
       p.due_on AS dueOn, p.planned_on AS plannedOn, p.planned_for AS plannedFor, x.name AS plannedForName
     FROM duties p JOIN machines m ON m.id = p.machine_id JOIN sites s ON s.id = m.site_id LEFT JOIN persons x ON x.id = p.planned_for
     WHERE p.planned_for = :personId AND p.planned_on = :on OR p.id IN (:ids)
     ORDER BY s.name, m.name, p.title LIMIT 200`,
    values,
  );
}

export interface UsedToday {
  itemId: string;
  name: string;
  unit: string;
  placeId: string;
  placeName: string;
  used: number;
  left: number;
  full: number | null;
}

/** Joins and sums: what sheets took from a place on a day, with what is left there. */
export function usedOn(values: { sheetIds: string[]; on: string }): Promise<UsedToday[]> {
  return getDb().select<UsedToday>(
    `SELECT u.item_id AS itemId, i.name, i.unit, u.place_id AS placeId, l.name AS placeName, -SUM(u.qty) AS used, COALESCE(k.on_hand, 0) AS \`left\`, k.full_qty AS full
     FROM stock_moves u JOIN items i ON i.id = u.item_id JOIN places l ON l.id = u.place_id
       LEFT JOIN stock k ON k.item_id = u.item_id AND k.place_id = u.place_id
     WHERE u.sheet_id IN (:sheetIds) AND u.on_day = :on AND u.kind = 'use'
     GROUP BY u.item_id, u.place_id, i.name, i.unit, l.name, k.on_hand, k.full_qty HAVING used <> 0 ORDER BY i.name, l.name`,
    values,
  );
}
