/** Recomputes the chain of records from what the tables hold now: one line a fault, exit code 1 when there is any. */
import { verifyChain } from "../app/kit/server/record-chain.server";
import { getDb } from "../db/index";

const { entries, faults } = await verifyChain();
for (const { seq, subjectId, what } of faults) process.stdout.write(`no. ${seq} ${subjectId}: ${what}\n`);
process.stdout.write(
  faults.length === 0 ? `${entries} entries, the chain is whole.\n` : `${entries} entries, ${faults.length} faults.\n`,
);
await getDb().close();
process.exitCode = faults.length === 0 ? 0 : 1;
