import { addDays } from "@core";
import { getDb, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { firmDay } from "~/kit/days/firm-day.server";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { demandUntil } from "~/stores/items/needs.server";
import { COVER_DAYS, EVERYWHERE } from "~/stores/items/outlook.server";

import { lockedStatus } from "./orders.server";
import * as sql from "./orders.sql";

async function requireDraft(orderId: string, tx: Transaction): Promise<void> {
  if ((await lockedStatus(orderId, tx)) !== "draft")
    throw new Refusal(409, "not-a-draft", "This order has gone out: it cannot be changed any more. Make another one.");
}

/** Items to be ordered within these days get onto a draft. */
const SOON_DAYS = 7;

/**
 * Puts everything whose order day is near onto drafts, one for each supplier, in whole packs, less what is on order already. A
 * line for an item that needs it names the machine that waits for it.
 *
 * @returns drafts that got lines, and items that have no supplier
 */
export async function draftOrders(
  actor: Actor,
  now: Date,
): Promise<{ orders: string[]; lines: number; without: string[] }> {
  const db = getDb();
  const { on: today } = await firmDay(now);
  const wanted = await sql.linesOnTheWay({ everywhere: EVERYWHERE, soon: addDays(today, SOON_DAYS) });
  const missing = wanted
    .map((one) => ({
      ...one,
      packs: Math.ceil((one.qty - (one.onOrder ?? 0)) / one.packSize - 1e-9),
    }))
    .filter((one) => one.packs > 0);
  const serials = missing.filter((one) => one.needsSerial).map((one) => one.itemId);
  const waiting = new Map<string, string>();
  if (serials.length > 0)
    for (const one of (await demandUntil(addDays(today, COVER_DAYS), today, now, serials)).sort((a, b) =>
      a.on < b.on ? -1 : 1,
    ))
      if (!waiting.has(one.item)) waiting.set(one.item, one.machineId);
  const [place] = await db.models.Place.findAll({
    attributes: ["id"],
    where: { kind: "depot", active: true },
    order: ["name"],
    limit: 1,
    raw: true,
  });
  if (!place) throw new Refusal(409, "no-depot", "There is no depot to deliver to. Add one in the stores first.");
  const touched = new Set<string>();
  let lines = 0;
  await db.transact(async (tx) => {
    for (const one of missing) {
      if (one.supplierId === null) continue;
      const orderId = await openDraft(actor, one.supplierId, place.id, now, tx);
      await db.models.OrderLine.create(
        {
          id: uuidv7(),
          orderId,
          itemId: one.itemId,
          packs: one.packs,
          packSize: one.packSize,
          packPriceCents: one.price,
          machineId: waiting.get(one.itemId) ?? null,
        },
        { transaction: tx },
      );
      touched.add(orderId);
      lines++;
    }
  });
  return {
    orders: [...touched],
    lines,
    without: missing.filter((one) => one.supplierId === null).map((one) => one.name),
  };
}

async function openDraft(
  actor: Pick<Actor, "id">,
  supplierId: string,
  placeId: string,
  now: Date,
  tx: Transaction,
): Promise<string> {
  const db = getDb();
  const [open] = await db.models.Order.findAll({
    attributes: ["id"],
    where: { supplierId, status: "draft", placeId },
    order: ["madeAt"],
    limit: 1,
    lock: tx.LOCK.UPDATE,
    raw: true,
    transaction: tx,
  });
  if (open) return open.id;
  const id = uuidv7();
  await db.models.Order.create({ id, supplierId, placeId, madeBy: actor.id, madeAt: now }, { transaction: tx });
  return id;
}

/** Puts an item on its supplier's draft by hand. */
export async function addToDraft(
  actor: Actor,
  input: { itemId: string; packs: number; machineId: string | null },
  now: Date,
): Promise<string> {
  return getDb().transact(async (tx) => {
    const line = await draftLine(actor, input, now, tx);
    if (line.lineId === null) throw line.refusal;
    return line.orderId;
  });
}

/** A line on the supplier's draft, or why there is none. */
export async function draftLine(
  actor: Pick<Actor, "id">,
  input: { itemId: string; packs: number; machineId: string | null },
  now: Date,
  tx: Transaction,
): Promise<{ lineId: string; orderId: string } | { lineId: null; refusal: Refusal }> {
  const db = getDb();
  const item = await db.models.Item.findByPk(input.itemId, {
    attributes: ["supplierId", "packSize", "packPriceCents", "name"],
    raw: true,
    transaction: tx,
  });
  if (!item) return { lineId: null, refusal: new Refusal(422, "item", "This item is not in the catalogue.") };
  if (item.supplierId === null) {
    const refusal = new Refusal(422, "supplier", `Say in the catalogue who supplies ${item.name} first.`);
    return { lineId: null, refusal };
  }
  const [place] = await db.models.Place.findAll({
    attributes: ["id"],
    where: { kind: "depot", active: true },
    order: ["name"],
    limit: 1,
    raw: true,
    transaction: tx,
  });
  if (!place) {
    const refusal = new Refusal(409, "no-depot", "There is no depot to deliver to. Add one in the stores first.");
    return { lineId: null, refusal };
  }
  const orderId = await openDraft(actor, item.supplierId, place.id, now, tx);
  const lineId = uuidv7();
  await db.models.OrderLine.create(
    {
      id: lineId,
      orderId,
      itemId: input.itemId,
      packs: input.packs,
      packSize: item.packSize,
      packPriceCents: item.packPriceCents,
      machineId: input.machineId,
    },
    { transaction: tx },
  );
  return { lineId, orderId };
}

/** Another quantity or machine for a draft's line; no packs take it off. */
export async function changeLine(
  actor: Actor,
  orderId: string,
  lineId: string,
  input: { packs: number; tag: string | null },
  now: Date,
): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    await requireDraft(orderId, tx);
    let machineId: string | null = null;
    if (input.tag) {
      const [machine] = await db.models.Machine.findAll({
        attributes: ["id"],
        where: { tag: input.tag },
        raw: true,
        transaction: tx,
      });
      if (!machine) throw new Refusal(422, "tag", `There is no machine with the tag ${input.tag}.`);
      machineId = machine.id;
    }
    if (input.packs === 0) await db.models.OrderLine.destroy({ where: { id: lineId, orderId }, transaction: tx });
    else
      await db.models.OrderLine.update(
        { packs: input.packs, machineId },
        { where: { id: lineId, orderId }, transaction: tx },
      );
    await audit(
      { by: actor, subject: "order", subjectId: orderId, action: "line", details: { lineId, ...input }, now },
      tx,
    );
  });
}
