/**
 * `npm run demo`: installs what is missing, starts a private MariaDB, loads the demo firm once and serves the app.
 * `npm run demo -- --fresh` loads it anew with today's dates. Ctrl-C or SIGTERM stops all of it cleanly.
 */
import { spawn } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";

import { startMariaDb } from "./lib/mariadb.mjs";
import { checkNode, ensureBuild, ensurePackages, runScript, say } from "./lib/prepare.mjs";
import { ensureDebianPackages, fail, freePort, isAlive, sleep } from "./lib/system.mjs";

const FOLDER = ".data/demo";
const STATE = `${FOLDER}/demo.json`;
const WANTED_PORT = Number(process.env.PORT ?? 7420);
const WANTED_DB_PORT = 33620;
const WANTED_GATEWAY_PORT = 7480;
const WANTED_ROADS_PORT = 7490;
const WANTED_SUPPLIER_PORT = 7485;
const WANTED_POST_PORT = 7470;
const WANTED_SMTP_PORT = 7475;
const RESTART_LIMIT = 5;
const DAY_MS = 86_400_000;

process.chdir(fileURLToPath(new URL("..", import.meta.url)));
checkNode();
mkdirSync(FOLDER, { recursive: true });
const running = readState();
if (running && !running.stopping) {
  say(`The demo is running already: ${running.address}`);
  process.exit(0);
}
// One that is stopping still holds the database.
for (let waited = 0; readState() && waited < 30_000; waited += 200) await sleep(200);

say("Preparing");
await ensureDebianPackages({ mariadbd: "mariadb-server" });
await ensurePackages();
const build = await ensureBuild();
let database = await startMariaDb(FOLDER, WANTED_DB_PORT);
const gatewayPort = await freePort(WANTED_GATEWAY_PORT);
const roadsPort = await freePort(WANTED_ROADS_PORT);
const supplierPort = await freePort(WANTED_SUPPLIER_PORT);
const smtpPort = await freePort(WANTED_SMTP_PORT);
const postPort = await freePort(WANTED_POST_PORT);
const env = {
  HOUND_DEMO: "1",
  DATABASE_URL: database.url(),
  HOUND_BUILD_DIR: build,
  LOG_LEVEL: process.env.LOG_LEVEL ?? "warn",
  GATEWAY_URL: `http://127.0.0.1:${gatewayPort}`,
  ROADS_URL: `http://127.0.0.1:${roadsPort}`,
  SUPPLIER_URL: `http://127.0.0.1:${supplierPort}`,
  SMTP_URL: `smtp://127.0.0.1:${smtpPort}`,
};
// Before the data: the first day is planned with its ferries.
const roads = spawn(process.execPath, ["standins/roads.mjs"], {
  stdio: "ignore",
  env: { ...process.env, PORT: String(roadsPort) },
});
runScript("scripts/load-demo.ts", ["--with-day", ...(process.argv.includes("--fresh") ? ["--fresh"] : [])], env);

const supplier = spawn(process.execPath, ["standins/supplier.mjs"], {
  stdio: "ignore",
  env: { ...process.env, PORT: String(supplierPort) },
});
const post = spawn(process.execPath, ["standins/post.mjs"], {
  stdio: "ignore",
  env: { ...process.env, PORT: String(postPort), SMTP_PORT: String(smtpPort) },
});
const gateway = spawn(process.execPath, ["standins/gateway.mjs"], {
  stdio: "ignore",
  env: {
    ...process.env,
    PORT: String(gatewayPort),
    BEGIN_H: "5440",
    START_MS: String(gatewayStart(process.argv.includes("--fresh"))),
  },
});
const port = await freePort(WANTED_PORT);
const address = `http://127.0.0.1:${port}`;
let stopping = false;
let restarts = 0;
let app = startApp();
await waitUntilHealthy();
writeFileSync(STATE, JSON.stringify({ pid: process.pid, address }));
say(`
Humble Hound is ready:  ${address}

  technician   mira    password  harbour-demo-1
  lead         jonas   password  harbour-demo-1

Messages to customers are kept and shown at http://127.0.0.1:${postPort}

Stop with Ctrl-C. The data stays in ${FOLDER}; load it anew with: npm run demo -- --fresh`);

for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"]) process.on(signal, () => void stop(0));

// A database that dies (power, kill -9) is started again: InnoDB recovers by itself, and the app reconnects.
while (!stopping) {
  await sleep(500);
  if (!stopping && !isAlive(database.pid)) {
    say("The database stopped; starting it again.");
    database = await startMariaDb(FOLDER, database.port);
    if (database.url() !== env.DATABASE_URL) {
      env.DATABASE_URL = database.url();
      app.kill("SIGTERM");
    }
  }
}

function startApp() {
  const child = spawn(process.execPath, ["server.js"], {
    stdio: ["ignore", "inherit", "inherit"],
    env: { ...process.env, ...env, PORT: String(port) },
    detached: true,
  });
  child.on("exit", (code, signal) => {
    if (stopping) return;
    restarts += 1;
    if (restarts > RESTART_LIMIT) {
      say(`The app stopped ${restarts} times (last: ${signal ?? code}). Giving up.`);
      void stop(1);
      return;
    }
    say(`The app stopped (${signal ?? code}); starting it again.`);
    setTimeout(() => {
      if (!stopping) app = startApp();
    }, 500);
  });
  return child;
}

async function waitUntilHealthy() {
  for (let waited = 0; waited < 60_000; waited += 100) {
    const ok = await fetch(`${address}/readyz`).then(
      (response) => response.ok,
      () => false,
    );
    if (ok) return;
    await sleep(100);
  }
  fail("the app did not come up within a minute. Its messages are above.");
}

async function stop(code) {
  if (stopping) return;
  stopping = true;
  writeFileSync(STATE, JSON.stringify({ pid: process.pid, address, stopping }));
  say("\nStopping: the app first, then its database.");
  if (app.exitCode === null && app.signalCode === null) {
    const gone = new Promise((resolve) => app.once("exit", resolve));
    app.kill("SIGTERM");
    await Promise.race([gone, sleep(12_000)]);
  }
  gateway.kill("SIGTERM");
  roads.kill("SIGTERM");
  supplier.kill("SIGTERM");
  post.kill("SIGTERM");
  await database.stop();
  rmSync(STATE, { force: true });
  process.exit(code);
}

/** The simulated controllers go on where they stood: their time begins with the demo's data, not with each start. */
function gatewayStart(fresh) {
  const file = `${FOLDER}/gateway-start`;
  if (!fresh && existsSync(file)) return Number(readFileSync(file, "utf8"));
  const start = Math.floor(Date.now() / DAY_MS) * DAY_MS - 14 * DAY_MS;
  writeFileSync(file, String(start));
  return start;
}

function readState() {
  try {
    const state = JSON.parse(readFileSync(STATE, "utf8"));
    return isAlive(state.pid) ? state : null;
  } catch {
    return null;
  }
}
