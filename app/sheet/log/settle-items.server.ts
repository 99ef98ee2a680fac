import {
  foldRun,
  must,
  openItems,
  type Procedure,
  type RunEvent,
  type RunState,
  type SheetEffects,
  sheetEffects,
  unsafeWork,
} from "@core";
import { getDb, Op, type OpenItemRow, type SheetRow, type Transaction } from "@db";

import { keepItems, type LeftBy } from "~/duties/left/keep-items.server";
import { keepWork, lockMachine } from "~/duties/left/left-work.server";
import { closeCleared } from "~/duties/left/open-items.server";
import { holdFor, letGoOf } from "~/stores/ledger/held-for-items.server";
import { orderFor } from "~/stores/orders/order-for-items.server";

import { procedureOf, readEntries, type SheetContext, sheetContext } from "./sheet-context.server";

/** A closed sheet, worked out. */
interface Settled {
  sheet: Pick<SheetRow, "id" | "dutyId">;
  at: Date;
  by: string;
  procedure: Procedure;
  entries: readonly RunEvent[];
  state: RunState;
}

/**
 * Brings the open items of a machine to what its closed sheets say, after one of them was closed or corrected. Only what that
 * sheet and later ones could have changed is worked out anew: what stood open before it is taken as it stands.
 */
export async function settleItems(context: SheetContext, settled: Settled, now: Date, tx: Transaction): Promise<void> {
  const db = getDb();
  const { machineId } = context.sheet;
  await lockMachine(machineId, tx);
  const others = await db.models.Sheet.findAll({
    where: {
      machineId,
      status: ["signed", "ended"],
      closedAt: { [Op.gte]: settled.at },
      id: { [Op.ne]: settled.sheet.id },
    },
    raw: true,
    transaction: tx,
  });
  const isLater = ({ id, closedAt }: SheetRow): boolean =>
    must(closedAt).getTime() > settled.at.getTime() || id > settled.sheet.id;
  const later = await Promise.all(others.filter(isLater).map((row) => foldClosed(row, tx)));
  const rows = await db.models.OpenItem.findAll({
    where: {
      machineId,
      [Op.or]: [{ closedAt: null }, { closedAt: { [Op.gte]: settled.at } }, { arisenAt: { [Op.gte]: settled.at } }],
    },
    raw: true,
    transaction: tx,
  });
  const first = { at: settled.at.getTime(), id: settled.sheet.id };
  const since = new Map([settled, ...later].map((one) => [one.sheet.id, one]));
  const before = rows.filter((row) => !since.has(row.sheetId)).map((row) => asItWas(row, since, first.at));
  const closings = rows.flatMap((row) =>
    row.closedAt !== null && row.closedBy !== null && row.closedAt.getTime() >= first.at
      ? [{ item: row.name, at: row.closedAt.toISOString() }]
      : [],
  );
  const told = openItems(
    [...since.values()].map((one) => effectsOf(one, context.options)),
    closings,
    before,
  );
  const from = new Map<string, LeftBy>();
  for (const one of since.values()) {
    const duty = must(await db.models.Duty.findByPk(one.sheet.dutyId, { raw: true, transaction: tx }));
    from.set(one.sheet.id, { procedure: one.procedure, duty, timeZone: context.timeZone, by: one.by });
  }
  const { added, closed } = await keepItems({ machineId, told, rows, from }, now, tx);
  await letGoOf(closed, "used", now, tx);
  await orderFor(await holdFor(added, now, tx), now, tx);
  await closeCleared(added, now, tx);
  if (added.length > 0 || closed.length > 0 || rows.length > 0) await keepWork(machineId, now, tx);
}

function effectsOf({ sheet, at, procedure, entries, state }: Settled, options: string[]): SheetEffects {
  const unsafe = unsafeWork(procedure, entries, { options });
  return sheetEffects({ id: sheet.id, closedAt: at.toISOString(), unsafe }, procedure, state, { options });
}

/** An item as it was before the sheets that are worked out anew. */
function asItWas({ body }: OpenItemRow, since: ReadonlyMap<string, Settled>, firstMs: number): OpenItemRow["body"] {
  const { closed } = body;
  const stillOpen =
    closed !== null && (closed.sheetId === null ? Date.parse(closed.at) >= firstMs : since.has(closed.sheetId));
  return {
    ...body,
    again: body.again.filter((one) => !since.has(one.sheetId)),
    closed: stillOpen ? null : closed,
  };
}

/** None, unless a sheet is corrected or came from afar. */
async function foldClosed(row: SheetRow, tx: Transaction): Promise<Settled> {
  const procedure = await procedureOf(row, tx);
  const entries = await readEntries(row.id, tx);
  const state = foldRun(procedure, entries);
  return { sheet: row, at: must(row.closedAt), by: must(row.closedBy), procedure, entries, state };
}

/** Works out the items of machines from all their closed sheets, as taken over from elsewhere. The caller assesses them. */
export async function itemsOfPast(machineIds: readonly string[], now: Date): Promise<void> {
  for (const machineId of machineIds)
    await getDb().transact(async (tx) => {
      const [oldest] = await getDb().models.Sheet.findAll({
        where: { machineId, status: ["signed", "ended"] },
        order: ["closedAt", "id"],
        limit: 1,
        raw: true,
        transaction: tx,
      });
      if (oldest) await settleItems(await sheetContext(oldest.id, tx), await foldClosed(oldest, tx), now, tx);
    });
}
