import { expect } from "@playwright/test";

import { must } from "../core/must";
import {
  allSent,
  drawSignature,
  expectAccessible,
  logMeter,
  makeSafe,
  openSheet,
  PARKED,
  PASSWORD,
  signIn,
  step,
  tap,
  waitUntilReady,
} from "./helpers/app";
import { test } from "./helpers/test";

test("without a connection nothing tapped is lost: kept over a reload, sent when there is one, once", async ({
  page,
  context,
}) => {
  await signIn(page);
  await openSheet(page, "HH-6002", "Walk-round and brooms");
  const sheetId = must(page.url().split("/").pop());
  let cut = true;
  // The page itself still loads: only what is logged does not get through.
  await context.route("**/api/sheets/*/entries*", (route) =>
    cut ? route.abort("internetdisconnected") : route.continue(),
  );
  await step(page, "Read the hour meter");
  await logMeter(page);
  await step(page, "Safety functions");
  await tap(page, "As it should be");
  await step(page, "Battery gauge, lamps");
  await expect(page.getByTestId("outbox")).toContainText("2 not sent yet. No connection");
  await expect(page.getByRole("button", { name: /Read the hour meter.*not sent yet/s })).toBeVisible();

  await page.reload();
  await step(page, "Battery gauge, lamps");
  await expect(page.getByTestId("outbox")).toContainText("2 not sent yet");
  cut = false;
  await page.evaluate(() => window.dispatchEvent(new Event("online")));
  await allSent(page);
  await page.reload();
  await step(page, "Battery gauge, lamps");
  const { entries } = (await (await page.request.get(`/api/sheets/${sheetId}/entries?have=0`)).json()) as {
    entries: { type: string }[];
  };
  expect(entries.map((entry) => entry.type)).toEqual(["started", "reading", "step-done"]);
});

test("an answer that gets lost on its way back leads to no double", async ({ page, context }) => {
  await signIn(page);
  await openSheet(page, "HH-2002", "Battery water and panel filter");
  const sheetId = must(page.url().split("/").pop());
  let losses = 2;
  await context.route("**/api/sheets/*/entries*", async (route) => {
    if (losses === 0) return route.continue();
    // Nor does it hear by asking, as long as answers get lost.
    if (route.request().method() !== "POST") return route.abort("connectionreset");
    losses -= 1;
    await route.fetch(); // the server took it …
    return route.abort("connectionreset"); // … but the device never hears of it
  });
  await makeSafe(page, PARKED);
  await step(page, "Battery cells, one cap at a time");
  await allSent(page);
  expect(losses).toBe(0);
  const { entries } = (await (await page.request.get(`/api/sheets/${sheetId}/entries?have=0`)).json()) as {
    entries: { type: string }[];
  };
  expect(entries.map((entry) => entry.type)).toEqual(["started", "safety-confirmed"]);
});

test("a second device sees what the first has logged", async ({ page, browser }) => {
  await signIn(page, "mira");
  await openSheet(page, "HH-3001", "Arm and probe alignment");
  await makeSafe(page, "Arm held still");
  await allSent(page);
  const other = await browser.newPage({ baseURL: new URL(page.url()).origin });
  await signIn(other, "tove");
  await other.goto(page.url());
  await step(other, "Robotic arm");
  await tap(other, "As it should be");
  await allSent(other);
  // The first device asks every quarter of a minute.
  await expect(page.getByRole("heading", { level: 2, name: "Both probes" })).toBeVisible({
    timeout: 25_000,
  });
  await other.close();
});

test("a session that ends in the middle keeps the taps until the person is back", async ({ page, context }) => {
  await signIn(page, "tove");
  await openSheet(page, "HH-5002", "Periodic care: rod, strip, bed");
  await context.clearCookies({ name: "hound_session" });
  await tap(page, "Done");
  await expect(page.getByTestId("outbox")).toContainText("1 not sent yet. Sign in again");
  const sheet = page.url();
  await signIn(page, "tove");
  await page.goto(sheet);
  await allSent(page);
  await step(page, "Cover shut, carriage may move");
});

test("a link pressed without a connection leaves the page as it is, and opens when there is one", async ({
  page,
  context,
}) => {
  await signIn(page);
  await openSheet(page, "HH-6002", "Walk-round and brooms");
  await context.setOffline(true);
  await page.getByRole("link", { name: "Humble Hound, to the round" }).click();
  await expect(page.getByTestId("held")).toContainText("No answer from the server.");
  // The sheet, the person's name and what is not sent yet are all still there.
  await expect(page.getByText("Mira Holt", { exact: true })).toBeVisible();
  await expect(page.getByTestId("outbox")).toBeAttached();
  await expect(page.getByRole("article").getByRole("heading", { level: 2 })).toBeVisible();
  await expectAccessible(page);
  await context.setOffline(false);
  await expect(page.getByRole("heading", { name: "Round", level: 1 })).toBeVisible();
  await expect(page.getByTestId("held")).toBeEmpty();
});

test("a page that fails leaves the frame: the name, what is not sent, and the way on", async ({ page }) => {
  await signIn(page);
  await page.goto("/no-such-place");
  await expect(page.getByRole("heading", { name: "Not found" })).toBeVisible();
  await expect(page.getByText("Mira Holt")).toBeVisible();
  await expect(page.getByTestId("outbox")).toBeAttached();
  await page.getByRole("link", { name: "Machines", exact: true }).first().click();
  await expect(page.getByRole("heading", { name: "Machines", level: 1 })).toBeVisible();
});

for (const [how, grams] of [
  ["Send again", "777"],
  ["Put it there", "778"],
] as const)
  test(`a receipt whose answer got lost is booked once: ${how}`, async ({ page, context }) => {
    await signIn(page, "tove");
    await page.goto("/stores/items/lithium-grease");
    await waitUntilReady(page);
    const receipts = () => page.getByRole("row").filter({ hasText: `+${grams} g` });
    await expect(receipts()).toHaveCount(0);
    let lost = 0;
    await context.route("**/stores/items/lithium-grease.data*", async (route) => {
      if (route.request().method() !== "POST" || lost > 0) return route.continue();
      lost += 1;
      await route.fetch(); // it was booked …
      return route.abort("connectionreset"); // … and nobody heard of it
    });
    await page.getByRole("button", { name: "Received", exact: true }).click();
    await page.getByLabel("How much, g").first().fill(grams);
    await page.getByLabel("Where", { exact: true }).selectOption({ label: "Van yard store" });
    await tap(page, "Put it there");
    await expect(page.getByTestId("held")).toContainText("What you typed is still here.");
    await expect(page.getByLabel("How much, g").first()).toHaveValue(grams);
    if (how === "Send again") await tap(page, how);
    else {
      // Reloaded, typed and pressed again: it is the same all the same.
      await page.reload();
      await waitUntilReady(page);
      await expect(receipts()).toHaveCount(1);
      await page.getByRole("button", { name: "Received", exact: true }).click();
      await page.getByLabel("How much, g").first().fill(grams);
      await page.getByLabel("Where", { exact: true }).selectOption({ label: "Van yard store" });
      await tap(page, how);
    }
    await expect(page.getByTestId("held")).toBeEmpty();
    expect(lost).toBe(1);
    await page.goto("/stores/items/lithium-grease");
    await expect(receipts()).toHaveCount(1);
  });

test("a drawn signature outlives a connection that is gone", async ({ page, context }) => {
  await signIn(page);
  await openSheet(page, "HH-2002", "Walk-round and brooms");
  const sheet = new URL(page.url()).pathname;
  await page.goto(`${sheet}/sign`);
  await waitUntilReady(page);
  await drawSignature(page, "Kim Desk");
  await page.getByLabel("Why do you sign without them?").fill("Only half of it");
  await page.getByLabel("Your password").fill(PASSWORD);
  await context.setOffline(true);
  await tap(page, "Sign the sheet");
  await expect(page.getByTestId("held")).toContainText("What you typed is still here.");
  await expect(page.getByRole("img", { name: "Signature of Kim Desk" })).toBeVisible();
  await context.setOffline(false);
  await tap(page, "Send again");
  await expect(page).toHaveURL(/\/book\/records\//);
  await expect(page.getByRole("img", { name: "Signature of Kim Desk" })).toBeVisible();
});
