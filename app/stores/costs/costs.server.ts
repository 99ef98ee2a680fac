import { addDays } from "@core";
import type { Transaction } from "@db";

import { csvText } from "~/kit/server/csv-table.server";

import * as sql from "./costs.sql";

export type CostBy = "machine" | "site" | "family";

export interface CostRow {
  key: string;
  name: string;
  /** Minor units of currency. */
  partsCents: number;
  hours: number;
  hoursCents: number;
  services: number;
}

/** Minor units for an hour of a technician's time while nobody has set another figure. */
const USUAL_RATE_CENTS = 6000;

export async function hourlyRateCents(tx?: Transaction): Promise<number> {
  const [row] = await sql.hourlyRate(tx);
  return row ? Number(row.value) : USUAL_RATE_CENTS;
}

export async function setHourlyRate(cents: number): Promise<void> {
  await sql.keepHourlyRate({
    value: JSON.stringify(cents),
  });
}

/** First and last month (YYYY-MM) that lie in a span as a whole; the first is after the last when none does. */
function wholeMonths(from: string, to: string): { first: string; last: string } {
  return {
    first: from.endsWith("-01") ? from.slice(0, 7) : firstOfNext(from.slice(0, 7)).slice(0, 7),
    last: addDays(`${addDays(to, 1).slice(0, 7)}-01`, -1).slice(0, 7),
  };
}

/** First day of the month after one. */
function firstOfNext(month: string): string {
  return `${addDays(`${month}-28`, 4).slice(0, 7)}-01`;
}

const GROUPS: Record<CostBy, { key: string; name: string }> = {
  machine: { key: "m.id", name: "CONCAT(m.name, ' ', m.tag)" },
  site: { key: "s.id", name: "s.name" },
  family: { key: "m.family", name: "m.family" },
};
const MOST = 500;

/**
 * What machines, sites or families cost over a span of days: parts and materials at the price of the day they were used, and
 * hands-on hours from the sheets' logs at the firm's rate. The dearest first.
 */
export async function costs(by: CostBy, from: string, to: string): Promise<CostRow[]> {
  const { key, name } = GROUPS[by];
  const { first, last } = wholeMonths(from, to);
  // Whole months come from their sums, what is left at either end from the ledger's own lines.
  const edges =
    first > last
      ? [[from, to]]
      : [
          [from, addDays(`${first}-01`, -1)],
          [firstOfNext(last), to],
        ];
  const parts = await sql.goodsCosts(
    {
      first,
      last,
      ...Object.fromEntries(
        edges.flatMap(([start, end], i) => [
          [`from${i}`, start],
          [`to${i}`, end],
        ]),
      ),
    },
    key,
    name,
    edges,
  );
  const hours = await sql.workCosts({ from, to }, key, name);
  const rate = await hourlyRateCents();
  const rows = new Map<string, CostRow>();
  const row = (one: { key: string; name: string }): CostRow => {
    const found = rows.get(one.key) ?? {
      key: one.key,
      name: by === "family" ? one.name.replaceAll("-", " ") : one.name,
      partsCents: 0,
      hours: 0,
      hoursCents: 0,
      services: 0,
    };
    rows.set(one.key, found);
    return found;
  };
  for (const one of parts) row(one).partsCents = Math.round(one.cents);
  for (const one of hours) {
    const found = row(one);
    found.hours = Math.round((Number(one.minutes) / 60) * 10) / 10;
    found.hoursCents = Math.round((Number(one.minutes) / 60) * rate);
    found.services = one.services;
  }
  return [...rows.values()]
    .sort((a, b) => b.partsCents + b.hoursCents - a.partsCents - a.hoursCents || (a.name < b.name ? -1 : 1))
    .slice(0, MOST);
}

export async function costsCsv(by: CostBy, from: string, to: string): Promise<string> {
  const rows = await costs(by, from, to);
  return csvText(
    [by, "services", "hands_on_hours", "hours_cost", "parts_cost", "cost"],
    rows.map((row) => [
      row.name,
      row.services,
      row.hours,
      money(row.hoursCents),
      money(row.partsCents),
      money(row.hoursCents + row.partsCents),
    ]),
  );
}

const money = (cents: number): string => (cents / 100).toFixed(2);
