/** `npm run bench`: times of the core and of the services, warm, in one process, one request at a time. Reported, never asserted. */
import { fileURLToPath } from "node:url";
import { startMariaDb } from "./lib/mariadb.mjs";
import { checkNode, ensurePackages, runScript, say } from "./lib/prepare.mjs";
import { ensureDebianPackages } from "./lib/system.mjs";

process.chdir(fileURLToPath(new URL("..", import.meta.url)));
checkNode();
say("Preparing");
await ensureDebianPackages({ mariadbd: "mariadb-server" });
await ensurePackages();
const database = await startMariaDb(".data/bench", 33640, "hound_bench");
try {
  runScript("scripts/bench.ts", process.argv.slice(2), { DATABASE_URL: database.url(), NODE_ENV: "production" });
} finally {
  await database.stop();
}
