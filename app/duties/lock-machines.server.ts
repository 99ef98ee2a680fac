import { getDb, type Transaction } from "@db";

/** Holds machines' rows: whoever changes their facts takes turns, always in the same order. */
export async function lockMachines(machineIds: readonly string[], tx: Transaction): Promise<void> {
  await getDb().models.Machine.findAll({
    attributes: ["id"],
    where: { id: [...machineIds] },
    order: ["id"],
    lock: tx.LOCK.UPDATE,
    raw: true,
    transaction: tx,
  });
}
