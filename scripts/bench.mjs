/** `npm run bench`: times of the core and of the services, warm, in one process, one request at a time. Reported, never asserted.
 * `npm run bench -- core`, `-- growth`, `-- records`, `-- register`, `-- sheets`, `-- stores`, `-- visits`, `-- wear` or `-- week` runs a part. */
import { spawn } from "node:child_process";
import { fileURLToPath } from "node:url";

import { startMariaDb } from "./lib/mariadb.mjs";
import { checkNode, ensureBuild, ensurePackages, runScript, say } from "./lib/prepare.mjs";
import { ensureBrowser, ensureDebianPackages, freePort } from "./lib/system.mjs";

process.chdir(fileURLToPath(new URL("..", import.meta.url)));
checkNode();
say("Preparing");
await ensureDebianPackages({ mariadbd: "mariadb-server" });
await ensurePackages();
const database = await startMariaDb(".data/bench", 33640, "hound_bench");
try {
  const env = { DATABASE_URL: database.url(), NODE_ENV: "production", CHROMIUM: await ensureBrowser() };
  const wanted = process.argv.slice(2);
  if (wanted.length === 0 || wanted.includes("core")) runScript("scripts/bench.ts", [], env);
  if (wanted.length === 0 || wanted.includes("growth")) runScript("scripts/bench-growth.ts", [], env);
  if (wanted.length === 0 || wanted.includes("register")) runScript("scripts/bench-register.ts", [], env);
  if (wanted.length === 0 || wanted.includes("records")) runScript("scripts/bench-records.ts", [], env);
  if (wanted.length === 0 || wanted.includes("stores")) runScript("scripts/bench-stores.ts", [], env);
  if (wanted.length === 0 || wanted.includes("wear")) runScript("scripts/bench-wear.ts", [], env);
  if (wanted.length === 0 || wanted.includes("visits")) {
    runScript("scripts/bench-visits.ts", [], env);
    runScript("scripts/bench-browser-visits.ts", [], env);
  }
  if (wanted.length === 0 || wanted.includes("sheets"))
    await withApp("hound_sheets", env, (app) => runScript("scripts/bench-sheets.ts", [], app));
  if (wanted.length === 0 || wanted.includes("bundles"))
    await withApp(
      "hound_bundles",
      { ...env, HOUND_DEMO: "1" },
      (app) => runScript("scripts/bench-bundles.ts", [], app),
      "scripts/load-demo.ts",
    );
  if (wanted.length === 0 || wanted.includes("week")) {
    const week = { ...env, DATABASE_URL: await freshSchema("hound_week"), HOUND_DEMO: "1" };
    runScript("scripts/load-demo.ts", [], week);
    runScript("scripts/demo-week.ts", [], week);
  }
} finally {
  await database.stop();
}

/** A schema of its own and one app process on it, as in production; `prepared` by a script. */
async function withApp(name, env, work, prepared = "scripts/migrate.ts") {
  const schema = await freshSchema(name);
  const port = await freePort(7440);
  const url = `http://127.0.0.1:${port}`;
  const app = {
    ...env,
    DATABASE_URL: schema,
    PORT: String(port),
    LOG_LEVEL: "warn",
    SIGN_IN_PER_ADDRESS: "100000",
    HOUND_BUILD_DIR: await ensureBuild(),
  };
  runScript(prepared, [], app);
  const server = spawn(process.execPath, ["server.js"], {
    stdio: ["ignore", "inherit", "inherit"],
    env: { ...process.env, ...app },
  });
  const answers = () =>
    fetch(`${url}/readyz`).then(
      (response) => response.ok,
      () => false,
    );
  while (!(await answers())) await new Promise((resolve) => setTimeout(resolve, 100));
  try {
    await work({ ...app, BASE_URL: url });
  } finally {
    server.kill("SIGTERM");
  }
}

/** An empty schema on the bench's server. */
async function freshSchema(name) {
  const { createConnection } = await import("mysql2/promise");
  const connection = await createConnection(database.url());
  await connection.query(`DROP DATABASE IF EXISTS ${name}`);
  await connection.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
  await connection.end();
  return database.url(name);
}
