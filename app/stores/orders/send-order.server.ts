import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";

import { getOrder, lockedStatus, type OrderStatus } from "./orders.server";
import * as sql from "./orders.sql";
import { sharedOut } from "./shared-out";
import { sendToSupplier } from "./supplier.server";

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
    await settleSent(actor, orderId, { ref: null, expectedOn: null, promised: {} }, now);
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
    await settleSent(actor, orderId, { ref: answer.ref, expectedOn: answer.expectedOn, promised }, now);
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
    await audit(
      { by: actor, subject: "order", subjectId: orderId, action: answer.kind, details: { fault: answer.fault }, now },
      tx,
    );
  });
  return { status: answer.kind === "refused" ? "refused" : "sending", fault: answer.fault };
}

async function settleSent(
  actor: Actor,
  orderId: string,
  answer: { ref: string | null; expectedOn: string | null; promised: Readonly<Record<string, number>> },
  now: Date,
): Promise<void> {
  const { ref, expectedOn, promised } = answer;
  const db = getDb();
  await db.transact(async (tx) => {
    if ((await lockedStatus(orderId, tx)) !== "sending") return;
    await db.models.Order.update(
      { status: "sent", supplierRef: ref, expectedOn, fault: null, sentAt: now },
      { where: { id: orderId }, transaction: tx },
    );
    for (const [id, packs] of Object.entries(promised))
      await db.models.OrderLine.update({ promisedPacks: packs }, { where: { id }, transaction: tx });
    await audit(
      { by: actor, subject: "order", subjectId: orderId, action: "sent", details: { ref, expectedOn }, now },
      tx,
    );
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
      await audit({ by: actor, subject: "order", subjectId: orderId, action: "cancelled", details: {}, now }, tx);
      return;
    }
    const id = uuidv7();
    await sql.copyOrder({ id, orderId, by: actor.id, now }, tx);
    for (const line of (await getOrder(orderId, tx)).lines)
      await sql.copyLines({ fresh: uuidv7(), id, lineId: line.id }, tx);
    await getDb().models.Order.update({ status: "cancelled" }, { where: { id: orderId }, transaction: tx });
    await audit({ by: actor, subject: "order", subjectId: orderId, action: "again", details: { as: id }, now }, tx);
  });
}
