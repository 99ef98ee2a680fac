import { addDays } from "@core";

import { firmDay } from "~/kit/days/firm-day.server";
import { exactQty } from "~/stores/ledger/exact-qty";

import { demandUntil } from "./needs.server";
import { itemsById } from "./overview.server";
import * as sql from "./span-needs.sql";

export interface SpanNeed {
  itemId: string;
  name: string;
  unit: string;
  kind: string;
  /** Surely taken. */
  sure: number;
  /** Expected besides: quantity times chance. */
  likely: number;
  onHand: number;
  short: number;
  services: number;
}

/** Longest span looked at. */
export const MAX_SPAN_DAYS = 366;

/**
 * What everything that comes due until a day takes, item by item, and what of it is short; only of some duties when given.
 * Parts come in pieces.
 */
export async function spanNeeds(
  input: { days: number; dutyIds: readonly string[] | null },
  now: Date,
): Promise<{ until: string; rows: SpanNeed[] }> {
  const { on: today } = await firmDay(now);
  const until = addDays(today, Math.min(MAX_SPAN_DAYS, Math.max(0, input.days)));
  const wanted = input.dutyIds === null ? null : new Set(input.dutyIds);
  const demand = (await demandUntil(until, today, now)).filter((one) => wanted === null || wanted.has(one.dutyId));
  const items = await itemsById([...new Set(demand.map((one) => one.item))]);
  const stock = new Map(
    items.size === 0 ? [] : (await sql.onHandAt({ ids: [...items.keys()] })).map((row) => [row.itemId, row.onHand]),
  );
  const sums = new Map<string, { sure: number; likely: number; services: number }>();
  for (const one of demand) {
    const sum = sums.get(one.item) ?? { sure: 0, likely: 0, services: 0 };
    if (one.chance === 1) {
      sum.sure += one.qty;
      sum.services += 1;
    } else sum.likely += one.qty * one.chance;
    sums.set(one.item, sum);
  }
  const rows = [...sums].flatMap(([itemId, sum]): SpanNeed[] => {
    const item = items.get(itemId);
    if (!item) return [];
    const [sure, likely, onHand] = [
      exactQty(sum.sure / item.usesPerPiece),
      exactQty(sum.likely / item.usesPerPiece),
      stock.get(itemId) ?? 0,
    ];
    return [
      {
        itemId,
        name: item.name,
        unit: item.unit,
        kind: item.kind,
        sure,
        likely,
        onHand,
        short: exactQty(Math.max(0, sure - onHand)),
        services: sum.services,
      },
    ];
  });
  return {
    until,
    rows: rows.sort(
      (a, b) => Number(b.short > 0) - Number(a.short > 0) || b.sure - a.sure || (a.name < b.name ? -1 : 1),
    ),
  };
}
