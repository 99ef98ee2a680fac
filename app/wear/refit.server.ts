import { getDb } from "@db";

import { inLanes } from "~/kit/server/in-lanes.server";

import { fitMachines } from "./fit-lines.server";
import { assessWaiting, foreseeMachines, Pools } from "./foresee.server";
import * as sql from "./wear.sql";

const CHUNK = 200;
const measured = async (after: string): Promise<string[]> =>
  (await sql.measuredMachines({ after, limit: CHUNK })).map((row) => row.machineId);

/**
 * Works out all lines of wear anew, then all that is foreseen of them and the duties that go by it: for a changed engine, or after
 * facts were changed by hand. Each part in a transaction of its own.
 *
 * @returns how many lines there are, and how many of them are in use
 */
export async function refitAll(
  now: Date,
  said: (lines: number) => void = () => undefined,
): Promise<{ lines: number; foreseen: number }> {
  const db = getDb();
  const total = { lines: 0, foreseen: 0 };
  await inLanes(measured, (ids) =>
    db.transact(async (tx) => {
      const lines = await fitMachines(ids, now, tx);
      total.lines += lines;
      said(total.lines);
    }),
  );
  // What pieces have in common is known now, and the same for all.
  const pools = new Pools();
  await inLanes(measured, (ids) =>
    db.transact(async (tx) => {
      const foreseen = await foreseeMachines(ids, now, { tx, pools });
      total.foreseen += foreseen;
      await assessWaiting(ids, now, tx);
    }),
  );
  return total;
}
