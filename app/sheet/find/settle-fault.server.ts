import { isFaultProcedure, type Procedure, type RunState } from "@core";
import { getDb, type SheetRow, type Transaction } from "@db";

import { dayInZone } from "~/kit/days/site-day";

import { searchOutcomes } from "./fault-outcomes";

/** Keeps what the searches of a signed fault sheet came to; settled again, as it reads now. */
export async function settleFault(
  sheet: SheetRow,
  { procedure, state, siteId, timeZone }: { procedure: Procedure; state: RunState; siteId: string; timeZone: string },
  tx: Transaction,
): Promise<void> {
  if (!isFaultProcedure(procedure.id)) return;
  const { FaultOutcome } = getDb().models;
  await FaultOutcome.destroy({ where: { sheetId: sheet.id }, transaction: tx });
  const rows = searchOutcomes(procedure, state).map(({ at, by, ...one }) => ({
    ...one,
    sheetId: sheet.id,
    machineId: sheet.machineId,
    siteId,
    family: procedure.family,
    onDay: dayInZone(new Date(at), timeZone),
    foundAt: new Date(at),
    byPerson: by,
  }));
  await FaultOutcome.bulkCreate(rows, { transaction: tx });
}
