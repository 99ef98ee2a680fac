import type { ChildProcess } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

import { expect, test } from "@playwright/test";

import { must } from "../core/must";
import { readSchema, startMariaDb } from "../scripts/lib/mariadb.mjs";
import { freePort, sleep } from "../scripts/lib/system.mjs";
import { allSent, logFigures, logMeter, makeSafe, openSheet, signIn, step, tap } from "./helpers/app";
import { startApp, untilReady } from "./helpers/own-app";

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
    await makeSafe(page);
    await allSent(page);

    const appGone = new Promise((resolve) => app.once("exit", resolve));
    app.kill("SIGKILL");
    await appGone;
    await logMeter(page);
    await expect(page.getByTestId("outbox")).toContainText("1 not sent yet");
    app = await startReady();
    await allSent(page);
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
    await step(page, "Polish mark of the main broom"); // this machine has no side brooms
    const { entries } = (await (await page.request.get(`/api/sheets/${sheetId}/entries?have=0`)).json()) as {
      entries: { id: string }[];
    };
    const ids = entries.map((entry) => entry.id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(acknowledged.length).toBeGreaterThanOrEqual(6);
    for (const id of acknowledged) expect(ids).toContain(id);
  } finally {
    await page.close();
    const gone = new Promise((resolve) => app.once("exit", resolve));
    app.kill("SIGTERM");
    await gone;
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});
