/** Sums the stock's ledger anew and holds it against the running sums: one line a difference, exit code 1 when there is any. */
import { verifyCosts, verifyStock } from "../app/stores/ledger/ledger.server";
import { getDb } from "../db/index";

const differences = await verifyStock();
for (const { itemId, placeId, ledger, sum } of differences)
  process.stdout.write(`${itemId} at ${placeId}: the ledger says ${ledger}, the sum ${sum}\n`);
const costs = await verifyCosts();
for (const { month, machineId } of costs)
  process.stdout.write(`costs of ${machineId} in ${month} differ from the ledger\n`);
const all = differences.length + costs.length;
process.stdout.write(all === 0 ? "The stock is what its ledger says.\n" : `${all} differences.\n`);
await getDb().close();
process.exitCode = all === 0 ? 0 : 1;
