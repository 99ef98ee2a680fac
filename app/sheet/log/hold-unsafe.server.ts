import { type RunEvent, unsafeWork } from "@core";
import type { Transaction } from "@db";

import { holdMachine } from "~/duties/holds.server";

import { procedureOf, type SheetContext, stepsThatBring } from "./sheet-context.server";

/**
 * What must not be done and was logged all the same stops the machine, as an unsafe finding does.
 *
 * @param entries what came new
 */
export async function holdUnsafe(
  { sheet, options }: SheetContext,
  entries: readonly RunEvent[],
  readAll: () => Promise<RunEvent[]>,
  tx: Transaction,
): Promise<void> {
  const bringing = await stepsThatBring(sheet, tx);
  if (!entries.some((one) => "step" in one && bringing.has(one.step ?? ""))) return;
  const fresh = new Map(entries.map((one) => [one.id, one]));
  for (const one of unsafeWork(await procedureOf(sheet, tx), await readAll(), { options })) {
    const entry = fresh.get(one.eventId);
    if (!entry) continue;
    const since = new Date(entry.at);
    const hold = { machineId: sheet.machineId, reason: one.because, sheetId: sheet.id, entryId: entry.id };
    await holdMachine({ ...hold, byPerson: entry.by, since }, tx);
  }
}
