import type { ChildProcess } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

import { expect } from "@playwright/test";
import { createConnection, type RowDataPacket } from "mysql2/promise";

import { must } from "../core/must";
import { draws } from "../core/testing/draws";
import { readSchema, startMariaDb } from "../scripts/lib/mariadb.mjs";
import { freePort, sleep } from "../scripts/lib/system.mjs";
import {
  allSent,
  KEY_ON,
  logFigures,
  logMeter,
  makeSafe,
  openSheet,
  PARKED,
  PASSWORD,
  signIn,
  step,
  tap,
} from "./helpers/app";
import { startApp, untilReady } from "./helpers/own-app";
import { test } from "./helpers/test";
import { workVisit } from "./helpers/visit";

/** A database and an app of its own, to be killed without warning. */
test("kill -9 of the app and of the database in the middle of a sheet loses nothing that was acknowledged", async ({
  browser,
}) => {
  test.setTimeout(480_000);
  const folder = mkdtempSync(join(tmpdir(), "hound-crash-"));
  let database = await startMariaDb(folder, 33680);
  const port = await freePort(7480);
  const baseURL = `http://127.0.0.1:${port}`;
  const env = {
    DATABASE_URL: database.url(),
    HOUND_DEMO: "1",
    LOG_LEVEL: "fatal",
    SIGN_IN_PER_ADDRESS: "1000",
  };
  readSchema(env.DATABASE_URL, must(process.env["HOUND_DEMO_SQL"]));

  const startReady = async (): Promise<ChildProcess> => {
    const started = await startApp(env, port);
    await untilReady(started.url);
    return started.child;
  };
  let app = await startReady();
  const page = await browser.newPage({ baseURL });
  const acknowledged: string[] = [];
  page.on("response", (response) => {
    if (response.request().method() === "POST" && response.url().includes("/api/sheets/") && response.ok()) {
      void response.json().then(
        (answer: { accepted: string[] }) => acknowledged.push(...answer.accepted),
        () => undefined,
      );
    }
  });
  try {
    await signIn(page);
    await openSheet(page, "HH-6002", "Walk-round and brooms");
    const sheet = page.url();
    const sheetId = must(sheet.split("/").pop());
    await logMeter(page);
    await allSent(page);

    const appGone = new Promise((resolve) => app.once("exit", resolve));
    app.kill("SIGKILL");
    await appGone;
    await tap(page, "As it should be");
    await expect(page.getByTestId("outbox")).toContainText("1 not sent yet");
    app = await startReady();
    await allSent(page);
    await step(page, "Battery gauge, lamps");
    await tap(page, "As it should be");
    await makeSafe(page, PARKED);
    await tap(page, "As it should be");
    await step(page, "Main broom bristle");
    await allSent(page);

    process.kill(database.pid, "SIGKILL");
    for (const [point, value] of [
      ["Left", "3.1"],
      ["Middle", "3.0"],
      ["Right", "3.2"],
    ] as const)
      await page.getByLabel(point, { exact: true }).fill(value);
    await logFigures(page, "Log the readings");
    await expect(page.getByTestId("outbox")).toContainText("3 not sent yet");
    expect((await page.request.get("/readyz")).status()).toBe(503);
    await sleep(300);
    database = await startMariaDb(folder, database.port);
    await allSent(page);

    await page.goto(sheet);
    await step(page, KEY_ON); // this machine has no side brooms
    const { entries } = (await (await page.request.get(`/api/sheets/${sheetId}/entries?have=0`)).json()) as {
      entries: { id: string }[];
    };
    const ids = entries.map((entry) => entry.id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(acknowledged.length).toBeGreaterThanOrEqual(6);
    for (const id of acknowledged) expect(ids).toContain(id);

    // A visit's one signature, its app killed at all moments of it: every sheet is signed, or none.
    const lead = await browser.newPage({ baseURL });
    await signIn(lead, "jonas");
    const sheets = await workVisit(
      lead,
      ["HH-3001", "HH-3002", "HH-3003", "HH-3004", "HH-3005"],
      "Look over before the inspection",
    );
    const seen = new Set<number>();
    for (let wait = 100; !seen.has(sheets.length); wait *= draws(2, 1.2)) {
      const gone = new Promise((resolve) => app.once("exit", resolve));
      const form = { intent: "sign", customer: "typed", customerName: "Kim Tern", password: PASSWORD };
      const others = sheets.slice(1).map((id, i) => [`others[${i}].id`, id] as const);
      const answer = lead.request
        .post(`/sheet/${must(sheets[0])}/sign`, {
          form: { ...form, ...Object.fromEntries(others) },
          headers: { Origin: baseURL },
          maxRedirects: 0,
        })
        .then((response) => response.status())
        .catch(() => null);
      await sleep(wait);
      app.kill("SIGKILL");
      await gone;
      const signed = await signedOf(env.DATABASE_URL, sheets);
      expect([0, sheets.length]).toContain(signed.sheets);
      expect(signed.inChain).toBe(signed.sheets);
      if ((await answer) === 302) expect(signed.sheets).toBe(sheets.length);
      seen.add(signed.sheets);
      app = await startReady();
    }
    expect(seen).toContain(0);
    await lead.close();
  } finally {
    await page.close();
    const gone = new Promise((resolve) => app.once("exit", resolve));
    app.kill("SIGTERM");
    await gone;
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});

/** How many of the sheets are signed, and have their entry in the chain of records. */
async function signedOf(url: string, sheets: readonly string[]): Promise<{ sheets: number; inChain: number }> {
  const connection = await createConnection(url);
  const count = async (sql: string): Promise<number> => {
    const [rows] = await connection.query<RowDataPacket[]>(sql, [sheets]);
    return Number(must(rows[0])["n"]);
  };
  const counted = {
    sheets: await count("SELECT COUNT(*) AS n FROM sheets WHERE id IN (?) AND status = 'signed'"),
    inChain: await count("SELECT COUNT(*) AS n FROM record_chain WHERE subject_id IN (?) AND kind = 'record'"),
  };
  await connection.end();
  return counted;
}
