import { must, type Procedure } from "@core";
import { getDb, type Transaction } from "@db";

import { publishProcedures, readProcedureFiles, shippedFolder } from "~/procedures/procedures.server";

/** A procedure that belongs to no family, in its newest version; one that this firm's library lacks is taken from what ships. */
export async function generalProcedure(id: string, now: Date, tx: Transaction): Promise<Procedure> {
  const row = await getDb().models.Procedure.findOne({
    where: { id },
    order: [["version", "DESC"]],
    raw: true,
    transaction: tx,
  });
  if (row) return row.expanded ?? row.body;
  const shipped = must(readProcedureFiles(shippedFolder()).find((one) => one.id === id));
  await publishProcedures([shipped], now, null, tx);
  return shipped;
}
