/** Statements of orders that Sequelize's models cannot say well. */
import { getDb, type Transaction } from "@db";

import type { OrderLine, OrderRow } from "./orders.server";

export const ORDER = `o.id, o.status, o.supplier_id AS supplierId, s.name AS supplierName, s.code <> '' AS online, p.name AS placeName, o.made_at AS madeAt, o.sent_at AS sentAt,
  o.supplier_ref AS supplierRef, o.expected_on AS expectedOn, o.fault,
  (SELECT COUNT(*) FROM order_lines l WHERE l.order_id = o.id) AS \`lines\`, (SELECT COALESCE(SUM(l.packs * l.pack_price_cents), 0) FROM order_lines l WHERE l.order_id = o.id) AS cents
  FROM orders o JOIN suppliers s ON s.id = o.supplier_id JOIN places p ON p.id = o.place_id`;

export const PAGE = 40;

/** Its shape varies. */
export function ordersPage(values: { at: string; id: string }, after: string | null): Promise<OrderRow[]> {
  return getDb().select<OrderRow>(
    `SELECT ${ORDER} ${after ? "WHERE (o.made_at, o.id) < (:at, :id)" : ""} ORDER BY o.made_at DESC, o.id DESC LIMIT ${PAGE + 1}`,
    values,
  );
}

/** Its shape varies. */
export function oneOrder(values: { orderId: string }, tx?: Transaction | null): Promise<OrderRow[]> {
  return getDb().select<OrderRow>(`SELECT ${ORDER} WHERE o.id = :orderId`, values, tx);
}

/** Joins. */
export function linesOfOrder(values: { orderId: string }, tx?: Transaction | null): Promise<OrderLine[]> {
  return getDb().select<OrderLine>(
    `SELECT l.id, l.item_id AS itemId, i.name AS itemName, i.order_code AS orderCode, i.unit, l.packs, l.pack_size + 0 AS packSize, i.pack_name AS packName,
       l.pack_price_cents AS packPriceCents, i.shelf_life_days AS shelfLifeDays, i.needs_serial AS needsSerial, l.machine_id AS machineId, m.name AS machineName, m.model, m.serial,
       l.promised_packs AS promisedPacks, l.received_packs AS receivedPacks, l.fault
     FROM order_lines l JOIN items i ON i.id = l.item_id LEFT JOIN machines m ON m.id = l.machine_id WHERE l.order_id = :orderId ORDER BY i.name, l.id`,
    values,
    tx,
  );
}

/** Joins, sums, compares in the database. */
export function linesOnTheWay(values: { everywhere: string; soon: string }): Promise<
  {
    itemId: string;
    name: string;
    qty: number;
    packSize: number;
    price: number | null;
    supplierId: string | null;
    needsSerial: boolean;
    onOrder: number | null;
  }[]
> {
  return getDb().select<{
    itemId: string;
    name: string;
    qty: number;
    packSize: number;
    price: number | null;
    supplierId: string | null;
    needsSerial: boolean;
    onOrder: number | null;
  }>(
    `SELECT o.item_id AS itemId, i.name, o.order_qty AS qty, i.pack_size AS packSize, i.pack_price_cents AS price, i.supplier_id AS supplierId, i.needs_serial AS needsSerial,
       (SELECT SUM((COALESCE(l.promised_packs, l.packs) - l.received_packs) * l.pack_size) FROM order_lines l JOIN orders r ON r.id = l.order_id
         WHERE l.item_id = o.item_id AND r.status IN ('draft','sending','sent','partly')) AS onOrder
     FROM stock_outlook o JOIN items i ON i.id = o.item_id WHERE o.place_id = :everywhere AND o.order_by <= :soon AND o.order_qty > 0 ORDER BY o.order_by, i.name LIMIT 500`,
    values,
  );
}

/** Compares in the database. */
export function takeForSending(values: { orderId: string; now: Date }, tx?: Transaction): Promise<number> {
  return getDb().run(
    "UPDATE orders SET status = 'sending', attempts = attempts + 1, sent_at = COALESCE(sent_at, :now) WHERE id = :orderId",
    values,
    tx,
  );
}

/** Its shape varies. */
export function copyOrder(
  values: { id: string; orderId: string; by: string; now: Date },
  tx?: Transaction,
): Promise<number> {
  return getDb().run(
    "INSERT INTO orders (id, supplier_id, place_id, made_by, made_at) SELECT :id, supplier_id, place_id, :by, :now FROM orders WHERE id = :orderId",
    values,
    tx,
  );
}

/** Its shape varies. */
export function copyLines(values: { fresh: string; id: string; lineId: string }, tx?: Transaction): Promise<number> {
  return getDb().run(
    `INSERT INTO order_lines (id, order_id, item_id, packs, pack_size, pack_price_cents, machine_id)
         SELECT :fresh, :id, item_id, packs, pack_size, pack_price_cents, machine_id FROM order_lines WHERE id = :lineId`,
    values,
    tx,
  );
}

/** Reckons in place. */
export function addArrived(values: { packs: number; lineId: string }, tx?: Transaction): Promise<number> {
  return getDb().run("UPDATE order_lines SET received_packs = received_packs + :packs WHERE id = :lineId", values, tx);
}

/** Joins, compares in the database. */
export function takePrices(
  values: { code: string; price: number; leadDays: number },
  tx?: Transaction,
): Promise<number> {
  return getDb().run(
    `UPDATE items i JOIN suppliers s ON s.id = i.supplier_id AND s.code <> '' SET i.pack_price_cents = :price, i.lead_days = :leadDays
         WHERE i.order_code = :code AND (NOT i.pack_price_cents <=> :price OR NOT i.lead_days <=> :leadDays)`,
    values,
    tx,
  );
}
