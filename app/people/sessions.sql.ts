/** Statements of sessions that Sequelize's models cannot say well. */
import { getDb, type Role } from "@db";

/** Joins. */
export function personOfSession(values: { id: string; now: Date }): Promise<
  {
    id: string;
    name: string;
    role: Role;
    mustChange: number;
    lastSeenAt: Date;
    kind: string | null;
    expiresOn: string | null;
  }[]
> {
  return getDb().select<{
    id: string;
    name: string;
    role: Role;
    mustChange: number;
    lastSeenAt: Date;
    kind: string | null;
    expiresOn: string | null;
  }>(
    `SELECT p.id, p.name, p.role, p.must_change_password AS mustChange, s.last_seen_at AS lastSeenAt, a.kind, a.expires_on AS expiresOn
     FROM sessions s JOIN persons p ON p.id = s.person_id AND p.active = 1
     LEFT JOIN authorisations a ON a.person_id = p.id AND a.revoked_at IS NULL
     WHERE s.id = :id AND s.ended_at IS NULL AND s.expires_at > :now`,
    values,
  );
}
