import { getDb } from "@db";

import type { Actor } from "~/kit/actor";
import { firmDay } from "~/kit/days/firm-day.server";
import { dayCell, type DayOrder, dayOrderOf } from "~/kit/days/read-day";
import { csvText, listed, type RowFault, tableOf, unguardText } from "~/kit/server/csv-table.server";
import { inSlices } from "~/kit/server/in-slices";

import { lotOf, type Move, postMoves } from "./ledger.server";
import { listPlaces } from "./places.server";
import * as sql from "./stock-csv.sql";

const COLUMNS = ["place", "item", "name", "lot", "expires_on", "quantity", "unit"] as const;
/** Rows one file may have. */
const MOST = 20_000;

/** A file to fill in. */
export const stockTemplate = (): string =>
  csvText(COLUMNS, [["Depot", "chain-oil", "Chain oil", "B 104", "2027-04-30", 500, "mL"]]);

/** The whole stock by place, item and lot; what is in no lot stands in a row without one. */
export async function stockCsv(): Promise<string> {
  const rows = await sql.stockForCsv();
  return csvText(
    COLUMNS,
    rows
      .filter((row) => row.qty !== 0)
      .map((row) => [row.place, row.item, row.name, row.lot ?? "", row.expiresOn ?? "", row.qty, row.unit]),
  );
}

/** Books a file's rows as received, all or nothing; every fault is named with its line. */
export async function importStock(
  actor: Actor,
  content: string,
  now: Date,
  dayOrder: DayOrder | null = null,
): Promise<{ faults: RowFault[]; written: number }> {
  const { rows, faults } = await tableOf(content, COLUMNS, ["place", "item", "quantity"]);
  if (faults.length > 0) return { faults: listed(faults), written: 0 };
  if (rows.length > MOST)
    return {
      faults: [{ line: MOST + 2, column: "", reason: `A file holds at most ${MOST} rows. Send it in parts.` }],
      written: 0,
    };
  const db = getDb();
  const places = new Map((await listPlaces()).map((place) => [place.name.toLowerCase(), place.id]));
  const named = [...new Set(rows.map((row) => unguardText(row.cells.item ?? "").trim()))];
  const items = new Map(
    named.length === 0
      ? []
      : (
          await sql.itemsByKeys({
            named,
          })
        ).flatMap((row): [string, string][] => [
          [row.id, row.id],
          ...(row.code ? [[row.code, row.id] as [string, string]] : []),
        ]),
  );
  const good: { itemId: string; placeId: string; qty: number; lot: string | null; expiresOn: string | null }[] = [];
  const order = dayOrder ?? dayOrderOf(rows.map((row) => row.cells.expires_on ?? ""));
  await inSlices(rows, (row) => {
    const text = (column: (typeof COLUMNS)[number]): string => unguardText(row.cells[column] ?? "").trim();
    const fault = (column: string, reason: string): void => void faults.push({ line: row.line, column, reason });
    const placeId = places.get(text("place").toLowerCase());
    const itemId = items.get(text("item"));
    const qty = Number(text("quantity").replace(",", "."));
    const lot = text("lot") || null;
    const expires = text("expires_on") === "" ? null : dayCell(text("expires_on"), order);
    const expiresOn = expires !== null && "day" in expires ? expires.day : null;
    if (!placeId) fault("place", `There is no place “${text("place")}”.`);
    if (!itemId) fault("item", `“${text("item")}” is not in the catalogue.`);
    if (text("quantity") === "" || !Number.isFinite(qty) || qty <= 0) fault("quantity", "Write a quantity above zero.");
    if (expires !== null && "reason" in expires) fault("expires_on", expires.reason);
    if (expiresOn !== null && lot === null) fault("lot", "Give the lot that expires then.");
    if (placeId && itemId && Number.isFinite(qty)) good.push({ itemId, placeId, qty, lot, expiresOn });
  });
  if (faults.length > 0) return { faults: listed(faults), written: 0 };
  const { on } = await firmDay(now);
  await db.transact(async (tx) => {
    const moves: Move[] = [];
    for (const { lot, expiresOn, ...one } of good)
      moves.push({
        ...one,
        lotId: lot === null ? null : await lotOf(one.itemId, lot, expiresOn, tx),
        kind: "receive",
        at: now,
        onDay: on,
        by: actor.id,
        note: "from a file",
      });
    await postMoves(moves, tx);
  });
  return { faults: [], written: good.length };
}
