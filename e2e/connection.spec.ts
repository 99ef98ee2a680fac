import { must } from "../core/must";
import { allSent, makeSafe, openSheet, signIn, step, tap } from "./helpers/app";
import { expect, test } from "./helpers/test";

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
  await makeSafe(page);
  await step(page, "Read the hour meter");
  await page.getByLabel("Reading").fill("700");
  await tap(page, "Log the reading");
  await step(page, "Safety functions");
  await expect(page.getByTestId("outbox")).toContainText("2 not sent yet. No connection");
  await expect(page.getByRole("button", { name: /Read the hour meter.*not sent yet/s })).toBeVisible();

  await page.reload();
  await step(page, "Safety functions");
  await expect(page.getByTestId("outbox")).toContainText("2 not sent yet");
  cut = false;
  await page.evaluate(() => window.dispatchEvent(new Event("online")));
  await allSent(page);
  await page.reload();
  await step(page, "Safety functions");
  const { entries } = (await (await page.request.get(`/api/sheets/${sheetId}/entries?have=0`)).json()) as {
    entries: { type: string }[];
  };
  expect(entries.map((entry) => entry.type)).toEqual(["started", "safety-confirmed", "reading"]);
});

test("an answer that gets lost on its way back leads to no double", async ({ page, context }) => {
  await signIn(page);
  await openSheet(page, "HH-2002", "Walk-round and brooms");
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
  await makeSafe(page);
  await step(page, "Read the hour meter");
  await allSent(page);
  expect(losses).toBe(0);
  const { entries } = (await (await page.request.get(`/api/sheets/${sheetId}/entries?have=0`)).json()) as {
    entries: { type: string }[];
  };
  expect(entries.map((entry) => entry.type)).toEqual(["started", "safety-confirmed"]);
});

test("a second device sees what the first has logged", async ({ page, browser }) => {
  await signIn(page, "mira");
  await openSheet(page, "HH-3001", "Weekly clean and probe alignment");
  await makeSafe(page);
  await allSent(page);
  const other = await browser.newPage({ baseURL: new URL(page.url()).origin });
  await signIn(other, "tove");
  await other.goto(page.url());
  await step(other, "Wipe deck and hinges");
  await tap(other, "Done");
  await allSent(other);
  // The first device asks every quarter of a minute.
  await expect(page.getByRole("heading", { level: 2, name: "Clean the wash stations" })).toBeVisible({
    timeout: 25_000,
  });
  await other.close();
});

test("a session that ends in the middle keeps the taps until the person is back", async ({ page, context }) => {
  await signIn(page, "tove");
  await openSheet(page, "HH-5002", "Periodic service");
  await context.clearCookies({ name: "hound_session" });
  await page.getByLabel("Reading").fill("11000");
  await tap(page, "Log the reading");
  await expect(page.getByTestId("outbox")).toContainText("1 not sent yet. Sign in again");
  const sheet = page.url();
  await signIn(page, "tove");
  await page.goto(sheet);
  await allSent(page);
  await step(page, "Make it safe");
});
