import { stringify } from "csv-stringify/sync";

import { guardText } from "~/kit/server/csv-table.server";
import { likeText } from "~/kit/server/like-text.server";

import type { AheadFilter } from "./ahead.server";
import * as sql from "./ahead-export.sql";
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
  const rows = await sql.dutiesForCsv({ ...filter, like: `${likeText(filter.q ?? "")}%` }, filter);
  const table = rows.map((row) =>
    HEADER.map((name) => {
      const value = row[name] ?? "";
      return typeof value === "string" ? guardText(value) : value;
    }),
  );
  return stringify([HEADER, ...table], { record_delimiter: "windows" });
}
