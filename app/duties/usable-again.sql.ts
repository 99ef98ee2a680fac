/** Statements of usable-again that Sequelize's models cannot say well. */
import { getDb } from "@db";

export interface EndedWork {
  dutyId: string;
  credits: string[] | null;
  doneOn: string;
  closedAt: Date | null;
}

/** Join; the latest first. */
export function endedWork(values: { machineId: string; since: string }): Promise<EndedWork[]> {
  return getDb().select<EndedWork>(
    `SELECT c.duty_id AS dutyId, c.credits, c.done_on AS doneOn, r.closed_at AS closedAt
     FROM completions c LEFT JOIN sheets r ON r.id = c.sheet_id
     WHERE c.machine_id = :machineId AND c.done_on >= :since ORDER BY c.done_on DESC, r.closed_at DESC`,
    values,
  );
}
