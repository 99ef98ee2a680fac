/** Debian packages and plain child processes, with nothing but Node: this runs before `npm ci`. */
import { spawn, spawnSync } from "node:child_process";
import { existsSync } from "node:fs";
import { createServer } from "node:net";

export const say = (text) => process.stdout.write(`${text}\n`);

/** Ends with a message a person can act on, without a stack. */
export function fail(text) {
  process.stderr.write(`\nCannot go on: ${text}\n`);
  process.exit(1);
}

const PLACES = ["/usr/sbin", "/usr/bin", "/usr/local/sbin", "/usr/local/bin"];

/** Full path of a program; servers live in /usr/sbin, which is not on an ordinary user's PATH. */
export function findProgram(name) {
  for (const place of [...PLACES, ...(process.env.PATH ?? "").split(":")]) {
    if (place && existsSync(`${place}/${name}`)) return `${place}/${name}`;
  }
  return null;
}

/** Runs a command, its output kept and shown only when it fails; prints a dot every few seconds meanwhile. */
export async function runQuietly(label, command, args, options = {}) {
  process.stdout.write(`  ${label} `);
  const started = Date.now();
  const child = spawn(command, args, { ...options, stdio: ["ignore", "pipe", "pipe"] });
  let output = "";
  child.stdout.on("data", (chunk) => (output += chunk));
  child.stderr.on("data", (chunk) => (output += chunk));
  const dots = setInterval(() => process.stdout.write("."), 3000);
  const code = await new Promise((resolve) => {
    child.on("error", (error) => {
      output += String(error);
      resolve(-1);
    });
    child.on("close", resolve);
  });
  clearInterval(dots);
  const seconds = ((Date.now() - started) / 1000).toFixed(0);
  process.stdout.write(code === 0 ? ` done (${seconds} s)\n` : " failed\n");
  if (code !== 0) process.stderr.write(`${output.slice(-4000)}\n`);
  return code === 0;
}

/** Installs the Debian packages whose programs are missing. `wanted`: { program: package }. */
export async function ensureDebianPackages(wanted) {
  const missing = Object.entries(wanted).filter(([program]) => !findProgram(program));
  if (missing.length === 0) return;
  const wrong = await installDebianPackages([...new Set(missing.flatMap(([, name]) => name.split(" ")))]);
  if (wrong) fail(`${missing.map(([program]) => program).join(", ")} not found. ${wrong}`);
}

/**
 * Path of Debian's Chromium. Its build without a window draws the same pages in two thirds of the time; where that cannot
 * be had and the whole one is there, the whole one does.
 */
export async function ensureBrowser() {
  const lean = "chromium-headless-shell";
  const whole = findProgram("chromium");
  if (!findProgram(lean)) {
    const wrong = await installDebianPackages([lean, "fonts-dejavu-core"]);
    if (wrong && !whole) fail(`${lean} not found. ${wrong}`);
    if (wrong) say(`  Going on with ${whole}.`);
  }
  return findProgram(lean) ?? whole;
}

/** Null when they are installed, else what is wrong and what to do. */
async function installDebianPackages(packages) {
  const names = packages.join(" ");
  if (!findProgram("apt-get")) return `This is no Debian system: install the equivalent of ${names}.`;
  const root = process.getuid() === 0;
  if (!root && !findProgram("sudo"))
    return `There is no sudo. As root, run: apt-get install -y --no-install-recommends ${names}`;
  if (!root && spawnSync("sudo", ["-n", "true"]).status !== 0)
    say("  sudo may ask for your password to install Debian packages.");
  const env = ["env", "DEBIAN_FRONTEND=noninteractive"];
  const apt = (label, ...args) =>
    runQuietly(label, root ? "env" : "sudo", [...(root ? env.slice(1) : env), "apt-get", ...args]);
  if (!(await apt("Reading Debian's package lists", "update", "-qq")))
    return "Debian's package lists could not be read. Is this machine connected?";
  if (!(await apt(`Installing ${packages.join(", ")}`, "install", "-y", "-qq", "--no-install-recommends", ...packages)))
    return `Debian's packages could not be installed. Try by hand: apt-get install ${names}`;
  return null;
}

/** The port wanted if it is free on loopback, else one the system picks. */
export async function freePort(wanted) {
  for (const port of [wanted, 0]) {
    const got = await new Promise((resolve) => {
      const server = createServer();
      server.once("error", () => resolve(null));
      server.listen(port, "127.0.0.1", () => {
        const { port: bound } = server.address();
        server.close(() => resolve(bound));
      });
    });
    if (got !== null) return got;
  }
  return fail("no free port on 127.0.0.1.");
}

export function isAlive(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === "EPERM";
  }
}

export const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
