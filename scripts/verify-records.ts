/**
 * Recomputes the chain of records from what the tables hold now: one line a fault, exit code 1 when there is any.
 *
 *     npm run verify-records -- --keep last-record.json      keeps where the chain ends, when it is whole
 *     npm run verify-records -- --against last-record.json   holds it against what was kept: an older copy shows
 *
 * A file that is kept where the database is not is what an older copy of the database cannot bring back with it.
 */
import { readFileSync, renameSync, writeFileSync } from "node:fs";

import { chainEnd, lostSince, readKeptEnd, verifyChain } from "../app/kit/server/record-chain.server";
import { getDb } from "../db/index";

const fileOf = (option: string): string | null => {
  const at = process.argv.indexOf(option);
  if (at === -1) return null;
  const file = process.argv[at + 1];
  if (!file || file.startsWith("--")) throw new Error(`${option} needs a file.`);
  return file;
};
const [keep, against] = [fileOf("--keep"), fileOf("--against")];

const { entries, faults } = await verifyChain();
if (against !== null) faults.push(...(await lostSince(readKeptEnd(readFileSync(against, "utf8")))));
for (const { seq, subjectId, what } of faults) process.stdout.write(`no. ${seq} ${subjectId}: ${what}\n`);
process.stdout.write(
  faults.length === 0 ? `${entries} entries, the chain is whole.\n` : `${entries} entries, ${faults.length} faults.\n`,
);
const end = await chainEnd();
if (keep !== null && faults.length === 0 && end !== null) {
  // All of it or none: half a file would be no proof of anything.
  writeFileSync(`${keep}.new`, `${JSON.stringify({ ...end, keptAt: new Date().toISOString() })}\n`);
  renameSync(`${keep}.new`, keep);
  process.stdout.write(`Kept: it ends at no. ${end.seq}.\n`);
}
await getDb().close();
process.exitCode = faults.length === 0 ? 0 : 1;
