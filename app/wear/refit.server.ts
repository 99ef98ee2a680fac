import { getDb } from "@db";

import { fitMachines } from "./fit-lines.server";
import { assessWaiting, foreseeMachines, Pools } from "./foresee.server";
import * as sql from "./wear.sql";

const CHUNK = 200;
/** Parts worked on at once: while one waits for the database, another is worked out. */
const LANES = 4;

/** Ids of the machines of which anything is measured, some at a time. */
function machinesMeasured(): () => Promise<string[]> {
  let after = "";
  let reading: Promise<string[]> = Promise.resolve([]);
  return () => {
    reading = reading.then(async () => {
      const rows = await sql.measuredMachines({ after, limit: CHUNK });
      after = rows.at(-1)?.machineId ?? after;
      return rows.map((row) => row.machineId);
    });
    return reading;
  };
}

async function inLanes(work: (ids: string[]) => Promise<void>): Promise<void> {
  const next = machinesMeasured();
  const lane = async (): Promise<void> => {
    for (let ids = await next(); ids.length > 0; ids = await next()) await work(ids);
  };
  await Promise.all(Array.from({ length: LANES }, lane));
}

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
  await inLanes((ids) =>
    db.transact(async (tx) => {
      const lines = await fitMachines(ids, now, tx);
      total.lines += lines;
      said(total.lines);
    }),
  );
  // What pieces have in common is known now, and the same for all.
  const pools = new Pools();
  await inLanes((ids) =>
    db.transact(async (tx) => {
      const foreseen = await foreseeMachines(ids, now, { tx, pools });
      total.foreseen += foreseen;
      await assessWaiting(ids, now, tx);
    }),
  );
  return total;
}
