import { addDays } from "@core";
import { getDb, type Transaction } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { firmDay } from "~/kit/days/firm-day.server";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { csvText } from "~/kit/server/csv-table.server";
import { demandUntil } from "~/stores/items/needs.server";
import { COVER_DAYS, EVERYWHERE } from "~/stores/items/outlook.server";
import { lotOf, postMoves } from "~/stores/ledger/ledger.server";

import * as sql from "./orders.sql";
import { PAGE } from "./orders.sql";
import { sendToSupplier, supplierCatalogue } from "./supplier.server";

export type OrderStatus = "draft" | "sending" | "sent" | "partly" | "received" | "refused" | "cancelled";

export interface OrderRow {
  id: string;
  status: OrderStatus;
  supplierId: string;
  supplierName: string;
  /** Orders go out over the network; else as a file. */
  online: boolean;
  placeName: string;
  madeAt: Date;
  sentAt: Date | null;
  supplierRef: string | null;
  expectedOn: string | null;
  fault: string | null;
  lines: number;
  cents: number;
}

export interface OrderLine {
  id: string;
  itemId: string;
  itemName: string;
  orderCode: string;
  unit: string;
  packs: number;
  packSize: number;
  packName: string;
  packPriceCents: number | null;
  shelfLifeDays: number | null;
  needsSerial: boolean;
  machineId: string | null;
  machineName: string | null;
  model: string | null;
  serial: string | null;
  promisedPacks: number | null;
  receivedPacks: number;
  fault: string | null;
}

const asOrder = (row: OrderRow): OrderRow => ({
  ...row,
  online: row.online,
  lines: row.lines,
  cents: row.cents ?? 0,
});

/** Orders, the newest first; a cursor is the last row's time and key. */
export async function listOrders(after: string | null): Promise<{ rows: OrderRow[]; next: string | null }> {
  const [at = "", id = ""] = after?.split(" ") ?? [];
  const rows = await sql.ordersPage({ at: at.replace("T", " ").replace("Z", ""), id }, after);
  const page = rows.slice(0, PAGE).map(asOrder);
  const last = page.at(-1);
  return { rows: page, next: rows.length > PAGE && last ? `${last.madeAt.toISOString()} ${last.id}` : null };
}

export async function getOrder(orderId: string, tx?: Transaction): Promise<{ order: OrderRow; lines: OrderLine[] }> {
  const [order] = await sql.oneOrder({ orderId }, tx);
  if (!order) throw new Refusal(404, "no-such-order", "This order does not exist. Go back to the orders.");
  const lines = await sql.linesOfOrder({ orderId }, tx);
  return {
    order: asOrder(order),
    lines: lines.map((line) => ({ ...line, packSize: line.packSize, needsSerial: line.needsSerial })),
  };
}

async function lockedStatus(orderId: string, tx: Transaction): Promise<OrderStatus> {
  const [row] = await getDb().models.Order.findAll({
    attributes: ["status"],
    where: { id: orderId },
    lock: tx.LOCK.UPDATE,
    raw: true,
    transaction: tx,
  });
  if (!row) throw new Refusal(404, "no-such-order", "This order does not exist. Go back to the orders.");
  return row.status;
}

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
  actor: Actor,
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
  const db = getDb();
  return db.transact(async (tx) => {
    const item = await db.models.Item.findByPk(input.itemId, {
      attributes: ["supplierId", "packSize", "packPriceCents", "name"],
      raw: true,
      transaction: tx,
    });
    if (!item) throw new Refusal(422, "item", "This item is not in the catalogue.");
    if (item.supplierId === null)
      throw new Refusal(422, "supplier", `Say in the catalogue who supplies ${item.name} first.`);
    const [place] = await db.models.Place.findAll({
      attributes: ["id"],
      where: { kind: "depot", active: true },
      order: ["name"],
      limit: 1,
      raw: true,
      transaction: tx,
    });
    if (!place) throw new Refusal(409, "no-depot", "There is no depot to deliver to. Add one in the stores first.");
    const orderId = await openDraft(actor, item.supplierId, place.id, now, tx);
    await db.models.OrderLine.create(
      {
        id: uuidv7(),
        orderId,
        itemId: input.itemId,
        packs: input.packs,
        packSize: item.packSize,
        packPriceCents: item.packPriceCents,
        machineId: input.machineId,
      },
      { transaction: tx },
    );
    return orderId;
  });
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
    await audit(actor, "order", orderId, "line", { lineId, ...input }, now, tx);
  });
}

/**
 * Sends an order. Its own key goes along, so that sending again after a broken connection, from here or from another process,
 * stays one order; until the supplier has answered clearly it can be sent again and not be changed.
 */
export async function sendOrder(
  actor: Actor,
  orderId: string,
  now: Date,
): Promise<{ status: OrderStatus; fault: string | null }> {
  const db = getDb();
  const { order, lines } = await getOrder(orderId);
  if (lines.length === 0) throw new Refusal(422, "empty", "There is nothing on this order.");
  const nameless = lines.find((line) => line.needsSerial && !line.serial);
  if (nameless)
    throw new Refusal(
      422,
      "serial",
      `${nameless.itemName} is ordered by the machine's model and serial: say for which machine, and see that its serial is in the register.`,
    );
  const codeless = lines.find((line) => order.online && !line.orderCode);
  if (codeless)
    throw new Refusal(
      422,
      "code",
      `${codeless.itemName} has no order code. Put the supplier's code into the catalogue.`,
    );
  await db.transact(async (tx) => {
    const status = await lockedStatus(orderId, tx);
    if (status !== "draft" && status !== "sending") throw new Refusal(409, "gone", "This order has gone out already.");
    await sql.takeForSending({ orderId, now }, tx);
  });
  if (!order.online) {
    await settleSent(actor, orderId, null, null, {}, now);
    return { status: "sent", fault: null };
  }
  // One code may stand on several lines, for different machines.
  const answer = await sendToSupplier({
    key: orderId,
    deliverTo: order.placeName,
    lines: lines.map((line) => ({
      code: line.orderCode,
      packs: line.packs,
      ...(line.serial ? { machine: { model: line.model ?? "", serial: line.serial } } : {}),
    })),
  });
  if (answer.kind === "taken") {
    const promised = sharedOut(lines, answer.promised);
    await settleSent(actor, orderId, answer.ref, answer.expectedOn, promised, now);
    return { status: "sent", fault: null };
  }
  await db.transact(async (tx) => {
    if ((await lockedStatus(orderId, tx)) !== "sending") return;
    await db.models.Order.update(
      { fault: answer.fault, status: answer.kind === "refused" ? "refused" : "sending" },
      { where: { id: orderId }, transaction: tx },
    );
    if (answer.kind === "refused")
      for (const line of lines)
        await db.models.OrderLine.update(
          { fault: answer.lines[line.orderCode] ?? null },
          { where: { id: line.id }, transaction: tx },
        );
    await audit(actor, "order", orderId, answer.kind, { fault: answer.fault }, now, tx);
  });
  return { status: answer.kind === "refused" ? "refused" : "sending", fault: answer.fault };
}

/** What is promised of a code, on the lines that ask for it, the first ones first. */
function sharedOut(lines: readonly OrderLine[], promised: Readonly<Record<string, number>>): Record<string, number> {
  const left = { ...promised };
  return Object.fromEntries(
    lines.map((line) => {
      const packs = Math.min(line.packs, left[line.orderCode] ?? 0);
      left[line.orderCode] = (left[line.orderCode] ?? 0) - packs;
      return [line.id, packs];
    }),
  );
}

async function settleSent(
  actor: Actor,
  orderId: string,
  ref: string | null,
  expectedOn: string | null,
  promised: Readonly<Record<string, number>>,
  now: Date,
): Promise<void> {
  const db = getDb();
  await db.transact(async (tx) => {
    if ((await lockedStatus(orderId, tx)) !== "sending") return;
    await db.models.Order.update(
      { status: "sent", supplierRef: ref, expectedOn, fault: null, sentAt: now },
      { where: { id: orderId }, transaction: tx },
    );
    for (const [id, packs] of Object.entries(promised))
      await db.models.OrderLine.update({ promisedPacks: packs }, { where: { id }, transaction: tx });
    await audit(actor, "order", orderId, "sent", { ref, expectedOn }, now, tx);
  });
}

/** Takes a draft, or one that was refused, off the table; or makes a refused one a draft again. */
export async function setOrderAside(
  actor: Actor,
  orderId: string,
  to: "cancelled" | "draft",
  now: Date,
): Promise<void> {
  await getDb().transact(async (tx) => {
    const status = await lockedStatus(orderId, tx);
    if (status === "sending")
      throw new Refusal(
        409,
        "unclear",
        "Nobody knows yet whether the supplier has this order. Send it again first: it stays one order.",
      );
    if (status !== "refused" && !(status === "draft" && to === "cancelled"))
      throw new Refusal(409, "gone", "This order has gone out already.");
    // A refused order is nobody's: another try needs a key of its own, so it becomes a new order with the same lines.
    if (to === "cancelled") {
      await getDb().models.Order.update({ status: "cancelled" }, { where: { id: orderId }, transaction: tx });
      await audit(actor, "order", orderId, "cancelled", {}, now, tx);
      return;
    }
    const id = uuidv7();
    await sql.copyOrder({ id, orderId, by: actor.id, now }, tx);
    for (const line of (await getOrder(orderId, tx)).lines)
      await sql.copyLines({ fresh: uuidv7(), id, lineId: line.id }, tx);
    await getDb().models.Order.update({ status: "cancelled" }, { where: { id: orderId }, transaction: tx });
    await audit(actor, "order", orderId, "again", { as: id }, now, tx);
  });
}

/** Books what has arrived against an order: whole packs, with lot and expiry. Never more than was ordered. */
export async function receiveOrder(
  actor: Actor,
  orderId: string,
  arrived: readonly { lineId: string; packs: number; lot: string | null; expiresOn: string | null }[],
  now: Date,
): Promise<OrderStatus> {
  const db = getDb();
  const { on } = await firmDay(now);
  return db.transact(async (tx) => {
    const status = await lockedStatus(orderId, tx);
    if (status !== "sent" && status !== "partly")
      throw new Refusal(409, "not-sent", "Only what has been ordered can arrive. Send the order first.");
    const { lines } = await getOrder(orderId, tx);
    const [{ placeId }] = (await db.models.Order.findAll({
      attributes: ["placeId"],
      where: { id: orderId },
      raw: true,
      transaction: tx,
    })) as [{ placeId: string }];
    let any = false;
    for (const [i, { lineId, packs, lot, expiresOn }] of arrived.entries()) {
      if (packs === 0) continue;
      const line = lines.find((one) => one.id === lineId);
      if (!line) throw new Refusal(422, "line", "This line is not on the order. Load the page again.");
      const open = line.packs - line.receivedPacks;
      if (packs > open)
        throw new Refusal(
          422,
          `lines[${i}].packs`,
          `Of ${line.itemName} only ${open} were still to come. Book what is beyond as received without an order.`,
        );
      if (expiresOn !== null && lot === null)
        throw new Refusal(422, `lines[${i}].lot`, `Give the lot of ${line.itemName} that expires then.`);
      const lotId = lot === null ? null : await lotOf(line.itemId, lot, expiresOn, tx);
      await postMoves(
        [
          {
            itemId: line.itemId,
            placeId,
            lotId,
            kind: "receive",
            qty: packs * line.packSize,
            at: now,
            onDay: on,
            by: actor.id,
            orderLineId: lineId,
          },
        ],
        tx,
      );
      await sql.addArrived({ packs, lineId }, tx);
      any = true;
    }
    if (!any) throw new Refusal(422, "nothing", "Say how many packs have arrived.");
    const after = (await getOrder(orderId, tx)).lines;
    const next: OrderStatus = after.every((line) => line.receivedPacks >= line.packs) ? "received" : "partly";
    await db.models.Order.update({ status: next }, { where: { id: orderId }, transaction: tx });
    return next;
  });
}

/** An order as a file for a supplier that takes none over the network. */
export async function orderCsv(orderId: string): Promise<string> {
  const { lines } = await getOrder(orderId);
  return csvText(
    ["order_code", "item", "packs", "pack", "unit_quantity", "unit", "model", "serial"],
    lines.map((line) => [
      line.orderCode,
      line.itemName,
      line.packs,
      line.packName,
      line.packs * line.packSize,
      line.unit,
      line.model ?? "",
      line.serial ?? "",
    ]),
  );
}

/** Takes the supplier's prices and lead times over into the catalogue; null when they cannot be had now. */
export async function takePrices(actor: Actor, now: Date): Promise<{ changed: number } | null> {
  const offered = await supplierCatalogue();
  if (offered === null) return null;
  const db = getDb();
  let changed = 0;
  await db.transact(async (tx) => {
    for (const { code, packPriceCents, leadDays } of offered) {
      changed += await sql.takePrices({ code, price: packPriceCents, leadDays }, tx);
    }
    await audit(actor, "supplier", "prices", "taken over", { changed }, now, tx);
  });
  return { changed };
}
