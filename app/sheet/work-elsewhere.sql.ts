/** Statements of other work at a site that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** Joins: duties of a list that are still on, nobody has a sheet of, and that were not done today. */
export async function dutiesToBegin(values: {
  ids: readonly string[];
  today: string;
}): Promise<{ id: string; title: string; machine: string }[]> {
  if (values.ids.length === 0) return [];
  return getDb().select(
    `SELECT p.id, p.title, m.name AS machine
     FROM duties p JOIN machines m ON m.id = p.machine_id
       LEFT JOIN sheets r ON r.open_duty_id = p.id
       LEFT JOIN completions c ON c.duty_id = p.id AND c.done_on = :today
     WHERE p.id IN (:ids) AND p.active = 1 AND r.id IS NULL AND c.id IS NULL`,
    values,
  );
}
