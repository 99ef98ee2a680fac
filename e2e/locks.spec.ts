import { expect } from "@playwright/test";

import { allSent, expectAccessible, logFigures, openSheet, signIn, step, tap } from "./helpers/app";
import { test } from "./helpers/test";

test("a lock is taken off by who put it on; a lead lifts it with a reason", async ({ browser }) => {
  const open = async (who: "mira" | "tove" | "jonas") => {
    const page = await (await browser.newContext()).newPage();
    await signIn(page, who);
    return page;
  };
  const gate = "End of: Isolated";
  const mira = await open("mira");
  await openSheet(mira, "HH-4002", "Daily exterior, belt and pans");
  const sheet = mira.url();
  await step(mira, "Isolated");
  for (const check of await mira.getByRole("article").getByRole("checkbox").all()) await check.check();
  await tap(mira, "All safe: go on");
  await step(mira, "Cool");
  await mira.getByLabel("Surface temperature").fill("31");
  await tap(mira, "Log it");
  for (const check of await mira.getByRole("article").getByRole("checkbox").all()) await check.check();
  await tap(mira, "All safe: go on");
  await step(mira, "End stops off");
  await tap(mira, "Off");
  for (const one of [/^End stops: degreased/, "Brush the belt, its full length"]) {
    await step(mira, one);
    await tap(mira, "Done");
  }
  await allSent(mira);

  // A colleague goes on with the work, but not with Mira's lock.
  const tove = await open("tove");
  await tove.goto(sheet);
  for (const one of [/^Outside: soft cloth/, /^Rinse with clean warm water/, "Polish along the grain"]) {
    await step(tove, one);
    await tap(tove, "Done");
  }
  await step(tove, "Clearance to walls and what burns");
  await tove.getByLabel("Reading", { exact: true }).fill("7");
  await logFigures(tove);
  await step(tove, "End stops on");
  await tap(tove, "All back on");
  await step(tove, gate);
  await expect(tove.getByRole("alert").filter({ hasText: "This lock is Mira" })).toBeVisible();
  for (const check of await tove.getByRole("article").getByRole("checkbox").all()) await check.check();
  await expect(tove.getByRole("button", { name: "Not your lock" })).toBeVisible();
  await expect(tove.getByRole("button", { name: "Lift the lock" })).toHaveCount(0);
  await expectAccessible(tove);
  await allSent(tove);

  // Mira has gone: a lead who has seen the machine lifts it.
  const jonas = await open("jonas");
  await jonas.goto(sheet);
  await step(jonas, gate);
  await tap(jonas, "Lift the lock");
  await expectAccessible(jonas);
  await jonas.getByLabel(/^Why, and how do you know/).fill("Mira is on the ferry; I stand at the machine");
  await tap(jonas, "Lift it");
  await expect(jonas.getByRole("alert").filter({ hasText: "This lock is Mira" })).toHaveCount(0);
  await expect(jonas.getByRole("button", { name: "Tick each first" })).toBeVisible();
  await allSent(jonas);

  await tove.reload();
  await step(tove, gate);
  for (const check of await tove.getByRole("article").getByRole("checkbox").all()) await check.check();
  await tap(tove, "All safe: go on");
  await step(tove, "Powered");
  await allSent(tove);

  // Mira's page, open all the while, knows it after a look at the server.
  await mira.reload();
  await step(mira, "Powered");
});
