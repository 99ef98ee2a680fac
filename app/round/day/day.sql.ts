/** Statements of day that Sequelize's models cannot say well. */
import { type DayRow, getDb, type Transaction } from "@db";

import type { DayView } from "./day.server";

/** Candidates looked at for a proposal: the most pressing duties that are on no day to come. */
export const CANDIDATES = 120;

/** Joins. */
export function closedDuties(values: { missing: string[] }): Promise<DayView["closed"]> {
  return getDb().select<DayView["closed"][number]>(
    `SELECT p.id AS dutyId, p.title, m.name AS machineName,
               (SELECT r.outcome FROM sheets r WHERE r.duty_id = p.id AND r.status <> 'open' ORDER BY r.closed_at DESC LIMIT 1) AS outcome
             FROM duties p JOIN machines m ON m.id = p.machine_id WHERE p.id IN (:missing)`,
    values,
  );
}

/** Its shape varies. */
export function lockDay(
  values: { personId: string; on: string },
  lock: boolean,
  tx?: Transaction | null,
): Promise<DayRow[]> {
  return getDb().select<DayRow>(
    `SELECT id, person_id AS personId, on_day AS onDay, status, start_minute AS startMinute, end_minute AS endMinute, technicians, fixed_order AS fixedOrder,
       problem, plan, risk, figures, planned_at AS plannedAt, sequence
     FROM days WHERE person_id = :personId AND on_day = :on ${lock ? "FOR UPDATE" : ""}`,
    values,
    tx,
  );
}

/** Adds or brings up to date. */
export function beginDay(
  values: { id: string; personId: string; on: string; startMinute: number; endMinute: number },
  tx?: Transaction,
): Promise<number> {
  return getDb().run(
    `INSERT INTO days (id, person_id, on_day, status, start_minute, end_minute) VALUES (:id, :personId, :on, 'open', :startMinute, :endMinute)
     ON DUPLICATE KEY UPDATE id = id`,
    values,
    tx,
  );
}

/** Its shape varies. */
export function keepPlan(
  values: { id: string; problem: string; plan: string; risk: string; figures: string; now: Date },
  tx?: Transaction,
): Promise<number> {
  return getDb().run(
    "UPDATE days SET problem = :problem, plan = :plan, risk = :risk, figures = :figures, planned_at = :now, sequence = sequence + 1 WHERE id = :id",
    values,
    tx,
  );
}

/** An index by name. */
export function dutiesNear(values: { on: string; today: string }): Promise<
  {
    dutyId: string;
    procedureId: string;
    machineId: string;
    who: "operator" | "technician" | "licensed";
    authorisation: string | null;
  }[]
> {
  return getDb().select<{
    dutyId: string;
    procedureId: string;
    machineId: string;
    who: "operator" | "technician" | "licensed";
    authorisation: string | null;
  }>(
    `SELECT id AS dutyId, procedure_id AS procedureId, machine_id AS machineId, who, authorisation FROM duties FORCE INDEX (duties_due)
     WHERE active = 1 AND who <> 'operator' AND (planned_on IS NULL OR planned_on < :today) AND notice_from <= :on AND due_on IS NOT NULL
     ORDER BY due_on, id LIMIT ${CANDIDATES}`,
    values,
  );
}

/** Puts lists together. */
export function sheetsOfDuties(values: {
  personId: string;
  on: string;
}): Promise<{ id: string; dutyId: string; status: string; closedAt: Date | null }[]> {
  return getDb().select<{ id: string; dutyId: string; status: string; closedAt: Date | null }>(
    `SELECT id, duty_id AS dutyId, status, closed_at AS closedAt FROM sheets WHERE held_by = :personId AND status = 'open'
     UNION ALL SELECT id, duty_id, status, closed_at FROM sheets
       WHERE closed_by = :personId AND closed_at >= :on - INTERVAL 1 DAY AND closed_at < :on + INTERVAL 2 DAY AND status <> 'open'`,
    values,
  );
}
