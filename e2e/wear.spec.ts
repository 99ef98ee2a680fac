import { expect, type Page } from "@playwright/test";

import {
  allSent,
  drawSignature,
  expectAccessible,
  KEY_ON,
  logFigures,
  makeSafe,
  openSheet,
  PASSWORD,
  signIn,
  step,
  tap,
  waitUntilReady,
  walkRoundToTheBrooms,
} from "./helpers/app";
import { test } from "./helpers/test";

const TAG = "HH-2002";

async function wearOf(page: Page): Promise<void> {
  await page.goto(`/t/${TAG}`);
  await page.getByRole("link", { name: "Wear", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Wear of Ramp sweeper", level: 1 })).toBeVisible();
  await waitUntilReady(page);
}

const numberIn = (text: string | null, of: RegExp): number => Number(of.exec(text ?? "")?.[1]);

/** Brooms on hand, wherever they lie; what the sweeper's parts have cost. */
async function books(page: Page, lead: Page): Promise<{ there: number; cost: number }> {
  await page.goto("/stores/items/main-broom");
  const there = numberIn(await page.getByRole("heading", { name: /in all/ }).textContent(), /(-?[\d.]+)/);
  const costs = await (await lead.request.get("/stores/costs.csv?by=machine")).text();
  return { there, cost: numberIn(costs, /^Ramp sweeper HH-2002,[\d.]+,[\d.]+,[\d.]+,([\d.]+)/m) };
}

async function readBrooms(page: Page, values: [string, string][]): Promise<void> {
  for (const [point, value] of values) await page.getByLabel(point, { exact: true }).fill(value);
  await logFigures(page, "Log the readings");
}

test("a broom wears: foreseen in lists, on the day and at its step, renewed before its limit, and a new line begins", async ({
  page,
  browser,
}) => {
  const lead = await (await browser.newContext()).newPage();
  await signIn(lead, "jonas");
  await signIn(page, "mira");
  const before = await books(page, lead);

  // On the list of all machines, likeliest first.
  await page.goto("/machines");
  await page.getByRole("link", { name: "Wear", exact: true }).click();
  const row = page.getByRole("listitem").filter({ hasText: TAG }).filter({ hasText: "Main broom" });
  await expect(row).toContainText(/2 in about .+ \(.+ to .+\)/);
  await expect(row).toContainText(/% that it is past/);
  await expectAccessible(page);
  await row.getByRole("link", { name: "Main broom" }).click();

  // Its line: six visits and more, as a table too.
  const broom = page.getByRole("region", { name: "Main broom" });
  await expect(broom.getByText(/Next visit .+ it is past by then/)).toBeVisible();
  await broom.getByRole("button", { name: /^All \d+ values of this piece/ }).click();
  const table = broom.getByRole("table", { name: "Values of Main broom" });
  expect(await table.getByRole("row").count()).toBeGreaterThan(6);
  await broom.getByText("Why?").click();
  await expect(broom.getByText(/pieces like it/)).toBeVisible();
  await expectAccessible(page);
  const csv = await (await page.request.get("/machines/wear.csv")).text();
  expect(csv).toMatch(/Ferry terminal,HH-2002,Ramp sweeper,Main broom,Main broom,2\.15,in/);

  // The duty that waits for the limit has a day.
  await page.goto(`/t/${TAG}`);
  await expect(page.getByRole("listitem").filter({ hasText: "Main broom out and in" }).first()).toContainText(
    /\d+ \w{3}|today|tomorrow/i,
  );
  expect(await (await page.request.get("/ahead.csv?span=quarter")).text()).toContain("Main broom out and in");

  // On the day it may be wanted, with its chance.
  await page.getByRole("link", { name: "Walk-round and brooms", exact: true }).first().click();
  await tap(page, "Put it on my day");
  await expect(page).toHaveURL(/\/round\/day/);
  await page.getByRole("link", { name: "Open the load list" }).click();
  const likely = page
    .getByRole("region", { name: "Likely parts" })
    .getByRole("listitem")
    .filter({ hasText: "Main broom" });
  await expect(likely.first()).toContainText(/% that it is wanted/);
  await expectAccessible(page);

  // At its step: what the value means, and what pays.
  await openSheet(page, TAG, "Walk-round and brooms");
  // It ran more than usual since: eight hours in six days.
  await walkRoundToTheBrooms(page, "2937");
  await step(page, "Main broom bristle");
  await readBrooms(page, [
    ["Left", "2.05"],
    ["Middle", "2.05"],
    ["Right", "2.05"],
  ]);
  const notice = page.getByRole("status", { name: "Wear" });
  await expect(notice).toContainText("Renew it now.");
  await expect(notice).toContainText(/2\.05 in now\. .+ Next visit .+: \d+ % it is past by then/);
  await expectAccessible(page);
  await tap(page, "Renew it now");
  await step(page, "Replace the main broom");
  await tap(page, "New one fitted");
  await step(page, "Side broom bristle");
  await readBrooms(page, [
    ["Left broom", "3.25"],
    ["Right broom", "3.15"],
  ]);
  await makeSafe(page, KEY_ON);
  await step(page, "Polish mark of the main broom");
  await page.getByLabel("Reading", { exact: true }).fill("1.2");
  await logFigures(page);
  await tap(page, "As expected");
  await allSent(page);
  await page.getByRole("link", { name: "Sign", exact: true }).click();
  await drawSignature(page, "Ona Reef");
  await page.getByLabel("Your password").fill(PASSWORD);
  await tap(page, "Sign the sheet");
  await expect(page).toHaveURL(/\/book\/records\//);
  await expect(page.getByText(/renewed before its limit/).first()).toBeVisible();

  // A new line begins; the broom is off the books, and nothing waits for the limit any more.
  await wearOf(page);
  const unread = page.getByRole("region", { name: "Not measured since it went in" });
  await expect(unread.getByRole("listitem")).toHaveText([/^Main broom – new since/]);
  await expectAccessible(page);
  const after = await books(page, lead);
  await lead.context().close();
  expect(after.there).toBe(before.there - 1);
  expect(after.cost - before.cost).toBeGreaterThanOrEqual(119);
  expect(await (await page.request.get("/machines/wear.csv")).text()).not.toMatch(/HH-2002,Ramp sweeper,Main broom/);
});

test("by the keyboard alone a lead says how much a machine matters, and what a failure costs", async ({ page }) => {
  await signIn(page, "jonas");
  await page.goto("/machines/wear");
  await page.getByRole("link", { name: "What a failure costs" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "What a failure costs", level: 1 })).toBeVisible();
  await expectAccessible(page);
  await page.getByLabel("As usual, euros").focus();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("two");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Type euros, such as 200.")).toBeVisible();
  await page.getByLabel("As usual, euros").fill("210");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Wear", level: 1 })).toBeVisible();
  await page.goto(`/t/HH-2001`);
  await page.getByRole("link", { name: "Wear", exact: true }).click();
  await page.getByLabel("How much it matters").selectOption("high");
  await tap(page, "Keep");
  await expect(page.getByLabel("How much it matters")).toHaveValue("high");
});
