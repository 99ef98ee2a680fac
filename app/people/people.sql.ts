/** Statements of people that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { PersonView } from "./people.server";

/** Counts. */
export function peopleWithSessions(values: { now: Date }): Promise<PersonView[]> {
  return getDb().select<PersonView>(
    `SELECT p.id, p.name, p.sign_in AS signIn, p.role, p.active, p.email, p.must_change_password AS mustChangePassword,
       (SELECT COUNT(*) FROM sessions s WHERE s.person_id = p.id AND s.ended_at IS NULL AND s.expires_at > :now) AS openSessions
     FROM persons p ORDER BY p.active DESC, p.name`,
    values,
  );
}
