import { must } from "@core";
import { getDb, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import { exactQty } from "./exact-qty";
import { holdArrived } from "./held-for-items.server";
import * as sql from "./ledger.sql";

export type MoveKind = "opening" | "receive" | "move" | "use" | "scrap" | "count";

/** One line of the ledger. Quantities in the item's unit: into the place above zero, out of it below. */
export interface Move {
  itemId: string;
  placeId: string;
  lotId: string | null;
  kind: MoveKind;
  qty: number;
  at: Date;
  onDay: string;
  by: string;
  sheetId?: string | null;
  entryId?: string | null;
  machineId?: string | null;
  orderLineId?: string | null;
  /** The two lines of one move from place to place share it. */
  pairId?: string | null;
  note?: string;
  /** What was found, for counts. */
  counted?: number | null;
}

/** Rows sent in one statement. */
const CHUNK = 500;

/**
 * Adds lines to the ledger and brings the running sums along, in the caller's transaction. What falls below nothing is kept
 * and asks for a count: work that was done is never refused for what the books say.
 *
 * Sums are touched in the order of their keys, so that two transactions wait for each other instead of locking each other out.
 */
export async function postMoves(moves: readonly Move[], tx: Transaction): Promise<void> {
  if (moves.length === 0) return;
  const prices = await unitPrices([...new Set(moves.map((move) => move.itemId))], tx);
  const rows = moves.map((move) => {
    const qty = exactQty(move.qty);
    const costs = move.kind === "use" || move.kind === "scrap";
    const price = prices.get(move.itemId);
    return { ...move, qty, cost: costs && price !== undefined ? Math.round(-qty * price * 10_000) / 10_000 : null };
  });
  for (let from = 0; from < rows.length; from += CHUNK) {
    const part = rows.slice(from, from + CHUNK);
    await sql.addMoves(
      Object.fromEntries(
        part.map((row, i) => [
          `r${i}`,
          [
            uuidv7(),
            row.itemId,
            row.placeId,
            row.lotId,
            row.kind,
            row.qty,
            row.cost,
            sqlInstant(row.at),
            row.onDay,
            row.by,
            row.sheetId ?? null,
            row.entryId ?? null,
            row.machineId ?? null,
            row.orderLineId ?? null,
            row.pairId ?? null,
            (row.note ?? "").slice(0, 300),
            row.counted ?? null,
          ],
        ]),
      ),
      part,
      tx,
    );
  }
  await addToSums(rows, tx);
  const came = rows.filter((row) => row.qty > 0 && (row.kind === "receive" || row.kind === "count"));
  await holdArrived([...new Set(came.map((row) => row.itemId))], must(rows[0]).at, tx);
}

async function addToSums(rows: readonly (Move & { cost: number | null })[], tx: Transaction): Promise<void> {
  const months = new Map<string, [month: string, machineId: string, cents: number]>();
  const sums = new Map<string, { itemId: string; placeId: string; qty: number; countedAt: Date | null }>();
  const lots = new Map<string, { itemId: string; placeId: string; lotId: string; qty: number }>();
  for (const { itemId, placeId, lotId, qty, kind, at, onDay, machineId, cost } of rows) {
    const key = `${itemId} ${placeId}`;
    const sum = sums.get(key) ?? { itemId, placeId, qty: 0, countedAt: null };
    sum.qty += qty;
    if (kind === "count") sum.countedAt = at;
    sums.set(key, sum);
    if (cost !== null && machineId && kind === "use") {
      const month = onDay.slice(0, 7);
      months.set(`${month} ${machineId}`, [month, machineId, (months.get(`${month} ${machineId}`)?.[2] ?? 0) + cost]);
    }
    if (lotId === null) continue;
    const lotKey = `${key} ${lotId}`;
    const lot = lots.get(lotKey) ?? { itemId, placeId, lotId, qty: 0 };
    lot.qty += qty;
    lots.set(lotKey, lot);
  }
  const inOrder = <T>(map: Map<string, T>): T[] =>
    [...map].sort((a, b) => (a[0] < b[0] ? -1 : 1)).map(([, value]) => value);
  await inChunks(inOrder(sums), (part) =>
    sql.addToStock(
      Object.fromEntries(
        part.map((one, i) => [
          `r${i}`,
          [
            one.itemId,
            one.placeId,
            exactQty(one.qty),
            one.qty < 0 ? 1 : 0,
            one.countedAt === null ? null : sqlInstant(one.countedAt),
          ],
        ]),
      ),
      part,
      tx,
    ),
  );
  await inChunks(inOrder(lots), (part) =>
    sql.addToLots(
      Object.fromEntries(part.map((one, i) => [`r${i}`, [one.itemId, one.placeId, one.lotId, exactQty(one.qty)]])),
      part,
      tx,
    ),
  );
  await inChunks(inOrder(months), (part) =>
    sql.addToMonths(Object.fromEntries(part.map((row, n) => [`r${n}`, row])), part, tx),
  );
}

async function inChunks<T>(list: readonly T[], work: (part: T[]) => Promise<unknown>): Promise<void> {
  for (let from = 0; from < list.length; from += CHUNK) await work(list.slice(from, from + CHUNK));
}

/** Minor units of currency for one unit of each item, where its price is known. */
async function unitPrices(itemIds: readonly string[], tx: Transaction): Promise<Map<string, number>> {
  const rows = await sql.pricesOf({ itemIds }, tx);
  return new Map(rows.map((row) => [row.id, row.price]));
}

/** Raw SQL drops a date's thousandths: written out. */
function sqlInstant(at: Date): string {
  return at.toISOString().replace("T", " ").replace("Z", "");
}

export interface LotStock {
  lotId: string | null;
  lot: string | null;
  expiresOn: string | null;
  qty: number;
}

/** What a place holds of an item by lot, in the order to use it up: see `lotsByPlace`. */
export async function lotsAt(itemId: string, placeId: string, onDay: string, tx?: Transaction): Promise<LotStock[]> {
  return (await lotsByPlace(itemId, onDay, placeId, tx)).get(placeId) ?? [];
}

/**
 * What places hold of an item by lot, in the order to use it up: first expiry first, what no lot is known of after that,
 * expired lots last.
 *
 * @param placeId only this place; all that hold some when null
 */
export async function lotsByPlace(
  itemId: string,
  onDay: string,
  placeId: string | null,
  tx?: Transaction,
): Promise<Map<string, LotStock[]>> {
  const here = placeId === null ? "" : "AND s.place_id = :placeId";
  const rows = await sql.lotsAt({ itemId, placeId }, here, tx);
  const sums = await sql.stockAt({ itemId, placeId }, here, tx);
  return new Map(
    sums.map(({ placeId: at, onHand }) => {
      const lots = rows.filter((row) => row.placeId === at).map(({ placeId: _, ...row }) => ({ ...row, qty: row.qty }));
      const loose = exactQty(onHand - lots.reduce((total, one) => total + one.qty, 0));
      const good = lots.filter((one) => one.expiresOn === null || one.expiresOn >= onDay);
      const expired = lots.filter((one) => one.expiresOn !== null && one.expiresOn < onDay);
      return [
        at,
        [...good, ...(loose > 0 ? [{ lotId: null, lot: null, expiresOn: null, qty: loose }] : []), ...expired],
      ];
    }),
  );
}

/** Shares a quantity out over lots, first expiry first; what no lot covers comes from none. */
export function fromLots(lots: readonly LotStock[], qty: number): { lotId: string | null; qty: number }[] {
  const taken: { lotId: string | null; qty: number }[] = [];
  let left = exactQty(qty);
  for (const lot of lots) {
    if (left <= 0) break;
    const part = Math.min(left, lot.qty);
    taken.push({ lotId: lot.lotId, qty: part });
    left = exactQty(left - part);
  }
  if (left > 0) {
    const loose = taken.find((one) => one.lotId === null);
    if (loose) loose.qty = exactQty(loose.qty + left);
    else taken.push({ lotId: null, qty: left });
  }
  return taken;
}

/** A lot of an item by what is printed on it; made known when it is new. An expiry that was not known before is kept. */
export async function lotOf(itemId: string, lot: string, expiresOn: string | null, tx: Transaction): Promise<string> {
  const db = getDb();
  await sql.knowLot({ id: uuidv7(), itemId, lot: lot.slice(0, 60), expiresOn }, tx);
  const [row] = await db.models.Lot.findAll({
    attributes: ["id"],
    where: { itemId, lot: lot.slice(0, 60) },
    raw: true,
    transaction: tx,
  });
  return must(row).id;
}

/** Months and machines whose kept costs differ from the ledger's. */
export async function verifyCosts(): Promise<{ month: string; machineId: string }[]> {
  return sql.monthsThatDiffer();
}

/** Where the running sums differ from the ledger: empty when all is well. Sums the whole ledger. */
export async function verifyStock(): Promise<{ itemId: string; placeId: string; ledger: number; sum: number }[]> {
  const rows = await sql.sumsThatDiffer();
  return rows.map((row) => ({ ...row, ledger: row.ledger, sum: row.sum }));
}
