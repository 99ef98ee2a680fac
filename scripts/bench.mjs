/** `npm run bench`: times of the core and of the services, warm, in one process, one request at a time. Reported, never asserted.
 * `npm run bench -- core` or `-- register` runs a part. */
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
  const env = { DATABASE_URL: database.url(), NODE_ENV: "production" };
  const wanted = process.argv.slice(2);
  if (wanted.length === 0 || wanted.includes("core")) runScript("scripts/bench.ts", [], env);
  if (wanted.length === 0 || wanted.includes("register")) runScript("scripts/bench-register.ts", [], env);
} finally {
  await database.stop();
}
