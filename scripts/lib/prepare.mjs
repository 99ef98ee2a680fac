/** What `npm run demo` and `npm test` share: Node's version, packages, a build for the present sources. */
import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { promisify } from "node:util";
import { brotliCompress, constants, gzip } from "node:zlib";

import { fail, runQuietly, say } from "./system.mjs";

const OLDEST_NODE = [20, 19];
const KEPT_BUILDS = 3;
/** What the built app is made of. */
const SOURCES = [
  "app",
  "core",
  "db",
  "server",
  "public",
  "package-lock.json",
  "react-router.config.ts",
  "vite.config.ts",
  "tsconfig.json",
];

export function checkNode() {
  const [major, minor] = process.versions.node.split(".").map(Number);
  if (major < OLDEST_NODE[0] || (major === OLDEST_NODE[0] && minor < OLDEST_NODE[1])) {
    fail(`Node ${process.versions.node} is too old. Node ${OLDEST_NODE.join(".")} or newer is needed.`);
  }
}

/** Runs `npm ci` when packages are missing or the lock has changed since. */
export async function ensurePackages() {
  const lock = hashOf([readFileSync("package-lock.json")]);
  const stamp = "node_modules/.hound-lock";
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === lock) return;
  const npm =
    process.env.npm_execpath && process.env.npm_execpath.endsWith(".js")
      ? [process.execPath, process.env.npm_execpath]
      : ["npm"];
  const done = await runQuietly(
    "Installing packages (a minute or two)",
    npm[0],
    [...npm.slice(1), "ci", "--include=dev", "--no-audit", "--no-fund"],
    {
      env: { ...process.env, NODE_ENV: "development" },
    },
  );
  if (!done)
    fail("the packages could not be installed. Is this machine connected to the npm registry? See the output above.");
  writeFileSync(stamp, lock);
}

/**
 * A build of the present sources in a folder named after them: a running app keeps its own when the sources change.
 * @returns {Promise<string>} the folder
 */
export async function ensureBuild() {
  const name = sourceHash().slice(0, 12);
  const folder = join("build", name);
  if (!existsSync(join(folder, "ready"))) {
    rmSync(folder, { recursive: true, force: true });
    mkdirSync(folder, { recursive: true });
    const done = await runQuietly(
      "Building the app",
      process.execPath,
      ["node_modules/@react-router/dev/bin.js", "build"],
      {
        env: { ...process.env, NODE_ENV: "production", HOUND_BUILD_DIR: folder },
      },
    );
    if (!done) fail("the app could not be built. See the output above.");
    await buildWorker(join(folder, "server/aside-worker.js"));
    await compressAll(join(folder, "client/assets"));
    writeFileSync(join(folder, "ready"), "");
  }
  writeFileSync("build/latest", folder);
  pruneBuilds(name);
  return folder;
}

/** Searches and files are worked on in worker threads of the server: their code is one file beside it. */
async function buildWorker(outfile) {
  const { build } = await import("esbuild");
  await build({
    entryPoints: ["app/shell/aside.worker.ts"],
    outfile,
    bundle: true,
    platform: "node",
    format: "esm",
    target: "node20",
    packages: "external",
    logLevel: "warning",
  });
}

function sourceHash() {
  const parts = [];
  const walk = (path) => {
    if (statSync(path).isDirectory()) {
      for (const entry of readdirSync(path).sort()) walk(join(path, entry));
    } else if (!/\.test\.tsx?$/.test(path)) parts.push(path, readFileSync(path));
  };
  for (const source of SOURCES) walk(source);
  return hashOf(parts);
}

function hashOf(parts) {
  const hash = createHash("sha256");
  for (const part of parts) hash.update(part);
  return hash.digest("hex");
}

function pruneBuilds(current) {
  const others = readdirSync("build")
    .filter((name) => name !== current && existsSync(join("build", name, "ready")))
    .sort((a, b) => statSync(join("build", b)).mtimeMs - statSync(join("build", a)).mtimeMs);
  for (const name of others.slice(KEPT_BUILDS - 1)) rmSync(join("build", name), { recursive: true, force: true });
}

/** Runs a TypeScript script with its output shown. */
export function runScript(script, args, env) {
  const { status } = spawnSync(process.execPath, ["--import", "tsx", script, ...args], {
    stdio: "inherit",
    env: { ...process.env, ...env },
  });
  if (status !== 0) fail(`${script} failed. See the output above.`);
}

export { say };

/** Files worth it are compressed once, when they are built, not with every page that asks for them. */
async function compressAll(folder) {
  const files = readdirSync(folder, { recursive: true }).filter((file) => /\.(js|css|svg|json|wasm)$/.test(file));
  for (const file of files) {
    const content = readFileSync(join(folder, file));
    if (content.length < 1024) continue;
    const params = { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_SIZE_HINT]: content.length };
    writeFileSync(join(folder, `${file}.br`), await promisify(brotliCompress)(content, { params }));
    writeFileSync(join(folder, `${file}.gz`), await promisify(gzip)(content, { level: 9 }));
  }
}
