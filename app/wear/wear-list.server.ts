import { must } from "@core";

import { csvText } from "~/kit/server/csv-table.server";

import { freshWear } from "./foresee.server";
import * as sql from "./wear.sql";

export type { ListedWear, WearFilter } from "./wear.sql";

const PAGE = 50;
/** Lines of one file. */
const MOST = 20_000;

interface Cursor {
  by: number;
  on: string;
  id: string;
}

function cursorOf(after: string | null): Cursor | null {
  const [by = "", on = "", id = ""] = (after ?? "").split(" ");
  const chance = Number(by);
  const isOne = by !== "" && Number.isFinite(chance) && /^\d{4}-\d{2}-\d{2}$/.test(on) && /^[0-9a-f-]{36}$/.test(id);
  return isOne ? { by: chance, on, id } : null;
}

/** Parts by their chance to pass the limit before the next visit that would see them, then by when they do. */
export async function listWear(
  filter: sql.WearFilter,
  after: string | null,
  now: Date,
): Promise<{ rows: sql.ListedWear[]; next: string | null }> {
  if (filter.siteIds?.length === 0) return { rows: [], next: null };
  await freshWear(now);
  const rows = await page(filter, cursorOf(after), PAGE + 1);
  const last = rows.length > PAGE ? must(rows[PAGE - 1]) : null;
  return {
    rows: rows.slice(0, PAGE),
    next: last && `${last.listedBy} ${last.listedOn} ${last.id}`,
  };
}

async function page(filter: sql.WearFilter, after: Cursor | null, limit: number): Promise<sql.ListedWear[]> {
  const from = after ?? { by: 0, on: "2000-01-01", id: "" };
  const values = { siteIds: filter.siteIds ?? [], family: filter.family ?? "", ...from, limit };
  return sql.listedWear(values, filter, after !== null);
}

/** The same as a table, the likeliest first. */
export async function wearCsv(filter: sql.WearFilter, now: Date): Promise<string> {
  await freshWear(now);
  const rows = filter.siteIds?.length === 0 ? [] : await page(filter, null, MOST);
  return csvText(
    [
      "site",
      "tag",
      "machine",
      "part",
      "place",
      "value",
      "unit",
      "read_on",
      "limit",
      "values",
      "passes_on",
      "from",
      "to",
    ].concat([
      "next_visit",
      "chance_before_next",
      "visit_after",
      "chance_before_that",
      "cost_now_cents",
      "cost_next_cents",
      "advice",
    ]),
    rows.map((row) => [
      ...[row.siteName, row.tag, row.machineName, row.itemName ?? row.item, row.slotName],
      ...[row.lastValue, row.unit, row.lastOn, row.limitAt, row.n, row.crossesOn, row.crossesFrom, row.crossesTo],
      ...[row.nextOn, row.nextChance, row.secondOn, row.secondChance, row.costNow, row.costNext, row.advice],
    ]),
  );
}
