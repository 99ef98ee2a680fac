/** Statements of instruments that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** Its shape varies. */
export function instrumentNames(values: { ids: string[] }): Promise<{ id: string; name: string }[]> {
  return getDb().select<{ id: string; name: string }>(
    "SELECT id, CONCAT(code, ', ', name) AS name FROM instruments WHERE id IN (:ids)",
    values,
  );
}
