/** Run by bench.mjs with its own database. Data is invented here and thrown away with the next run. */
import { cpus } from "node:os";

import * as polyfill from "temporal-polyfill";
import { v7 as uuidv7 } from "uuid";

import { appendEntries } from "~/sheet/log/append-entries.server";

import { assessMachine } from "../app/duties/assess.server";
import { getDuty, listDue } from "../app/duties/due.server";
import { exportMachines, getMachine, listMachines } from "../app/machines/machines.server";
import { applyImport, checkImport, claimImport } from "../app/machines/register/imports.server";
import { publishProcedures, readProcedureFiles, shippedFolder } from "../app/procedures/procedures.server";
import { loadSheet, openSheet } from "../app/sheet/log/sheets.server";
import { assessDue, type DueInput, foldRun, projectDue, type RunEvent } from "../core/index";
import { must } from "../core/must";
import { simulateSheet } from "../db/demo/simulate-sheet";
import { getDb, migrate } from "../db/index";

Object.assign(globalThis, { Temporal: polyfill.Temporal });
const { RRuleTemporal } = await import("rrule-temporal");

const print = (name: string, value: string): void => void process.stdout.write(`${name.padEnd(58)} ${value}\n`);
const heading = (text: string): void => void process.stdout.write(`\n${text}\n`);

print("Machine", `${cpus().length} × ${cpus()[0]?.model ?? "unknown"}, Node ${process.versions.node}`);

heading("Due engine");
const ASSESSMENTS = 120_000;
const twoTriggers: DueInput = {
  plan: {
    id: "p",
    startOn: "2025-01-31",
    triggers: [
      { kind: "calendar", every: 3, unit: "month", basis: "completion" },
      { kind: "meter", meter: "hours", every: 500, basis: "completion" },
    ],
  },
  completions: [{ planId: "p", on: "2026-01-15", meters: { hours: 1200 } }],
  meters: {
    hours: Array.from({ length: 12 }, (_, i) => ({
      on: `2026-${String(1 + (i % 6)).padStart(2, "0")}-${String(3 + 2 * Math.floor(i / 6)).padStart(2, "0")}`,
      value: 1100 + i * 40,
    })).sort((a, b) => (a.on < b.on ? -1 : 1)),
  },
  readings: {},
  events: [],
  today: "2026-07-01",
};
for (let i = 0; i < 5000; i++) assessDue(twoTriggers);
const engine = timed(() => {
  for (let i = 0; i < ASSESSMENTS; i++) assessDue(twoTriggers);
});
print(
  `${ASSESSMENTS.toLocaleString("en")} assessments of a two-trigger plan, reasons included`,
  `${(engine / 1000).toFixed(2)} s, ${Math.round(ASSESSMENTS / (engine / 1000)).toLocaleString("en")} duties/s (budget 4 s)`,
);

const GRID = 2000;
const grid: DueInput = {
  ...twoTriggers,
  plan: { id: "p", startOn: "2025-01-31", triggers: [{ kind: "calendar", every: 1, unit: "month", basis: "grid" }] },
  completions: [],
  meters: {},
  today: "2025-01-31",
};
const projectOnce = (): number => projectDue(grid, "2027-01-31").length;
const ruleOnce = (): number =>
  new RRuleTemporal({
    freq: "MONTHLY",
    interval: 1,
    count: 25,
    byMonthDay: [28, 29, 30, 31],
    bySetPos: [-1],
    dtstart: polyfill.Temporal.ZonedDateTime.from("2025-01-31T00:00[UTC]"),
    tzid: "UTC",
  }).all().length;
for (let i = 0; i < 50; i++) {
  projectOnce();
  ruleOnce();
}
const ours = timed(() => {
  for (let i = 0; i < GRID; i++) projectOnce();
});
const theirs =
  timed(() => {
    for (let i = 0; i < GRID / 20; i++) ruleOnce();
  }) * 20;
print(
  "24 month ends of one plan: ours, rrule-temporal, ratio",
  `${((ours / GRID) * 1000).toFixed(0)} µs, ${((theirs / GRID) * 1000).toFixed(0)} µs, ${(theirs / ours).toFixed(1)} times`,
);

heading("Sheet");
const [procedure] = readProcedureFiles(shippedFolder()).filter((one) => one.id === "flake-ice-maker-clean-sanitise");
const log = simulateSheet({
  procedure: must(procedure),
  machine: { options: ["water-filter"] },
  sheetId: uuidv7(),
  by: "a",
  startMs: Date.UTC(2026, 0, 1),
  newId: uuidv7,
  started: { type: "started", planId: "p", procedureId: must(procedure).id, procedureVersion: 1 },
  script: { rounds: 4 },
});
print(
  `fold a log of ${log.length} events`,
  percentiles(200, () => foldRun(must(procedure), log)),
);

heading("Services (5,000 machines)");
const db = getDb();
await db.run("DROP DATABASE IF EXISTS hound_bench");
await db.run("CREATE DATABASE hound_bench CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci");
await db.run("USE hound_bench");
await db.close();
(globalThis as { houndDb?: unknown }).houndDb = undefined;
const bench = getDb();
await migrate(bench.sequelize);
const now = new Date();
const actor = { id: uuidv7(), name: "Bench", role: "lead" as const, authorisations: [] };
await bench.models.Person.create({
  id: actor.id,
  name: actor.name,
  signIn: "bench",
  passwordHash: "x",
  role: "lead",
  active: true,
  mustChangePassword: false,
  demo: false,
  createdAt: now,
});
await publishProcedures(readProcedureFiles(shippedFolder()), now);
const csv = [
  "customer,site,time_zone,tag,name,family,options",
  ...Array.from(
    { length: 5000 },
    (_, n) =>
      `Customer ${n % 40},Site ${n % 200},Europe/Lisbon,B-${n},Machine ${n},${["flake-ice-maker", "slide-stainer", "wide-format-printer", "ride-on-sweeper"][n % 4]},side-brooms`,
  ),
].join("\n");
let importId = "";
print(
  "check a CSV of 5,000 machines",
  seconds(await timedAsync(async () => void (importId = await checkImport(actor, "bench.csv", csv, now)))),
);
await claimImport(importId, now);
print("import them with 7,500 duties", seconds(await timedAsync(() => applyImport(importId, now))));
let exported = "";
print("export them", seconds(await timedAsync(async () => void (exported = await exportMachines()))));
const again = await checkImport(actor, "again.csv", exported, now);
await claimImport(again, now);
print("import them again (all known)", seconds(await timedAsync(() => applyImport(again, now))));

const [machine] = await bench.select<{ id: string }>("SELECT id FROM machines WHERE tag = 'B-4'");
const [plan] = await bench.select<{ id: string }>("SELECT id FROM duties WHERE machine_id = :id", {
  id: must(machine).id,
});
await report("the round, first 50 of what is due", () => listDue({}, new Date(now.getTime() + 8 * 86_400_000)));
await report("the register, searched", () => listMachines({ q: "Machine 43" }));
await report("a machine's page", () => getMachine(must(machine).id));
await report("a duty with its reasons", () => getDuty(must(plan).id, now));
await report("assess one machine's plans", () => assessMachine(must(machine).id, now));
const sheetId = await openSheet(actor, must(plan).id, "bench", now);
await report("log one tap", () => appendEntries(actor, sheetId, [tap()], new Date()));
await report("open a sheet", () => loadSheet(sheetId));
await bench.close();

function tap(): RunEvent {
  return {
    id: uuidv7(),
    runId: sheetId,
    at: new Date().toISOString(),
    by: actor.id,
    device: "bench",
    type: "note",
    text: "tap",
  };
}

function timed(work: () => void): number {
  const start = performance.now();
  work();
  return performance.now() - start;
}

async function timedAsync(work: () => Promise<unknown>): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

function seconds(ms: number): string {
  return `${(ms / 1000).toFixed(1)} s`;
}

function percentiles(times: number, work: () => unknown): string {
  const taken = Array.from({ length: times }, () => timed(() => void work())).sort((a, b) => a - b);
  return `p50 ${must(taken[Math.floor(times / 2)]).toFixed(1)} ms, p95 ${must(taken[Math.floor(times * 0.95)]).toFixed(1)} ms`;
}

async function report(name: string, work: () => Promise<unknown>): Promise<void> {
  const TIMES = 100;
  for (let i = 0; i < 10; i++) await work();
  bench.takeQueryCount();
  await work();
  const queries = bench.takeQueryCount();
  const taken: number[] = [];
  for (let i = 0; i < TIMES; i++) taken.push(await timedAsync(work));
  taken.sort((a, b) => a - b);
  print(
    name,
    `p50 ${must(taken[TIMES / 2]).toFixed(1)} ms, p95 ${must(taken[TIMES * 0.95]).toFixed(1)} ms, ${queries} queries`,
  );
}
