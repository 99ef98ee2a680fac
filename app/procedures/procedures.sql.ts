/** Statements of procedures that Sequelize's models cannot say well. */
import type { Material, Procedure } from "@core";
import { getDb, type Transaction } from "@db";

import type { LibraryRow } from "./procedures.server";

/** Joins, sums, reads inside JSON. */
export function library(
  values: Record<string, unknown>,
  filter: { q?: string | null; family?: string | null },
  fits: string[],
): Promise<LibraryRow[]> {
  return getDb().select<LibraryRow>(
    `SELECT p.id, p.version, p.family, p.title, JSON_VALUE(p.body, '$.who') AS who,
       JSON_VALUE(p.body, '$.minutes.handsOn') + 0 AS handsOn, JSON_VALUE(p.body, '$.minutes.waiting') + 0 AS waiting
     FROM procedures p
     JOIN (SELECT id, MAX(version) AS version FROM procedures GROUP BY id) newest ON newest.id = p.id AND newest.version = p.version
     WHERE 1 = 1 ${filter.family ? "AND p.family = :family" : ""} ${fits.join(" ")}
     ORDER BY p.family, p.title LIMIT 500`,
    values,
  );
}

/** Joins, sums. */
export function newestOfFamilies(values: {
  families: string[];
}): Promise<{ body: Procedure; expanded: Procedure | null }[]> {
  return getDb().select<{ body: Procedure; expanded: Procedure | null }>(
    `SELECT p.body, p.expanded FROM procedures p
     JOIN (SELECT id, MAX(version) AS version FROM procedures WHERE family IN (:families) GROUP BY id) newest ON newest.id = p.id AND newest.version = p.version
     ORDER BY p.id`,
    values,
  );
}

/** Joins, sums, reads inside JSON, compares in the database. */
export function materialsOf(values: {
  ids: readonly string[];
}): Promise<{ id: string; handsOn: number; waiting: number; materials: string | Material[] }[]> {
  return getDb().select<{ id: string; handsOn: number; waiting: number; materials: string | Material[] }>(
    `SELECT p.id, JSON_VALUE(p.body, '$.minutes.handsOn') + 0 AS handsOn, JSON_VALUE(p.body, '$.minutes.waiting') + 0 AS waiting,
       JSON_EXTRACT(COALESCE(p.expanded, p.body), '$.materials') AS materials
     FROM (SELECT id, MAX(version) AS version FROM procedures WHERE id IN (:ids) GROUP BY id) newest
     JOIN procedures p ON p.id = newest.id AND p.version = newest.version`,
    values,
  );
}

/** Joins, sums, reads inside JSON. */
export function stepsOfNewest(
  values: { ids: readonly string[] },
  tx?: Transaction,
): Promise<{ id: string; steps: string | string[] }[]> {
  return getDb().select<{ id: string; steps: string | string[] }>(
    `SELECT p.id, JSON_EXTRACT(p.body, '$.steps[*].id') AS steps
     FROM (SELECT id, MAX(version) AS version FROM procedures WHERE id IN (:ids) GROUP BY id) newest
     JOIN procedures p ON p.id = newest.id AND p.version = newest.version`,
    values,
    tx,
  );
}

/** Its shape varies. */
export function oneVersion(
  values: { id: string; version: number },
  version: number | null,
): Promise<{ body: Procedure; expanded: Procedure | null }[]> {
  return getDb().select<{ body: Procedure; expanded: Procedure | null }>(
    `SELECT body, expanded FROM procedures WHERE id = :id ${version === null ? "" : "AND version = :version"} ORDER BY version DESC LIMIT 1`,
    values,
  );
}

/** Joins, sums. */
export function newestOf(values: {
  ids: readonly string[];
}): Promise<{ body: Procedure; expanded: Procedure | null }[]> {
  return getDb().select<{ body: Procedure; expanded: Procedure | null }>(
    `SELECT p.body, p.expanded FROM (SELECT id, MAX(version) AS version FROM procedures WHERE id IN (:ids) GROUP BY id) newest
     JOIN procedures p ON p.id = newest.id AND p.version = newest.version`,
    values,
  );
}
