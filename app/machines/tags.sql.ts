/** Statements of tags that Sequelize's models cannot say well. */
import { getDb } from "@db";

import type { TaggedMachine } from "./tags.server";

export const MAX_TAGS = 500;

/** Joins. */
export function taggedMachine(values: { machineId: string }): Promise<TaggedMachine[]> {
  return getDb().select<TaggedMachine>(
    "SELECT m.tag, m.name, s.name AS siteName FROM machines m JOIN sites s ON s.id = m.site_id WHERE m.id = :machineId",
    values,
  );
}

/** Joins. */
export function machinesToPrint(
  values: Record<string, unknown>,
  filter: { siteId: string | null },
): Promise<TaggedMachine[]> {
  return getDb().select<TaggedMachine>(
    `SELECT m.tag, m.name, s.name AS siteName FROM machines m JOIN sites s ON s.id = m.site_id
     WHERE m.retired_on IS NULL ${filter.siteId ? "AND m.site_id = :siteId" : ""} ORDER BY s.name, m.name LIMIT ${MAX_TAGS}`,
    values,
  );
}
