import type { ChildProcess } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

import { expect, type Page } from "@playwright/test";
import { createConnection } from "mysql2/promise";

import { must } from "../core/must";
import { readSchema, type RunningDatabase, startMariaDb } from "../scripts/lib/mariadb.mjs";
import { freePort } from "../scripts/lib/system.mjs";
import { allSent, logMeter, openSheet, signIn, tap } from "./helpers/app";
import { startApp, untilReady } from "./helpers/own-app";
import { test } from "./helpers/test";

/** A database of its own, which takes nothing, reads only, or says nothing: what is typed and tapped outlives all three. */
let folder: string;
let database: RunningDatabase;
let app: ChildProcess;
let baseURL: string;

test.beforeAll(async () => {
  test.setTimeout(240_000);
  folder = mkdtempSync(join(tmpdir(), "hound-database-"));
  database = await startMariaDb(folder, 33720);
  readSchema(database.url(), must(process.env["HOUND_DEMO_SQL"]));
  const port = await freePort(7530);
  const env = { DATABASE_URL: database.url(), HOUND_DEMO: "1", LOG_LEVEL: "fatal", DB_SILENCE_S: "4" };
  app = (await startApp({ ...env, SIGN_IN_PER_ADDRESS: "1000" }, port)).child;
  baseURL = `http://127.0.0.1:${port}`;
  await untilReady(baseURL);
});

test.afterAll(async () => {
  const gone = new Promise((resolve) => app.once("exit", resolve));
  app.kill("SIGTERM");
  await gone;
  await database.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** Does something as the database's own administrator. */
async function asRoot(...statements: string[]): Promise<void> {
  const { password, pathname } = new URL(database.url());
  const connection = await createConnection({
    socketPath: join(folder, "data/my.sock"),
    user: "root",
    password,
    database: pathname.slice(1),
  });
  for (const statement of statements) await connection.query(statement);
  await connection.end();
}

/** What a form is told when it cannot be taken; what was typed in it stands there still, and is taken afterwards. */
async function formWaits(page: Page, away: () => Promise<void>, back: () => Promise<void>): Promise<void> {
  const note = `Kept through it ${Date.now()}`;
  await page.goto("/t/HH-6002");
  await page.getByRole("button", { name: /stored or the site closes/ }).click();
  // Its button says something else while it waits.
  const form = page.locator("form").filter({ hasText: "until somebody resumes it" });
  await form.getByLabel("Why").fill(note);
  await away();
  try {
    await form.getByRole("button", { name: "Pause", exact: true }).click();
    await expect(page.getByText(/The database does not answer|No answer from the server/).first()).toBeVisible({
      timeout: 40_000,
    });
    await expect(form.getByLabel("Why")).toHaveValue(note);
  } finally {
    await back();
  }
  await expect.poll(async () => (await page.request.get("/readyz")).status()).toBe(200);
  const again = page.getByRole("button", { name: "Send again" });
  await ((await again.isVisible()) ? again : form.getByRole("button", { name: "Pause", exact: true })).click();
  await expect(page.getByText(note)).toHaveCount(1);
}

const WAYS: [what: string, away: () => Promise<void>, back: () => Promise<void>, reads: boolean][] = [
  [
    "is full",
    () =>
      asRoot(
        ...["log_entries", "leases", "pauses", "sessions", "audit_log"].flatMap((table) =>
          ["INSERT", "UPDATE"].map(
            (event) =>
              `CREATE TRIGGER full_${table}_${event} BEFORE ${event} ON ${table} FOR EACH ROW
               SIGNAL SQLSTATE 'HY000' SET MYSQL_ERRNO = 1114, MESSAGE_TEXT = 'The table is full'`,
          ),
        ),
      ),
    () =>
      asRoot(
        ...["log_entries", "leases", "pauses", "sessions", "audit_log"].flatMap((table) =>
          ["INSERT", "UPDATE"].map((event) => `DROP TRIGGER full_${table}_${event}`),
        ),
      ),
    true,
  ],
  ["reads only", () => asRoot("SET GLOBAL read_only = 1"), () => asRoot("SET GLOBAL read_only = 0"), true],
  [
    "is frozen",
    () => Promise.resolve(void process.kill(database.pid, "SIGSTOP")),
    () => Promise.resolve(void process.kill(database.pid, "SIGCONT")),
    false,
  ],
];

/** One tap after the other of one sheet, for each way. */
const TAPS: ((page: Page) => Promise<void>)[] = [
  async (page) => {
    await logMeter(page);
  },
  (page) => tap(page, "As it should be"),
  (page) => tap(page, "As it should be"),
];

test("a database that is full, reads only or is frozen: taps wait, forms keep what was typed, balancers are told", async ({
  browser,
}) => {
  test.setTimeout(300_000);
  const page = await browser.newPage({ baseURL });
  await signIn(page);
  await openSheet(page, "HH-6002", "Walk-round and brooms");
  await allSent(page);
  const sheet = page.url();
  for (const [i, [what, away, back, reads]] of WAYS.entries())
    await test.step(what, async () => {
      await page.goto(sheet);
      await allSent(page);
      await away();
      try {
        await must(TAPS[i])(page);
        await expect(page.getByTestId("outbox")).toContainText("not sent yet");
        await expect.poll(async () => (await page.request.get("/readyz")).status()).toBe(503);
        expect((await page.request.get("/healthz")).status()).toBe(200);
        const round = await page.request.get("/round", { timeout: 40_000 });
        expect(round.status()).toBe(reads ? 200 : 503);
        // On a page of the app, with the way back.
        if (!reads) expect(await round.text()).toMatch(/The database does not answer[^]*To the round/);
      } finally {
        await back();
      }
      await expect.poll(async () => (await page.request.get("/readyz")).status()).toBe(200);
      await allSent(page);
      await formWaits(page, away, back);
    });
  await page.close();
});
