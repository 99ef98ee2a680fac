/**
 * Sums the stock's ledger anew and holds it against the running sums, and what is booked for sheets against their logs: one
 * line a difference, exit code 1 when there is any.
 */
import { verifyUses } from "../app/sheet/log/verify-uses.server";
import { verifyCosts, verifyStock } from "../app/stores/ledger/ledger.server";
import { getDb } from "../db/index";

const differences = await verifyStock();
for (const { itemId, placeId, ledger, sum } of differences)
  process.stdout.write(`${itemId} at ${placeId}: the ledger says ${ledger}, the sum ${sum}\n`);
const costs = await verifyCosts();
for (const { month, machineId } of costs)
  process.stdout.write(`costs of ${machineId} in ${month} differ from the ledger\n`);
const uses = await verifyUses();
for (const { sheetId, item, log, ledger } of uses)
  process.stdout.write(`sheet ${sheetId}: its log took ${log} of ${item}, the ledger booked ${ledger}\n`);
const all = differences.length + costs.length + uses.length;
process.stdout.write(all === 0 ? "The stock is what its ledger says.\n" : `${all} differences.\n`);
await getDb().close();
process.exitCode = all === 0 ? 0 : 1;
