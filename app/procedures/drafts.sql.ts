/** Statements of drafts that Sequelize's models cannot say well. */
import type { Procedure } from "@core";
import { getDb, type Transaction } from "@db";

import type { DraftListRow, VersionRow } from "./drafts.server";

/** Joins, reads inside JSON. */
export function draftsWithNames(): Promise<DraftListRow[]> {
  return getDb()
    .select<DraftListRow>(`SELECT d.id, d.procedure_id AS procedureId, JSON_VALUE(d.body, '$.title') AS title, p.name AS byName, d.changed_at AS changedAt
     FROM procedure_drafts d JOIN persons p ON p.id = d.by_person ORDER BY d.changed_at DESC LIMIT 200`);
}

/** Its shape varies. */
export function writtenVersion(
  values: { id: string; version: number },
  version: number | null,
): Promise<{ body: Procedure }[]> {
  return getDb().select<{ body: Procedure }>(
    `SELECT body FROM procedures WHERE id = :id ${version === null ? "" : "AND version = :version"} ORDER BY version DESC LIMIT 1`,
    values,
  );
}

/** Joins. */
export function versionsOf(values: { id: string }): Promise<VersionRow[]> {
  return getDb().select<VersionRow>(
    `SELECT x.version, x.created_at AS createdAt, p.name AS \`by\`, x.why FROM procedures x LEFT JOIN persons p ON p.id = x.published_by
     WHERE x.id = :id ORDER BY x.version DESC LIMIT 200`,
    values,
  );
}

/** Joins, sums. */
export function newestTitles(): Promise<{ id: string; name: string; version: number }[]> {
  return getDb().select<{ id: string; name: string; version: number }>(
    `SELECT p.id, p.title AS name, p.version FROM (SELECT id, MAX(version) AS version FROM procedures GROUP BY id) newest
     JOIN procedures p ON p.id = newest.id AND p.version = newest.version ORDER BY p.title LIMIT 500`,
  );
}

/** Sums. */
export function newestVersion(values: { id: string }): Promise<{ version: number | null }[]> {
  return getDb().select<{ version: number | null }>(
    "SELECT MAX(version) AS version FROM procedures WHERE id = :id",
    values,
  );
}

/** Locks; the newest alone. */
export function lockNewest(values: { id: string }, tx: Transaction): Promise<{ version: number; by: string | null }[]> {
  return getDb().select<{ version: number; by: string | null }>(
    `SELECT x.version, p.name AS \`by\` FROM procedures x LEFT JOIN persons p ON p.id = x.published_by
     WHERE x.id = :id ORDER BY x.version DESC LIMIT 1 FOR UPDATE`,
    values,
    tx,
  );
}
