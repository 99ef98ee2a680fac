import { getDb, Op, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { firmDay } from "~/kit/days/firm-day.server";
import { Refusal } from "~/kit/refusal";

import { endReservations } from "./end-reservations.server";
import { exactQty } from "./exact-qty";
import { carryHolds } from "./held-for-items.server";
import { fromLots, lotOf, lotsAt, type Move, postMoves } from "./ledger.server";
import * as sql from "./stock.sql";

/** Refuses an item or a place that is not known, before anything is written. */
async function requireKnown(
  itemId: string,
  placeIds: readonly string[],
  tx: Transaction,
): Promise<{ name: string; unit: string }> {
  const db = getDb();
  const [item] = await db.models.Item.findAll({
    attributes: ["name", "unit"],
    where: { id: itemId },
    raw: true,
    transaction: tx,
  });
  if (!item) throw new Refusal(422, "item", "This item is not in the catalogue.");
  const places = await db.models.Place.findAll({
    attributes: ["id"],
    where: { id: [...placeIds, ""], active: true },
    raw: true,
    transaction: tx,
  });
  if (places.length < new Set(placeIds).size) throw new Refusal(422, "place", "Choose a place.");
  return item;
}

/** Refuses lots of other items. */
async function requireLots(itemId: string, lotIds: readonly string[], tx: Transaction): Promise<void> {
  if (lotIds.length === 0) return;
  const own = await getDb().models.Lot.count({ where: { itemId, id: [...lotIds] }, transaction: tx });
  if (own < new Set(lotIds).size)
    throw new Refusal(422, "lot", "This lot is of another item, or is not known. Load the page again.");
}

/** Puts what has arrived on the shelf. */
export async function receive(
  actor: Actor,
  input: { itemId: string; placeId: string; qty: number; lot: string | null; expiresOn: string | null; note: string },
  now: Date,
): Promise<void> {
  const { on } = await firmDay(now);
  await getDb().transact(async (tx) => {
    await requireKnown(input.itemId, [input.placeId], tx);
    if (input.expiresOn !== null && input.lot === null)
      throw new Refusal(422, "lot", "Give the lot that expires then.");
    const lotId = input.lot === null ? null : await lotOf(input.itemId, input.lot, input.expiresOn, tx);
    await postMoves([{ ...input, lotId, kind: "receive", at: now, onDay: on, by: actor.id }], tx);
  });
}

/**
 * Takes pieces from one place to another, first expiry first. Only what the books say is there can be moved.
 *
 * @param input.machineIds what is held for open items of these machines goes along, and stays held
 */
export async function moveStock(
  actor: Actor,
  input: { itemId: string; from: string; to: string; qty: number; note: string; machineIds?: readonly string[] },
  now: Date,
): Promise<void> {
  if (input.from === input.to) throw new Refusal(422, "to", "Choose another place.");
  const { on } = await firmDay(now);
  await getDb().transact(async (tx) => {
    const { name, unit } = await requireKnown(input.itemId, [input.from, input.to], tx);
    const holdThere = await carryHolds({ ...input, machineIds: input.machineIds ?? [] }, now, tx);
    // Locked in the order of keys, as everybody does.
    const [there] = (
      await getDb().models.Stock.findAll({
        attributes: ["placeId", "onHand", "reserved"],
        where: { itemId: input.itemId, placeId: [input.from, input.to] },
        order: ["placeId"],
        lock: tx.LOCK.UPDATE,
        raw: true,
        transaction: tx,
      })
    ).filter((row) => row.placeId === input.from);
    const free = exactQty((there?.onHand ?? 0) - (there?.reserved ?? 0));
    if (input.qty > free)
      throw new Refusal(
        409,
        "qty",
        `${Math.max(0, free)} ${unit} of ${name} are free there by the books. If there is more, count it first.`,
      );
    const pairId = uuidv7();
    const parts = fromLots(await lotsAt(input.itemId, input.from, on, tx), input.qty);
    const common = {
      itemId: input.itemId,
      kind: "move" as const,
      at: now,
      onDay: on,
      by: actor.id,
      pairId,
      note: input.note,
    };
    await postMoves(
      parts.flatMap(({ lotId, qty }): Move[] => [
        { ...common, placeId: input.from, lotId, qty: -qty },
        { ...common, placeId: input.to, lotId, qty },
      ]),
      tx,
    );
    await holdThere(input.to);
  });
}

/** Throws something away, with the reason. */
export async function scrap(
  actor: Actor,
  input: { itemId: string; placeId: string; qty: number; lotId: string | null; note: string },
  now: Date,
): Promise<void> {
  const { on } = await firmDay(now);
  await getDb().transact(async (tx) => {
    await requireKnown(input.itemId, [input.placeId], tx);
    await requireLots(input.itemId, input.lotId === null ? [] : [input.lotId], tx);
    const parts =
      input.lotId === null
        ? fromLots(await lotsAt(input.itemId, input.placeId, on, tx), input.qty)
        : [{ lotId: input.lotId, qty: input.qty }];
    await postMoves(
      parts.map(({ lotId, qty }) => ({
        ...input,
        lotId,
        qty: -qty,
        kind: "scrap" as const,
        at: now,
        onDay: on,
        by: actor.id,
      })),
      tx,
    );
  });
}

/**
 * A count: what is really there becomes the stock; the difference is a line of the ledger, with what explains it.
 *
 * @param input.found by lot (null: without one)
 * @returns the difference in all
 */
export async function countStock(
  actor: Actor,
  input: { itemId: string; placeId: string; found: { lotId: string | null; qty: number }[]; note: string },
  now: Date,
): Promise<number> {
  const { on } = await firmDay(now);
  return getDb().transact(async (tx) => {
    await requireKnown(input.itemId, [input.placeId], tx);
    if (input.found.some((one) => !(one.qty >= 0)))
      throw new Refusal(422, "found", "There cannot be less than nothing. Type what is there.");
    const { itemId, placeId } = input;
    await requireLots(
      itemId,
      input.found.flatMap((one) => one.lotId ?? []),
      tx,
    );
    const [sum] = await getDb().models.Stock.findAll({
      attributes: ["onHand"],
      where: { itemId, placeId },
      lock: tx.LOCK.UPDATE,
      raw: true,
      transaction: tx,
    });
    const lots = await getDb().models.StockLot.findAll({
      attributes: ["lotId", "qty"],
      where: { itemId, placeId, qty: { [Op.ne]: 0 } },
      raw: true,
      transaction: tx,
    });
    const loose = exactQty((sum?.onHand ?? 0) - lots.reduce((total, lot) => total + lot.qty, 0));
    const expected = new Map<string | null, number>([
      [null, loose],
      ...lots.map((lot): [string, number] => [lot.lotId, lot.qty]),
    ]);
    const found = new Map(input.found.map((one) => [one.lotId, one.qty]));
    for (const lotId of found.keys()) if (lotId !== null && !expected.has(lotId)) expected.set(lotId, 0);
    // A lot that was not named in the count was not found.
    const differences = [...expected].map(([lotId, qty]) => ({
      lotId,
      counted: found.get(lotId) ?? 0,
      qty: exactQty((found.get(lotId) ?? 0) - qty),
    }));
    const total = exactQty(differences.reduce((difference, one) => difference + one.qty, 0));
    if (differences.some((one) => one.qty !== 0) && !input.note.trim())
      throw new Refusal(422, "note", "The count differs from the books. Say what explains it.");
    const common = {
      itemId,
      placeId,
      kind: "count" as const,
      at: now,
      onDay: on,
      by: actor.id,
      note: input.note.trim(),
    };
    const changed = differences.filter((one) => one.qty !== 0 || one.lotId === null);
    await postMoves(
      changed.map(({ lotId, qty, counted }) => ({ ...common, lotId, qty, counted })),
      tx,
    );
    return total;
  });
}

/**
 * Holds pieces back for a day. In one statement, so that of two who reach for the last piece exactly one gets it, on several
 * processes and cluster nodes too.
 *
 * @throws Refusal 409 when not as much is free, or its duty is not on the day any more
 */
export async function reserve(
  actor: Actor,
  input: { itemId: string; placeId: string; qty: number; personId: string; on: string; dutyId: string | null },
  now: Date,
): Promise<string> {
  if (input.personId !== actor.id && actor.role !== "lead")
    throw new Refusal(403, "not-yours", "This is another person's day. Ask them or a lead.");
  const qty = exactQty(input.qty);
  if (!(qty > 0)) throw new Refusal(422, "qty", "More than nothing.");
  const db = getDb();
  return db.transact(async (tx) => {
    if (input.dutyId !== null) {
      const where = { id: input.dutyId, plannedOn: input.on, plannedFor: input.personId };
      if ((await db.models.Duty.count({ where, transaction: tx })) === 0)
        throw new Refusal(409, "duty", "This duty is not on the day any more. Load the page again.");
    }
    const taken = await sql.reserveIfFree({ ...input, qty }, tx);
    if (taken === 0)
      throw new Refusal(
        409,
        "reserved",
        "Not as much is free there any more: somebody else holds it. Look for another place or an alternative.",
      );
    const id = uuidv7();
    await db.models.Reservation.create(
      {
        id,
        itemId: input.itemId,
        placeId: input.placeId,
        qty,
        personId: input.personId,
        onDay: input.on,
        dutyId: input.dutyId,
        madeAt: now,
      },
      { transaction: tx },
    );
    return id;
  });
}

/** Gives held pieces back. */
export async function release(ids: readonly string[], now: Date): Promise<void> {
  if (ids.length === 0) return;
  await getDb().transact((tx) => endReservations({ id: [...ids] }, "released", now, tx));
}
