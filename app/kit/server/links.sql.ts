/** Statements of links that Sequelize's models cannot say well. */
import { getDb, type LinkRow } from "@db";

import type { LinkView } from "./links.server";

/** Joins. */
export function linksWithNames(values: { kinds: readonly LinkRow["kind"][]; subjectId: string }): Promise<LinkView[]> {
  return getDb().select<LinkView>(
    `SELECT l.id, l.kind, l.subject_id AS subjectId, l.made_at AS madeAt, p.name AS \`by\` FROM links l JOIN persons p ON p.id = l.made_by
     WHERE l.kind IN (:kinds) AND l.subject_id = :subjectId AND l.revoked_at IS NULL ORDER BY l.made_at DESC LIMIT 50`,
    values,
  );
}
