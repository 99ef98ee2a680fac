import { expect, type Page, test } from "@playwright/test";

import {
  allSent,
  drawSignature,
  expectAccessible,
  logFigures,
  logMeter,
  makeSafe,
  openSheet,
  PASSWORD,
  signIn,
  step,
  tap,
  waitUntilReady,
} from "./helpers/app";

const TAG = "HH-8001";
const DAILY = "Walk-round and brooms";

/** The daily round of the sweeper; its main broom is worn below the limit, and there is none in the van. */
async function walkRoundWithoutBroom(page: Page): Promise<void> {
  await makeSafe(page);
  await step(page, "Read the hour meter");
  await logMeter(page);
  await step(page, "Safety functions");
  await tap(page, "As it should be");
  await step(page, "Main broom bristle");
  for (const [place, value] of [
    ["Left", "1.9"],
    ["Middle", "1.8"],
    ["Right", "1.9"],
  ] as const)
    await page.getByLabel(place, { exact: true }).fill(value);
  await logFigures(page, "Log the readings");
  await step(page, "Replace the main broom");
  await tap(page, "Skip");
  await page.getByLabel("Why is it skipped?").fill("No broom in the van");
  await tap(page, "Skip it");
  await step(page, "Side broom bristle");
  for (const field of await page.getByRole("article").getByRole("textbox").all()) await field.fill("3.2");
  await logFigures(page, "Log the readings");
  await step(page, "Polish mark of the main broom");
  await page.getByRole("textbox").first().fill("1.2");
  await logFigures(page);
  await step(page, "Battery cells");
  await tap(page, "As it should be");
  await step(page, "Panel filter");
  await tap(page, "As it should be");
  await step(page, "Drive a test strip");
  await page.getByRole("article").getByRole("button").first().click();
}

async function sign(page: Page): Promise<void> {
  await allSent(page);
  await page.getByRole("link", { name: "Sign", exact: true }).click();
  await page.getByLabel("Customer's name").fill("Ona Reef");
  await drawSignature(page);
  await page.getByLabel("Your password").fill(PASSWORD);
  await tap(page, "Sign the sheet");
  await expect(page).toHaveURL(/\/book\/records\//);
}

async function toMachine(page: Page, tag: string): Promise<void> {
  await page.goto(`/machines?q=${tag}`);
  await page.getByRole("listitem").filter({ hasText: tag }).getByRole("link").click();
  await expect(page.getByRole("heading", { name: "Duties" })).toBeVisible();
}

test("a broom below its limit that the van has not is held, planned, loaded, fitted, and then closed", async ({
  page,
}) => {
  await signIn(page, "mira");
  await openSheet(page, TAG, DAILY);
  await walkRoundWithoutBroom(page);
  await sign(page);

  // Open, and the last one in the depot is held for it.
  await toMachine(page, TAG);
  const left = page.getByRole("region", { name: "Left open" });
  await expect(left.getByText("Major: Fit Main broom")).toBeVisible();
  await expect(left.getByText("Held for it: Van yard store")).toBeVisible();
  await expectAccessible(page);

  // On the round like a duty, and on the day.
  await page.goto("/round");
  await page.getByLabel("Site").selectOption("Trailer wash");
  await expect(page).toHaveURL(/site=/);
  await page.getByRole("link", { name: "Fit Main broom" }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Fit Main broom" })).toBeVisible();
  await expectAccessible(page);
  await tap(page, "Put it on my day");
  await expect(page).toHaveURL(/\/round\/day/);
  await page.goto("/round/load");
  await waitUntilReady(page);
  const depot = page.getByRole("region", { name: "Fetch from Van yard store" });
  await expect(depot.getByRole("listitem").filter({ hasText: "Main broom" })).toBeVisible();
  await tap(page, "Move 1 pc of Main broom from Van yard store");
  const van = page.getByRole("region", { name: "In Van 1 already" });
  await expect(van.getByRole("listitem").filter({ hasText: "Main broom" })).toBeVisible();

  // Fitted on its own sheet: what is listed there is logged there.
  await openSheet(page, TAG, "Fit Main broom");
  await expect(page.getByRole("heading", { level: 1, name: "Fit Main broom" })).toBeVisible();
  await expect(page.getByRole("region", { name: "Before you start" }).getByText("Fit Main broom")).toBeVisible();
  await makeSafe(page);
  await step(page, "Settle what was left");
  await expectAccessible(page);
  await tap(page, /^Fitted/);
  await page.getByLabel("Lot or serial, if it has one").fill("MB-118");
  await tap(page, "It is fitted");
  await expect(page.getByText("logged on this sheet")).toBeVisible();
  await tap(page, "Done");
  await step(page, "Prove it");
  await page.getByRole("article").getByRole("button").first().click();
  await sign(page);

  // Closed; the machine has the broom, and its history says so.
  await toMachine(page, TAG);
  await expect(page.getByRole("region", { name: "Left open" })).toHaveCount(0);
  await expect(page.getByRole("link", { name: "Fit Main broom" }).first()).toBeVisible();
  const machine = page.url();
  await page.goto(`${machine}/left`);
  const settled = page.getByRole("region", { name: "Settled" });
  await expect(settled.getByText("Fit Main broom").first()).toBeVisible();
  await settled
    .getByRole("link", { name: /the sheet/ })
    .first()
    .click();
  await expect(page.getByText("MB-118").first()).toBeVisible();
});
