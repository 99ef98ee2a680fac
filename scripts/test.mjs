/**
 * `npm test`: the same preparation as the demo with a database and ports of its own, then types, lint, import
 * boundaries, unit, integration (real MariaDB) and browser tests. Ends with "N passed, N failed".
 * `npm test -- unit` (or types, lint, boundaries, integration, browser) runs a part; `npm run soak` runs the drawn and the
 * browser tests for longer, `npm run soak -- cluster`, `-- network`, `-- copies`, `-- crash`, `-- hostile` and `-- pace` trials of minutes.
 */
import { spawn } from "node:child_process";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { fileURLToPath } from "node:url";

import { readSchema, startMariaDb, writeSchema } from "./lib/mariadb.mjs";
import { checkNode, ensureBuild, ensurePackages, runScript, say } from "./lib/prepare.mjs";
import { ensureBrowser, ensureDebianPackages, fail, freePort, isAlive, sleep } from "./lib/system.mjs";

const FOLDER = ".data/test";
/** Suites on the database at a time, each with a schema of its own. */
const INTEGRATION_WORKERS = 2;
const RESULTS = `${FOLDER}/results`;
/** The demo firm as it was loaded for the first lane of browser tests: the others read it, instead of living through its year. */
const DEMO = `${FOLDER}/demo.sql`;
const node = process.execPath;

process.chdir(fileURLToPath(new URL("..", import.meta.url)));
const wanted = process.argv.slice(2);
const soak = wanted.includes("soak");
/** Trials of minutes with an app of their own. */
const SOAKS = ["cluster", "copies", "crash", "hostile", "network", "pace"];
const wants = (part) => wanted.length === 0 || wanted.includes(part) || (soak && ["unit", "browser"].includes(part));
/** Told to drawn tests, which then draw more, and to the browser's, which then are the long ones. */
const SOAK = soak ? { HOUND_SOAK: "1" } : {};
/** The day of its loading, by UTC: what stands in it is so many days before. */
let demoDay = "";
const totals = { passed: 0, failed: 0 };

say("Preparing");
checkNode();
mkdirSync(RESULTS, { recursive: true });
await ensureDebianPackages({
  mariadbd: "mariadb-server",
  "mariadb-dump": "mariadb-client",
  pdftotext: "poppler-utils",
});
const browser = await ensureBrowser();
await ensurePackages();
const long = SOAKS.find((name) => soak && wanted.includes(name));
if (long)
  process.exit(
    await run([node, "--import", "tsx", `scripts/soak/${long}.ts`], { HOUND_BUILD_DIR: await ensureBuild() }),
  );

// The linter asks for types, the routes' among them. After those, what is independent goes side by side: the linter beside
// types and what else reads the sources, then unit tests, two suites on the database, and two firms in two browsers.
if (wants("types") || wants("lint"))
  await runCounted("Types: route types", [node, "node_modules/@react-router/dev/bin.js", "typegen"], {
    quietWhenGood: true,
  });
const database = wants("integration") || wants("browser") ? await startMariaDb(FOLDER, 33630, "hound_test") : null;
try {
  await Promise.all([lint(), typesAndBoundaries()]);
  if (wants("unit")) await jest("Unit tests", "unit", ["--maxWorkers=2"], SOAK);
  if (wants("integration")) await integration();
  if (wants("browser")) await browserTests();
} finally {
  await database?.stop();
}

say(`\n${totals.passed} passed, ${totals.failed} failed`);
process.exit(totals.failed > 0 ? 1 : 0);

async function lint() {
  if (wants("lint"))
    await runCounted("Lint", [node, "scripts/lint.mjs"], {
      quietWhenGood: true,
    });
}

async function integration() {
  for (let worker = 1; worker <= INTEGRATION_WORKERS; worker++) await freshSchema(`hound_integration_${worker}`);
  await jest("Integration tests", "integration", [`--maxWorkers=${INTEGRATION_WORKERS}`], {
    DATABASE_URL: database.url("hound_integration"),
  });
}

async function typesAndBoundaries() {
  // The native compiler finds the same faults in a fifth of the time; the linter works with the one before it.
  if (wants("types"))
    await runCounted("Types", [node, "node_modules/typescript-7/bin/tsc", "--noEmit"], { quietWhenGood: true });
  if (wants("boundaries")) {
    const cruiser = [
      node,
      "node_modules/dependency-cruiser/bin/dependency-cruise.mjs",
      "--config",
      ".dependency-cruiser.cjs",
    ];
    await runCounted("Import boundaries", [...cruiser, "core", "db", "app", "server", "standins", "scripts"], {
      quietWhenGood: true,
    });
    await runCounted("Unused code", [node, "node_modules/knip/bin/knip.js"], { quietWhenGood: true });
  }
  if (wants("lint"))
    await runCounted("Formatting", [node, "node_modules/oxfmt/bin/oxfmt", "--check", "."], { quietWhenGood: true });
}

async function browserTests() {
  const build = await ensureBuild();
  const supplierPort = await freePort(7485);
  const roadsPort = await freePort(7495);
  const postPort = await freePort(7465);
  const smtpPort = await freePort(7468);
  const outside = [
    ["standins/supplier.mjs", supplierPort],
    ["standins/roads.mjs", roadsPort],
    ["standins/post.mjs", postPort],
  ].map(([script, port]) =>
    spawn(node, [script], {
      stdio: "ignore",
      env: { ...process.env, PORT: String(port), SMTP_PORT: String(smtpPort) },
    }),
  );
  const shared = {
    HOUND_DEMO: "1",
    HOUND_BUILD_DIR: build,
    SUPPLIER_URL: `http://127.0.0.1:${supplierPort}`,
    ROADS_URL: `http://127.0.0.1:${roadsPort}`,
    SMTP_URL: `smtp://127.0.0.1:${smtpPort}`,
    POST_URL: `http://127.0.0.1:${postPort}`,
    LOG_LEVEL: "warn",
    // One machine plays everybody.
    SIGN_IN_PER_ADDRESS: "100000",
    // Browser tests move a device's clock on instead of waiting out a soak.
    HOUND_CLOCK_SLACK_MIN: "600",
    HOUND_SAY_TIME: "0",
  };
  const only = process.env.HOUND_BROWSER_TESTS?.split(" ");
  const lanes = soak || only ? { all: only ?? [] } : browserLanes();
  const ready = [];
  rmSync(DEMO, { force: true });
  // Ports and demo data one after the other, the tests side by side.
  for (const [name, specs] of Object.entries(lanes)) ready.push(await startFirm(name, specs, shared));
  await Promise.all(ready.map(browserLane));
  for (const one of outside) one.kill("SIGTERM");
}

/**
 * Two firms of their own, each with a browser that walks through its tests in order: about as long as each other. A new
 * spec goes with the first.
 */
function browserLanes() {
  const second = [
    "access",
    "adding",
    "alarm",
    "database",
    "editor",
    "first-steps",
    "left",
    "locks",
    "measure",
    "people",
    "practice",
    "procedures",
    "register",
    "stores",
    "totals",
    "views",
    "wear",
    "wrong-requests",
  ].map((one) => `${one}.spec.ts`);
  const all = readdirSync("e2e").filter((file) => file.endsWith(".spec.ts"));
  return {
    a: all.filter((file) => !second.includes(file)).map((file) => `e2e/${file}`),
    b: second.map((file) => `e2e/${file}`),
  };
}

async function startFirm(name, specs, shared) {
  const port = await freePort(7430);
  const env = { ...shared, DATABASE_URL: await freshSchema(`hound_browser_${name}`), PORT: String(port) };
  if (existsSync(DEMO)) readSchema(env.DATABASE_URL, DEMO);
  else {
    demoDay = new Date().toISOString().slice(0, 10);
    runScript("scripts/load-demo.ts", [], env);
    writeSchema(env.DATABASE_URL, DEMO);
  }
  const app = spawn(node, ["server.js"], { stdio: ["ignore", "inherit", "inherit"], env: { ...process.env, ...env } });
  const baseUrl = `http://127.0.0.1:${port}`;
  for (let waited = 0; !(await healthy(baseUrl)); waited += 100) {
    if (waited > 60_000 || !isAlive(app.pid)) fail("the app did not come up for the browser tests.");
    await sleep(100);
  }
  return { name, specs, app, baseUrl, env };
}

async function browserLane({ name, specs, app, baseUrl, env }) {
  const file = `${RESULTS}/browser-${name}.json`;
  rmSync(file, { force: true });
  const code = await run([node, "node_modules/@playwright/test/cli.js", "test", ...specs], {
    CHROMIUM: browser,
    BASE_URL: baseUrl,
    ...SOAK,
    DATABASE_URL: env.DATABASE_URL,
    HOUND_BUILD_DIR: env.HOUND_BUILD_DIR,
    POST_URL: env.POST_URL,
    HOUND_DEMO_SQL: DEMO,
    HOUND_DEMO_DAY: demoDay,
    HOUND_TEST_OUTPUT: `test-results/${name}`,
    PLAYWRIGHT_JSON_OUTPUT_FILE: file,
  });
  if (existsSync(file)) {
    const { stats } = JSON.parse(readFileSync(file, "utf8"));
    add(`Browser tests (${name})`, stats.expected, stats.unexpected + stats.flaky + stats.skipped);
    if (code !== 0 && stats.unexpected + stats.flaky + stats.skipped === 0) add("Browser tests' runner", 0, 1);
  } else add(`Browser tests (${name})`, 0, 1);
  const gone = new Promise((resolve) => app.once("exit", resolve));
  app.kill("SIGTERM");
  await gone;
}

async function jest(label, project, more, env) {
  const file = `${RESULTS}/${project}.json`;
  rmSync(file, { force: true });
  const code = await run(
    [node, "node_modules/jest/bin/jest.js", "--selectProjects", project, "--json", `--outputFile=${file}`, ...more],
    {
      ...env,
      NODE_ENV: "test",
    },
  );
  if (!existsSync(file)) return add(label, 0, 1);
  const result = JSON.parse(readFileSync(file, "utf8"));
  // A suite that could not even start has no failed test of its own; a skipped test is one left behind.
  const failed =
    result.numFailedTests + result.numRuntimeErrorTestSuites + result.numPendingTests + result.numTodoTests;
  add(label, result.numPassedTests, failed === 0 && code !== 0 ? 1 : failed);
}

async function runCounted(label, command, options) {
  const code = await run(command, {}, options.quietWhenGood);
  add(label, code === 0 ? 1 : 0, code === 0 ? 0 : 1);
}

function add(label, passed, failed) {
  totals.passed += passed;
  totals.failed += failed;
  say(`${label}: ${passed} passed, ${failed} failed, at ${Math.round(process.uptime())} s`);
}

function run(command, env, quietWhenGood = false) {
  return new Promise((resolve) => {
    const child = spawn(command[0], command.slice(1), {
      stdio: ["ignore", quietWhenGood ? "pipe" : "inherit", quietWhenGood ? "pipe" : "inherit"],
      env: { ...process.env, ...env },
    });
    let output = "";
    child.stdout?.on("data", (chunk) => (output += chunk));
    child.stderr?.on("data", (chunk) => (output += chunk));
    child.on("close", (code) => {
      if (code !== 0 && output) process.stdout.write(output);
      resolve(code ?? 1);
    });
  });
}

async function healthy(baseUrl) {
  return fetch(`${baseUrl}/readyz`).then(
    (response) => response.ok,
    () => false,
  );
}

/** Drops and makes a schema on the test server: every run begins empty. */
async function freshSchema(name) {
  const { createConnection } = await import("mysql2/promise");
  const connection = await createConnection(database.url());
  await connection.query(`DROP DATABASE IF EXISTS ${name}`);
  await connection.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
  await connection.end();
  return database.url(name);
}
