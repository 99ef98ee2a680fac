/** Statements of jobs that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** Sums, without reading what is summed. */
export function filesOf(values: { id: string }): Promise<{ name: string; bytes: number }[]> {
  return getDb().select(
    "SELECT name, CAST(SUM(LENGTH(bytes)) AS UNSIGNED) AS bytes FROM job_pieces WHERE job_id = :id GROUP BY name ORDER BY name",
    values,
  );
}
