import { getDb, type OpenItemRow, type Transaction } from "@db";

import { draftLine } from "./order-draft.server";

/**
 * Puts parts that open items wait for, and that lie nowhere free, on their suppliers' drafts, with the machine that waits. A part
 * that nobody supplies, or that no depot takes in, is left to a lead.
 */
export async function orderFor(
  items: readonly Pick<OpenItemRow, "id" | "item" | "machineId" | "ownerId">[],
  now: Date,
  tx: Transaction,
): Promise<void> {
  for (const { id, item, machineId, ownerId } of items) {
    if (item === null || ownerId === null) continue;
    const line = await draftLine({ id: ownerId }, { itemId: item, packs: 1, machineId }, now, tx);
    if (line.lineId !== null)
      await getDb().models.OpenItem.update({ orderLineId: line.lineId }, { where: { id }, transaction: tx });
  }
}
