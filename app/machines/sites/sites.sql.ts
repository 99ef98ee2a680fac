/** Statements of sites that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

import type { SiteListRow, SiteView } from "./sites.server";

export const PAGE = 50;

/** Joins, counts. */
export function sitesPage(
  values: { like: string; afterName: string; afterId: string },
  filter: { q: string | null; after: string | null },
  split: number,
): Promise<SiteListRow[]> {
  return getDb().select<SiteListRow>(
    `SELECT s.id, s.name, c.name AS customerName, s.address, s.access_hours AS accessHours,
       (SELECT COUNT(*) FROM machines m WHERE m.site_id = s.id AND m.retired_on IS NULL) AS machines
     FROM sites s JOIN customers c ON c.id = s.customer_id
     WHERE 1 = 1 ${filter.q ? "AND (s.name LIKE :like OR c.name LIKE :like)" : ""}
       ${split > 0 ? "AND (s.name > :afterName OR (s.name = :afterName AND s.id > :afterId))" : ""}
     ORDER BY s.name, s.id LIMIT ${PAGE + 1}`,
    values,
  );
}

/** Joins. */
export function closuresOf(values: { id: string; today: string }): Promise<SiteView["closures"][number][]> {
  return getDb().select<SiteView["closures"][number]>(
    `SELECT x.id, x.from_on AS fromOn, x.to_on AS toOn, x.reason, p.name AS \`by\` FROM site_closures x JOIN persons p ON p.id = x.by_person
     WHERE x.site_id = :id AND x.cancelled_at IS NULL AND x.to_on >= :today ORDER BY x.from_on LIMIT 50`,
    values,
  );
}

/** Each once. */
export function machinesToRescale(values: { siteId: string }, tx?: Transaction): Promise<{ family: string }[]> {
  return getDb().select<{ family: string }>("SELECT DISTINCT family FROM machines WHERE site_id = :siteId", values, tx);
}

/** Joins. */
export function sitesToChoose(): Promise<{ id: string; name: string; customerName: string }[]> {
  return getDb().select<{ id: string; name: string; customerName: string }>(
    "SELECT s.id, s.name, c.name AS customerName FROM sites s JOIN customers c ON c.id = s.customer_id ORDER BY s.name LIMIT 500",
  );
}
