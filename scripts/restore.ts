/**
 * Reads a copy into the empty database of DATABASE_URL, and holds it against what was written beside it.
 *
 *     npm run restore -- FOLDER/hound-….json
 *     npm run restore -- FOLDER/hound-….json --logs DATAFOLDER --until 2026-11-30T14:55:00Z   and what came after, up to then
 */
import { parseArgs } from "node:util";

import { lostSince, verifyChain } from "../app/kit/server/record-chain.server";
import { NotRestored, restore } from "../db/copies/restore";
import { getDb, pendingMigrations } from "../db/index";

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { logs: { type: "string" }, until: { type: "string" } },
});
const [manifest] = positionals;
const { logs, until } = values;
const url = process.env.DATABASE_URL;
const moment = until === undefined ? null : new Date(until);
const isAsked = (logs === undefined) === (until === undefined) && !(moment && Number.isNaN(moment.getTime()));
if (!manifest || !url || !isAsked) {
  process.stderr.write(
    "Use: DATABASE_URL=mysql://… npm run restore -- COPY.json [--logs FOLDER --until 2026-11-30T14:55:00Z]\n",
  );
  process.exit(2);
}
const began = Date.now();
const later = logs !== undefined && moment ? { folder: logs, until: moment } : null;
const copy = await restore(url, manifest, later).catch((error: unknown) => {
  const { message } = error as Error;
  // What was begun is in a database that was empty: it can be dropped.
  const half =
    error instanceof NotRestored ? "" : "\nWhat was read until then is there: drop the database and make it anew.";
  process.stderr.write(`Not restored: ${message}${half}\n`);
  process.exit(1);
});
process.stdout.write(`Read in ${((Date.now() - began) / 1000).toFixed(1)} s.\n`);
const { entries, faults } = await verifyChain();
if (copy.chain) faults.push(...(await lostSince(copy.chain)));
for (const { seq, subjectId, what } of faults) process.stdout.write(`no. ${seq} ${subjectId}: ${what}\n`);
process.stdout.write(
  faults.length === 0
    ? `${entries} records in the chain, which is whole and has what the copy was to have.\n`
    : `${faults.length} faults in the chain of records.\n`,
);
const pending = await pendingMigrations(getDb().sequelize);
if (pending.length > 0) process.stdout.write("It is of an older version. Run now: npm run migrate\n");
await getDb().close();
process.exitCode = faults.length === 0 ? 0 : 1;
