/** Statements of trail that Sequelize's models cannot say well. */
import { getDb } from "@db";

export const EACH = 400;

/** Joins. */
export function entriesOfMachine(values: Record<string, unknown>): Promise<
  {
    id: string;
    title: string;
    status: string;
    outcome: string | null;
    reason: string | null;
    closedAt: Date;
    by: string;
  }[]
> {
  return getDb().select<{
    id: string;
    title: string;
    status: string;
    outcome: string | null;
    reason: string | null;
    closedAt: Date;
    by: string;
  }>(
    `SELECT r.id, p.title, r.status, r.outcome, r.outcome_reason AS reason, r.closed_at AS closedAt, x.name AS \`by\`
     FROM sheets r JOIN duties p ON p.id = r.duty_id JOIN persons x ON x.id = r.closed_by
     WHERE r.machine_id = :machineId AND r.closed_at IS NOT NULL ORDER BY r.opened_at DESC LIMIT ${EACH}`,
    values,
  );
}

/** Joins. */
export function sheetsOfMachine(values: Record<string, unknown>): Promise<
  {
    type: string;
    body: { at: string; item?: string; slot?: string; lot?: string; text?: string; severity?: string };
    sheetId: string;
  }[]
> {
  return getDb().select<{
    type: string;
    body: { at: string; item?: string; slot?: string; lot?: string; text?: string; severity?: string };
    sheetId: string;
  }>(
    `SELECT e.type, e.body, e.sheet_id AS sheetId FROM sheets r JOIN log_entries e ON e.sheet_id = r.id
     WHERE r.machine_id = :machineId AND e.late = 0 AND e.type IN ('part-fitted','part-turned','finding') ORDER BY r.opened_at DESC LIMIT ${EACH}`,
    values,
  );
}

/** Joins. */
export function holdsOfMachine(values: Record<string, unknown>): Promise<
  {
    reason: string;
    since: Date;
    by: string;
    clearedAt: Date | null;
    clearedBy: string | null;
    note: string;
  }[]
> {
  return getDb().select<{
    reason: string;
    since: Date;
    by: string;
    clearedAt: Date | null;
    clearedBy: string | null;
    note: string;
  }>(
    `SELECT h.reason, h.since, p.name AS \`by\`, h.cleared_at AS clearedAt, q.name AS clearedBy, h.cleared_note AS note
     FROM machine_holds h JOIN persons p ON p.id = h.by_person LEFT JOIN persons q ON q.id = h.cleared_by
     WHERE h.machine_id = :machineId ORDER BY h.since DESC LIMIT ${EACH}`,
    values,
  );
}

/** Joins. */
export function ticksOfMachine(values: Record<string, unknown>): Promise<{ title: string; name: string; at: Date }[]> {
  return getDb().select<{ title: string; name: string; at: Date }>(
    `SELECT p.title, t.name, t.logged_at AS at FROM operator_ticks t JOIN duties p ON p.id = t.duty_id
     WHERE t.machine_id = :machineId ORDER BY t.logged_at DESC LIMIT ${EACH}`,
    values,
  );
}

/** Its shape varies. */
export function reportsOfMachine(
  values: Record<string, unknown>,
): Promise<{ text: string; name: string; stopped: boolean; at: Date }[]> {
  return getDb().select<{ text: string; name: string; stopped: boolean; at: Date }>(
    `SELECT text, name, stopped, logged_at AS at FROM problem_reports WHERE machine_id = :machineId ORDER BY logged_at DESC LIMIT ${EACH}`,
    values,
  );
}

/** Its shape varies. */
export function metersOfMachine(
  values: Record<string, unknown>,
): Promise<{ meter: string; value: number; at: Date; replaced: boolean; note: string }[]> {
  return getDb().select<{ meter: string; value: number; at: Date; replaced: boolean; note: string }>(
    `SELECT meter, value, read_at AS at, replaced, note FROM meter_readings WHERE machine_id = :machineId ORDER BY read_at DESC, id DESC LIMIT ${EACH}`,
    values,
  );
}

/** Its shape varies. */
export function readingsOfMachine(
  values: Record<string, unknown>,
): Promise<{ reading: string; unit: string; value: number; at: Date }[]> {
  return getDb().select<{ reading: string; unit: string; value: number; at: Date }>(
    `SELECT reading, unit, value, read_at AS at FROM readings WHERE machine_id = :machineId ORDER BY read_at DESC, id DESC LIMIT ${EACH}`,
    values,
  );
}

/** Joins, puts lists together. */
export function changesOfDuties(values: Record<string, unknown>): Promise<
  {
    action: string;
    details: { reason?: string };
    title: string | null;
    at: Date;
    by: string | null;
  }[]
> {
  return getDb().select<{
    action: string;
    details: { reason?: string };
    title: string | null;
    at: Date;
    by: string | null;
  }>(
    `SELECT a.action, a.details, p.title, a.at, x.name AS \`by\` FROM duties p JOIN audit_log a ON a.subject = 'duty' AND a.subject_id = p.id
       LEFT JOIN persons x ON x.id = a.by_person WHERE p.machine_id = :machineId AND a.action IN ('changed','added','interval tuned','interval kept')
     UNION ALL SELECT a.action, a.details, NULL, a.at, x.name FROM audit_log a LEFT JOIN persons x ON x.id = a.by_person
       WHERE a.subject = 'machine' AND a.subject_id = :machineId ORDER BY at DESC LIMIT ${EACH}`,
    values,
  );
}
