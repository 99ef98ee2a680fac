import { getDb, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

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
  runId?: string | null;
  eventId?: string | null;
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

/** A quantity as the columns keep it: thousandths. */
export function exactQty(qty: number): number {
  return Math.round(qty * 1000) / 1000;
}

/**
 * Adds lines to the ledger and brings the running sums along, in the caller's transaction. What falls below nothing is kept
 * and asks for a count: work that was done is never refused for what the books say.
 *
 * Sums are touched in the order of their keys, so that two transactions wait for each other instead of locking each other out.
 */
export async function postMoves(moves: readonly Move[], tx: Transaction): Promise<void> {
  if (moves.length === 0) return;
  const db = getDb();
  const prices = await unitPrices([...new Set(moves.map((move) => move.itemId))], tx);
  const rows = moves.map((move) => {
    const qty = exactQty(move.qty);
    const costs = move.kind === "use" || move.kind === "scrap";
    const price = prices.get(move.itemId);
    return { ...move, qty, cost: costs && price !== undefined ? Math.round(-qty * price * 10_000) / 10_000 : null };
  });
  for (let from = 0; from < rows.length; from += CHUNK) {
    const part = rows.slice(from, from + CHUNK);
    await db.run(
      `INSERT INTO stock_moves (id, item_id, place_id, lot_id, kind, qty, cost_cents, at, on_day, by_person, run_id, event_id, machine_id, order_line_id, pair_id, note, counted)
       VALUES ${part.map((_, i) => `(:r${i})`).join(", ")}`,
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
            row.runId ?? null,
            row.eventId ?? null,
            row.machineId ?? null,
            row.orderLineId ?? null,
            row.pairId ?? null,
            (row.note ?? "").slice(0, 300),
            row.counted ?? null,
          ],
        ]),
      ),
      tx,
    );
  }
  await addToSums(rows, tx);
}

async function addToSums(rows: readonly (Move & { cost: number | null })[], tx: Transaction): Promise<void> {
  const db = getDb();
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
    db.run(
      `INSERT INTO stock (item_id, place_id, on_hand, count_asked, counted_at) VALUES ${part.map((_, i) => `(:r${i})`).join(", ")}
       ON DUPLICATE KEY UPDATE on_hand = on_hand + VALUES(on_hand), counted_at = COALESCE(VALUES(counted_at), counted_at),
         count_asked = IF(VALUES(counted_at) IS NULL, count_asked OR on_hand < 0, on_hand < 0)`,
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
      tx,
    ),
  );
  await inChunks(inOrder(lots), (part) =>
    db.run(
      `INSERT INTO stock_lots (item_id, place_id, lot_id, qty) VALUES ${part.map((_, i) => `(:r${i})`).join(", ")}
       ON DUPLICATE KEY UPDATE qty = qty + VALUES(qty)`,
      Object.fromEntries(part.map((one, i) => [`r${i}`, [one.itemId, one.placeId, one.lotId, exactQty(one.qty)]])),
      tx,
    ),
  );
  await inChunks(inOrder(months), (part) =>
    db.run(
      `INSERT INTO cost_months (month, machine_id, cents) VALUES ${part.map((_, n) => `(:r${n})`).join(", ")}
       ON DUPLICATE KEY UPDATE cents = cents + VALUES(cents)`,
      Object.fromEntries(part.map((row, n) => [`r${n}`, row])),
      tx,
    ),
  );
}

async function inChunks<T>(list: readonly T[], work: (part: T[]) => Promise<unknown>): Promise<void> {
  for (let from = 0; from < list.length; from += CHUNK) await work(list.slice(from, from + CHUNK));
}

/** Minor units of currency for one unit of each item, where its price is known. */
async function unitPrices(itemIds: readonly string[], tx: Transaction): Promise<Map<string, number>> {
  const rows = await getDb().select<{ id: string; price: string }>(
    "SELECT id, pack_price_cents / pack_size AS price FROM items WHERE id IN (:itemIds) AND pack_price_cents IS NOT NULL",
    { itemIds },
    tx,
  );
  return new Map(rows.map((row) => [row.id, Number(row.price)]));
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
  const db = getDb();
  const here = placeId === null ? "" : "AND s.place_id = :placeId";
  const rows = await db.select<LotStock & { placeId: string }>(
    `SELECT s.place_id AS placeId, l.id AS lotId, l.lot, l.expires_on AS expiresOn, s.qty FROM stock_lots s JOIN lots l ON l.id = s.lot_id
     WHERE s.item_id = :itemId ${here} AND s.qty > 0 ORDER BY l.expires_on IS NULL, l.expires_on, l.lot`,
    { itemId, placeId },
    tx,
  );
  const sums = await db.select<{ placeId: string; onHand: string }>(
    `SELECT s.place_id AS placeId, s.on_hand AS onHand FROM stock s WHERE s.item_id = :itemId ${here}`,
    { itemId, placeId },
    tx,
  );
  return new Map(
    sums.map(({ placeId: at, onHand }) => {
      const lots = rows
        .filter((row) => row.placeId === at)
        .map(({ placeId: _, ...row }) => ({ ...row, qty: Number(row.qty) }));
      const loose = exactQty(Number(onHand) - lots.reduce((total, one) => total + one.qty, 0));
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
  await db.run(
    `INSERT INTO lots (id, item_id, lot, expires_on) VALUES (:id, :itemId, :lot, :expiresOn)
     ON DUPLICATE KEY UPDATE expires_on = COALESCE(expires_on, VALUES(expires_on))`,
    { id: uuidv7(), itemId, lot: lot.slice(0, 60), expiresOn },
    tx,
  );
  const [row] = await db.models.Lot.findAll({
    attributes: ["id"],
    where: { itemId, lot: lot.slice(0, 60) },
    raw: true,
    transaction: tx,
  });
  return row!.id;
}

/** Months and machines whose kept costs differ from the ledger's. */
export async function verifyCosts(): Promise<{ month: string; machineId: string }[]> {
  return getDb().select(
    `SELECT month, machine_id AS machineId FROM (
       SELECT LEFT(on_day, 7) AS month, machine_id, cost_cents AS ledger, 0 AS kept FROM stock_moves WHERE kind = 'use' AND machine_id IS NOT NULL AND cost_cents IS NOT NULL
       UNION ALL SELECT month, machine_id, 0, cents FROM cost_months) both_sides
     GROUP BY month, machine_id HAVING ABS(SUM(ledger) - SUM(kept)) > 0.001 LIMIT 100`,
  );
}

/** Where the running sums differ from the ledger: empty when all is well. Sums the whole ledger. */
export async function verifyStock(): Promise<{ itemId: string; placeId: string; ledger: number; sum: number }[]> {
  const rows = await getDb().select<{ itemId: string; placeId: string; ledger: string; sum: string }>(
    `SELECT item_id AS itemId, place_id AS placeId, SUM(ledger) AS ledger, SUM(kept) AS sum FROM (
       SELECT item_id, place_id, qty AS ledger, 0 AS kept FROM stock_moves UNION ALL SELECT item_id, place_id, 0, on_hand FROM stock) both_sides
     GROUP BY item_id, place_id HAVING SUM(ledger) <> SUM(kept)
     UNION ALL
     SELECT item_id, place_id, SUM(ledger), SUM(kept) FROM (
       SELECT item_id, place_id, lot_id, qty AS ledger, 0 AS kept FROM stock_moves WHERE lot_id IS NOT NULL
       UNION ALL SELECT item_id, place_id, lot_id, 0, qty FROM stock_lots) both_lots
     GROUP BY item_id, place_id, lot_id HAVING SUM(ledger) <> SUM(kept)`,
  );
  return rows.map((row) => ({ ...row, ledger: Number(row.ledger), sum: Number(row.sum) }));
}
