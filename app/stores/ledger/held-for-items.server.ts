import { getDb, type OpenItemRow, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import { endReservations } from "./end-reservations.server";
import * as sql from "./held-for-items.sql";
import { reserveIfFree } from "./stock.sql";

/** A part is held as one piece: a blade of four edges is taken along whole. */
const PIECE = 1;

type Wanting = Pick<OpenItemRow, "id" | "item" | "ownerId" | "machineId">;

/**
 * Holds a piece for each item that takes a part: in the van of whose it is, else in a depot, else in another van. What lies
 * nowhere free is left to be ordered.
 *
 * @returns the items for which nothing is free
 */
export async function holdFor(items: readonly Wanting[], now: Date, tx: Transaction): Promise<Wanting[]> {
  const without: Wanting[] = [];
  for (const one of items) if (one.item !== null && !(await holdNearest(one, one.item, now, tx))) without.push(one);
  return without;
}

async function holdNearest({ id, ownerId }: Wanting, itemId: string, now: Date, tx: Transaction): Promise<boolean> {
  for (const { placeId } of await sql.placesWithPiece({ itemId, ownerId, piece: PIECE }, tx))
    if (await holdPiece({ openItemId: id, itemId, placeId }, now, tx)) return true;
  return false;
}

/** Whether a piece was free there, and is held now. */
async function holdPiece(
  held: { openItemId: string; itemId: string; placeId: string },
  now: Date,
  tx: Transaction,
): Promise<boolean> {
  if ((await reserveIfFree({ itemId: held.itemId, placeId: held.placeId, qty: PIECE }, tx)) === 0) return false;
  await getDb().models.Reservation.create(
    { id: uuidv7(), ...held, qty: PIECE, madeAt: now, personId: null, onDay: null, dutyId: null },
    { transaction: tx },
  );
  return true;
}

/** Lets go of what is held for items that are settled; a draft's line for them goes too. */
export async function letGoOf(
  items: readonly Pick<OpenItemRow, "id" | "orderLineId">[],
  why: "used" | "released",
  now: Date,
  tx: Transaction,
): Promise<void> {
  if (items.length === 0) return;
  await endReservations({ openItemId: items.map((one) => one.id) }, why, now, tx);
  const lines = items.flatMap((one) => one.orderLineId ?? []);
  if (lines.length > 0) await sql.takeOffDrafts({ lines }, tx);
}

/** Holds what has come in for items that wait for it, the most urgent first. */
export async function holdArrived(itemIds: readonly string[], now: Date, tx: Transaction): Promise<void> {
  if (itemIds.length === 0) return;
  await holdFor(await sql.waitingFor({ itemIds }, tx), now, tx);
}

/** Moves along with a piece what holds it for items of these machines: it is fetched for them. */
export async function carryHolds(
  input: { itemId: string; from: string; machineIds: readonly string[]; qty: number },
  now: Date,
  tx: Transaction,
): Promise<(to: string) => Promise<void>> {
  const held =
    input.machineIds.length === 0 ? [] : await sql.heldForMachines({ ...input, machineIds: [...input.machineIds] }, tx);
  const carried = held.slice(0, Math.floor(input.qty));
  if (carried.length === 0) return () => Promise.resolve();
  await endReservations({ id: carried.map((one) => one.id) }, "released", now, tx);
  return async (to) => {
    for (const { openItemId } of carried) await holdPiece({ openItemId, itemId: input.itemId, placeId: to }, now, tx);
  };
}
