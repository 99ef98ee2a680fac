import { readFileSync } from "node:fs";
import { createServer } from "node:net";

import { dbWatch, setDbWatch } from "../db/watch";
import { countRequest, startMetrics, watchProcess } from "./metrics";

// Nothing is asked of a database here: what is told of the firm then says so.
jest.mock("@db", () => {
  const real: object = jest.requireActual("../db/watch");
  return { ...real, getDb: () => ({ pool: () => ({ open: 5, idle: 3, waiting: 2 }) }) };
});

const lines: { level: string; what: Record<string, unknown>; text: string }[] = [];
const line =
  (level: string) =>
  (what: object, text: string): void =>
    void lines.push({ level, what: what as Record<string, unknown>, text });
const LOG = { debug: line("debug"), warn: line("warn"), error: line("error") };
let stop: () => Promise<void>;
let address: string;
const before = dbWatch();

beforeAll(async () => {
  const port = await new Promise<number>((resolve) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const { port: free } = server.address() as { port: number };
      server.close(() => resolve(free));
    });
  });
  stop = await startMetrics(port, "127.0.0.1");
  address = `http://127.0.0.1:${port}`;
  watchProcess(LOG, { DB_SLOW_MS: "200" });
});
afterAll(async () => {
  setDbWatch(before);
  await stop();
});

const metrics = async (): Promise<string> => (await fetch(`${address}/metrics`)).text();

function answered(path: string, status: number): void {
  let finish: () => void = () => undefined;
  const response = { statusCode: status, once: (_: string, then: () => void) => (finish = then) };
  countRequest({ path, method: "GET" } as never, response as never, () => undefined);
  finish();
}

it("counts answers by kind of page and status, and what is not there as one", async () => {
  answered("/t/HH-1001", 200);
  answered("/t/HH-1002", 200);
  answered("/wp-admin", 404);
  const told = await metrics();
  expect(told).toContain('hound_request_seconds_count{method="GET",route="/t/:id",status="200"} 2');
  expect(told).toContain('hound_request_seconds_count{method="GET",route="none",status="404"} 1');
  expect(told).not.toContain("wp-admin");
  expect((await fetch(`${address}/anything`)).status).toBe(404);
});

it("whoever makes addresses up is counted under one name in the end", async () => {
  const word = (n: number): string => n.toString(26).replaceAll(/\d/gu, (digit) => "qrstuvwxyz"[Number(digit)] ?? "");
  for (let n = 0; n < 1000; n++) answered(`/made-up-${word(n)}`, 302);
  const told = await metrics();
  expect(told.match(/^hound_request_seconds_count/gmu)?.length).toBeLessThan(400);
  expect(told).toMatch(/^hound_request_seconds_count\{method="GET",route="other",status="302"\} [67]\d\d$/mu);
  answered("/t/HH-1003", 200);
  expect(await metrics()).toContain('hound_request_seconds_count{method="GET",route="/t/:id",status="200"} 3');
});

it("tells of the database: statements, failures by number, conflicts, hosts, connections", async () => {
  const watch = dbWatch();
  watch.asked({ verb: "select", ms: 30, sql: "SELECT 1" });
  watch.asked({ verb: "update", ms: 250, sql: "UPDATE persons SET name = 'Ada' WHERE id = 7" });
  watch.failed({ number: 1054, text: "Unknown column 'x'", sql: "SELECT x" });
  watch.failed({ number: 1213, text: "Deadlock found", sql: "COMMIT" });
  watch.again(1213);
  watch.host({ host: "two", port: 3306 });
  const told = await metrics();
  for (const one of [
    'hound_statement_seconds_count{verb="select"} 1',
    'hound_statement_failures_total{errno="1054"} 1',
    'hound_conflicts_total{errno="1213"} 1',
    "hound_database_host_changes_total 1",
    'hound_pool_connections{state="busy"} 2',
    'hound_pool_connections{state="waiting"} 2',
  ])
    expect(told).toContain(one);
});

it("writes what was slow without what is in it, and what failed with the database's own number and text", () => {
  expect(lines).toEqual([
    { level: "warn", what: { ms: 250, sql: "UPDATE persons SET name = ? WHERE id = ?" }, text: "slow statement" },
    { level: "error", what: { errno: 1054, said: "Unknown column 'x'", sql: "SELECT x" }, text: "statement failed" },
    { level: "debug", what: { errno: 1213, said: "Deadlock found", sql: "COMMIT" }, text: "statement failed" },
    { level: "debug", what: { errno: 1213 }, text: "another writer won: done again" },
    { level: "warn", what: { host: "two", port: 3306 }, text: "works with this database host from now on" },
  ]);
});

it("what cannot be asked of the database is not told as it was before", async () => {
  const told = await metrics();
  expect(told).toContain("hound_state_of_work_known 0");
  expect(told).not.toMatch(/^hound_duties\{/mu);
});

it("the sample dashboard shows only what is told", async () => {
  const told = await metrics();
  const { panels } = JSON.parse(readFileSync("deploy/dashboard.json", "utf8")) as {
    panels: { title: string; targets: { expr: string }[] }[];
  };
  const names = panels.flatMap(({ targets }) => targets.flatMap(({ expr }) => expr.match(/hound_[a-z0-9_]+/gu) ?? []));
  expect(names.length).toBeGreaterThan(10);
  for (const name of names) expect(told).toContain(`# HELP ${name.replace(/_(count|bucket|sum)$/u, "")} `);
});
