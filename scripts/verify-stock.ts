/** Sums the stock's ledger anew and holds it against the running sums: one line a difference, exit code 1 when there is any. */
import { getDb } from "../db/index";
import { verifyStock } from "../app/services/stores/ledger.server";

const differences = await verifyStock();
for (const { itemId, placeId, ledger, sum } of differences) process.stdout.write(`${itemId} at ${placeId}: the ledger says ${ledger}, the sum ${sum}\n`);
process.stdout.write(differences.length === 0 ? "The stock is what its ledger says.\n" : `${differences.length} differences.\n`);
await getDb().close();
process.exitCode = differences.length === 0 ? 0 : 1;
