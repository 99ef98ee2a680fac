import { foldRun, must, type Procedure, type RunEvent } from "@core";
import { getDb, type SheetRow, type Transaction } from "@db";

import { dayInZone } from "~/kit/days/site-day";
import { addItemsOf } from "~/procedures/items-of-procedures.server";

import { endReservations } from "./end-reservations.server";
import { exactQty } from "./exact-qty";
import { fromLots, lotOf, lotsAt, type Move, postMoves } from "./ledger.server";
import { placeOf } from "./places.server";
import * as sql from "./sheet-stock.sql";
import { type Taken, takenBy } from "./taken-by";

/** Facts that say what was taken from the stores, or that such a fact was not so. */
const TAKES = new Set<RunEvent["type"]>(["consumable-used", "part-fitted", "mixed"]);
const CHANGES = new Set<RunEvent["type"]>(["undone", "corrected"]);

/**
 * Brings the ledger to what a sheet's log says, in the transaction that stores the entries. Lines are only added: what is taken
 * back or corrected is booked back and, where needed, booked anew. The same log always comes to the same stock.
 */
export async function settleStock(
  sheet: Pick<SheetRow, "id" | "dutyId" | "machineId">,
  fresh: readonly RunEvent[],
  log: { procedure: () => Promise<Procedure>; entries: () => Promise<RunEvent[]>; timeZone: string },
  now: Date,
  tx: Transaction,
): Promise<void> {
  if (!fresh.some((entry) => TAKES.has(entry.type) || CHANGES.has(entry.type))) return;
  const entries = await log.entries();
  if (!entries.some((entry) => TAKES.has(entry.type))) return;
  const procedure = await log.procedure();
  await addItemsOf([procedure], tx);
  const wanted = await knownOnly(takenBy(foldRun(procedure, entries), entries), tx);
  const booked = await sql.bookedForSheet({ sheetId: sheet.id }, tx);
  const lots = await lotNames(booked, tx);
  const moves: Move[] = [];
  const common = { kind: "use" as const, sheetId: sheet.id, machineId: sheet.machineId };
  const keys = new Set([
    ...wanted.map((one) => `${one.entryId} ${one.item}`),
    ...booked.map((one) => `${one.entryId} ${one.itemId}`),
  ]);
  for (const key of keys) {
    const wants = wanted.filter((one) => `${one.entryId} ${one.item}` === key);
    const before = booked.filter((one) => `${one.entryId} ${one.itemId}` === key);
    const qty = exactQty(wants.reduce((sum, one) => sum + one.qty, 0));
    const had = exactQty(-before.reduce((sum, one) => sum + one.qty, 0));
    const lot = wants[0]?.lot ?? null;
    if (qty === had && (lot === null || before.every((one) => lots.get(one.lotId ?? "") === lot))) continue;
    const last = must(entries.at(-1));
    for (const one of before) {
      moves.push({
        ...common,
        itemId: one.itemId,
        placeId: one.placeId,
        lotId: one.lotId,
        qty: -one.qty,
        at: now,
        onDay: dayInZone(now, log.timeZone),
        by: last.by,
        entryId: one.entryId,
        note: "taken back",
      });
    }
    const [first] = wants;
    if (!first) continue;
    const placeId = before[0]?.placeId ?? (await placeOf(first.by, tx));
    // A firm without stores keeps no stock.
    if (placeId === null) continue;
    const at = new Date(first.at);
    const onDay = dayInZone(at, log.timeZone);
    const parts =
      first.lot === null
        ? fromLots(await lotsAt(first.item, placeId, onDay, tx), qty)
        : [{ lotId: await lotOf(first.item, first.lot, first.expires, tx), qty }];
    moves.push(
      ...parts.map((part): Move => ({
        ...common,
        itemId: first.item,
        placeId,
        lotId: part.lotId,
        qty: -part.qty,
        at,
        onDay,
        by: first.by,
        entryId: first.entryId,
      })),
    );
  }
  if (moves.length === 0) return;
  await postMoves(moves, tx);
  // What was held back for this duty has been used now.
  await endReservations(
    { dutyId: sheet.dutyId, itemId: [...new Set(moves.map((move) => move.itemId))] },
    "used",
    now,
    tx,
  );
  await endUsedForItems(sheet.machineId, [...new Set(moves.map((move) => move.itemId))], now, tx);
}

/** A piece that was held for an open item of the machine is used with it, wherever it was held. */
async function endUsedForItems(machineId: string, items: string[], now: Date, tx: Transaction): Promise<void> {
  const open = await getDb().models.OpenItem.findAll({
    attributes: ["id"],
    where: { machineId, closedAt: null, item: items },
    raw: true,
    transaction: tx,
  });
  if (open.length > 0) await endReservations({ openItemId: open.map((one) => one.id) }, "used", now, tx);
}

/** What names nothing in the catalogue is on the record, and in no stock. */
async function knownOnly(taken: Taken[], tx: Transaction): Promise<Taken[]> {
  const items = [...new Set(taken.map((one) => one.item))];
  if (items.length === 0) return [];
  const known = new Set(
    (
      await getDb().models.Item.findAll({ attributes: ["id"], where: { id: [...items] }, raw: true, transaction: tx })
    ).map((row) => row.id),
  );
  return taken.filter((one) => known.has(one.item));
}

async function lotNames(booked: readonly { lotId: string | null }[], tx: Transaction): Promise<Map<string, string>> {
  const ids = booked.flatMap((one) => (one.lotId ? [one.lotId] : []));
  if (ids.length === 0) return new Map();
  const rows = await getDb().models.Lot.findAll({
    attributes: ["id", "lot"],
    where: { id: [...ids] },
    raw: true,
    transaction: tx,
  });
  return new Map(rows.map((row) => [row.id, row.lot]));
}
