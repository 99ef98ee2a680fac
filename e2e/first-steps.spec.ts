import { spawnSync } from "node:child_process";

import { expect } from "@playwright/test";
import { createConnection } from "mysql2/promise";

import { must } from "../core/must";
import { freePort } from "../scripts/lib/system.mjs";
import {
  allSent,
  drawSignature,
  expectAccessible,
  expectNothingSideways,
  makeSafe,
  step,
  tap,
  waitUntilReady,
} from "./helpers/app";
import { startApp, untilReady } from "./helpers/own-app";
import { test } from "./helpers/test";

/** A database with nothing in it, on the server of the tests, and an app of its own. */
test("from an empty database to the first signed record, by hand alone", async ({ browser }) => {
  const schema = "hound_first_steps";
  const url = new URL(must(process.env.DATABASE_URL));
  const connection = await createConnection(url.href);
  await connection.query(`DROP DATABASE IF EXISTS ${schema}`);
  await connection.query(`CREATE DATABASE ${schema} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
  url.pathname = `/${schema}`;
  const env = { DATABASE_URL: url.href, HOUND_DEMO: "0", HOUND_PLAIN_HTTP: "1" };
  const run = (script: string, ...more: string[]): string => {
    const done = spawnSync(process.execPath, ["--import", "tsx", `scripts/${script}.ts`, ...more], {
      env: { ...process.env, ...env },
      encoding: "utf8",
    });
    expect(done.status, done.stderr).toBe(0);
    return done.stdout;
  };
  run("migrate");
  const first = must(/first password (\S+)/.exec(run("add-lead", "Ines Costa", "ines"))?.[1]);
  const app = await startApp(env, await freePort(7488));
  const page = await browser.newPage({ baseURL: app.url, viewport: { width: 390, height: 844 } });
  const own = "a password of my own";
  try {
    await untilReady(app.url);
    await page.goto("/sign-in");
    await page.getByLabel("Sign-in name").fill("ines");
    await page.getByLabel("Password").fill(first);
    await tap(page, "Sign in");
    await expect(page.getByRole("heading", { name: "New password" })).toBeVisible();
    await waitUntilReady(page);
    await page.getByLabel("Present password").fill(first);
    await page.getByLabel("New password", { exact: true }).fill(own);
    await page.getByLabel("New password again").fill(own);
    await tap(page, "Save");
    await expect(page.getByRole("heading", { name: "New password" })).toHaveCount(0);
    await page.goto("/round");
    await expect(page.getByText("No machines yet.")).toBeVisible();
    await page.getByRole("link", { name: "First steps" }).click();
    await expect(page.getByRole("heading", { level: 1, name: "First steps" })).toBeVisible();
    await expectAccessible(page);
    await expectNothingSideways(page);
    await waitUntilReady(page);
    await tap(page, "Load them");
    await expect(page.getByText(/^\d+ procedures are in the library\.$/)).toBeVisible();

    await page.getByRole("link", { name: "Add a site" }).click();
    await waitUntilReady(page);
    await page.getByLabel("Customer", { exact: true }).fill("Harbour school");
    await page.getByLabel("Site", { exact: true }).fill("Office");
    await page.getByLabel("Time zone").fill("Atlantic/Azores");
    await tap(page, "Add the site");
    await expect(page.getByRole("heading", { level: 1, name: "Add a machine" })).toBeVisible();
    await waitUntilReady(page);
    await page.getByText("Card printer", { exact: true }).click();
    await page.getByRole("button", { name: /^Take M-/ }).click();
    await page.getByLabel("Name", { exact: true }).fill("Card printer");
    await tap(page, "Add the machine");
    await tap(page, "Take these");
    await expect(page.getByRole("heading", { level: 1, name: "Card printer" })).toBeVisible();

    await page.goto("/round");
    await page.getByRole("link", { name: "First steps" }).click();
    await expectAccessible(page);
    await page.getByRole("link", { name: "Look at Card printer" }).click();
    await expect(page.getByRole("heading", { level: 1, name: "What it owes" })).toBeVisible();
    await page.goto("/first-steps");
    await page.getByRole("link", { name: "Open it" }).click();
    await page.goto("/t/M-1001");
    await page.getByRole("link", { name: "Rear fan filter" }).click();
    await tap(page, /the sheet/);
    await waitUntilReady(page);
    await makeSafe(page, "Switched off, unplugged");
    await step(page, "Vents, and room around them");
    await tap(page, "As it should be");
    for (const gate of ["End of: Switched off, unplugged", "Doors shut, it may run"]) await makeSafe(page, gate);
    await step(page, "Power on");
    await tap(page, "As expected");
    await step(page, "Every step is settled.");
    await allSent(page);
    await page.getByRole("link", { name: "Sign", exact: true }).click();
    await drawSignature(page, "Kim Quay");
    await page.getByLabel("Your password").fill(own);
    await tap(page, "Sign the sheet");
    await expect(page).toHaveURL(/\/book\/records\//);
    await page.goto("/first-steps");
    await expect(page.getByRole("heading", { level: 1, name: "You have begun" })).toBeVisible();
  } finally {
    await page.close();
    app.child.kill("SIGTERM");
    await app.exited;
    await connection.query(`DROP DATABASE IF EXISTS ${schema}`);
    await connection.end();
  }
});
