/** Statements of jobs that Sequelize's models cannot say well. */
import { getDb, type JobRow } from "@db";

/** Sums, without reading what is summed. */
export function filesOf(values: { id: string }): Promise<{ name: string; bytes: number }[]> {
  return getDb().select(
    "SELECT name, CAST(SUM(LENGTH(bytes)) AS UNSIGNED) AS bytes FROM job_pieces WHERE job_id = :id GROUP BY name ORDER BY name",
    values,
  );
}

export interface OpenJob extends Pick<JobRow, "id" | "title" | "state" | "done" | "total" | "message" | "askedAt"> {
  /** Null for what the app asked for by itself. */
  askedByName: string | null;
}

/** Joined with who asked; by its index, as few are open. */
export function openJobs(values: { states: readonly string[]; except: string }, limit: number): Promise<OpenJob[]> {
  return getDb().select(
    `SELECT j.id, j.title, j.state, j.done, j.total, j.message, j.asked_at AS askedAt, p.name AS askedByName
     FROM jobs j LEFT JOIN persons p ON p.id = j.asked_by
     WHERE j.state IN (:states) AND j.asked_by <> :except
     ORDER BY j.asked_at, j.id LIMIT ${limit}`,
    values,
  );
}
