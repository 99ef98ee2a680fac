/** Statements of saved-views that Sequelize's models cannot say well. */
import { getDb } from "@db";

/** Adds or brings up to date. */
export function keepView(values: {
  id: string;
  personId: string;
  place: string;
  name: string;
  query: string;
  now: Date;
}): Promise<number> {
  return getDb().run(
    `INSERT INTO saved_views (id, person_id, place, name, query, made_at) VALUES (:id, :personId, :place, :name, :query, :now)
     ON DUPLICATE KEY UPDATE query = :query, made_at = :now`,
    values,
  );
}
