import { getDb } from "@db";

import type { Actor } from "~/kit/actor";
import { firmDay } from "~/kit/days/firm-day.server";
import { Refusal } from "~/kit/refusal";
import { audit } from "~/kit/server/audit.server";
import { lotOf, postMoves } from "~/stores/ledger/ledger.server";

import { getOrder, lockedStatus, type OrderStatus } from "./orders.server";
import * as sql from "./orders.sql";
import { supplierCatalogue } from "./supplier.server";

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
    await audit(
      { by: actor, subject: "supplier", subjectId: "prices", action: "taken over", details: { changed }, now },
      tx,
    );
  });
  return { changed };
}
