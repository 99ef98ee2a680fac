import { foldRun } from "@core";
import { getDb, Op } from "@db";

import { fitMachines } from "~/wear/fit-lines.server";
import { keepWear } from "~/wear/settle-wear.server";

import { procedureOf, readEntries, sheetContext } from "./sheet-context.server";

const AT_ONCE = 50;

/**
 * Keeps what closed sheets say of wear, of those that an older version closed. Stopped in between, it goes on where it was; what is
 * foreseen from them is worked out when somebody looks.
 *
 * @param said is told how many sheets were looked at so far
 */
export async function keepMissingWear(now: Date, said: (done: number) => void = () => undefined): Promise<number> {
  const db = getDb();
  const { models } = db;
  for (let done = 0; ;) {
    const found = await models.Sheet.findAll({
      attributes: ["id"],
      where: { wearKept: false, closedAt: { [Op.ne]: null } },
      order: ["closedAt"],
      limit: AT_ONCE,
      raw: true,
    });
    if (found.length === 0) return done;
    await db.transact(async (tx) => {
      // Locked one after the other, as whoever logs on them does: what they add meanwhile is not lost.
      const locked = await models.Sheet.findAll({
        where: { id: found.map((one) => one.id) },
        order: ["id"],
        lock: tx.LOCK.UPDATE,
        raw: true,
        transaction: tx,
      });
      const closed: Parameters<typeof keepWear>[0][number][] = [];
      for (const { id } of locked) {
        const { sheet, options, timeZone } = await sheetContext(id, tx);
        const procedure = await procedureOf(sheet, tx);
        const state = foldRun(procedure, await readEntries(id, tx));
        closed.push({ sheet, procedure, state, options, timeZone });
      }
      await fitMachines(await keepWear(closed, tx), now, tx);
      await models.Sheet.update({ wearKept: true }, { where: { id: locked.map((one) => one.id) }, transaction: tx });
    });
    done += found.length;
    said(done);
  }
}
