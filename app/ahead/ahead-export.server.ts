import { getDb } from "@db";
import { stringify } from "csv-stringify/sync";

import { guardText } from "~/kit/server/csv-table.server";
import { likeText } from "~/kit/server/like-text.server";

import type { AheadFilter } from "./ahead.server";

/** Most rows of one file. */
const MAX_ROWS = 100_000;
const HEADER = [
  "customer",
  "site",
  "machine",
  "tag",
  "duty",
  "who",
  "due_on",
  "forecast",
  "planned_on",
  "planned_for",
  "minutes",
];

/** All that comes due under a filter, one row a duty, soonest first, as CSV. */
export async function aheadCsv(filter: AheadFilter): Promise<string> {
  const rows = await getDb().select<Record<string, string | number | null>>(
    `SELECT c.name AS customer, s.name AS site, m.name AS machine, m.tag, p.title AS duty, p.who, p.due_on, p.projected AS forecast,
       p.planned_on, w.name AS planned_for, p.minutes
     FROM plans p JOIN machines m ON m.id = p.machine_id JOIN sites s ON s.id = p.site_id JOIN customers c ON c.id = s.customer_id
     LEFT JOIN persons w ON w.id = p.planned_for
     WHERE p.active = 1 AND p.due_on IS NOT NULL ${filter.siteId ? "AND p.site_id = :siteId" : ""} ${filter.family ? "AND m.family = :family" : ""}
       ${filter.who ? "AND p.who = :who" : ""} ${filter.personId ? "AND p.planned_for = :personId" : ""} ${filter.q ? "AND (s.name LIKE :like OR c.name LIKE :like)" : ""}
     ORDER BY p.due_on, p.id LIMIT ${MAX_ROWS}`,
    { ...filter, like: `${likeText(filter.q ?? "")}%` },
  );
  const table = rows.map((row) =>
    HEADER.map((name) => {
      const value = row[name] ?? "";
      return typeof value === "string" ? guardText(value) : value;
    }),
  );
  return stringify([HEADER, ...table], { record_delimiter: "windows" });
}
