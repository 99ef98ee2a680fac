import { getDb, type Transaction } from "@db";

import { Refusal } from "~/kit/refusal";
import { csvText } from "~/kit/server/csv-table.server";

import * as sql from "./orders.sql";
import { PAGE } from "./orders.sql";

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

export async function lockedStatus(orderId: string, tx: Transaction): Promise<OrderStatus> {
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
