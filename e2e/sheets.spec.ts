import { expect, type Page } from "@playwright/test";
import sharp from "sharp";

import { must } from "../core/must";
import {
  allSent,
  expectAccessible,
  freezeOut,
  iceMakerToTheCleaner,
  KEY_ON,
  logFigures,
  logMeter,
  makeSafe,
  openSheet,
  PARKED,
  PASSWORD,
  signIn,
  stainerToTheSoak,
  step,
  tap,
  waitUntilReady,
} from "./helpers/app";
import { test } from "./helpers/test";

/** The ice maker's sheet up to the flush between acid and chlorine. */
async function cleanedWithAcid(page: Page, tag: string): Promise<void> {
  await openSheet(page, tag, "Clean and sanitise");
  await iceMakerToTheCleaner(page);
  await tap(page, "Done");
  await tap(page, "Start the clock");
  await step(page, "Outside: soft cloth, neutral cleaner");
  await tap(page, "Done");
  await page.clock.fastForward(16 * 60_000);
  await tap(page, "Stop the clock");
  await freezeOut(page, "cleaner");
  await tap(page, "Clean");
  await makeSafe(page, "End of: Incoming water shut");
  await makeSafe(page, "Water open");
  await step(page, "Long flush with fresh water through everything");
}

test("chlorine after acid is blocked while the rinse was skipped", async ({ page }) => {
  await page.clock.install();
  await signIn(page, "tove");
  await cleanedWithAcid(page, "HH-6005");
  await tap(page, "Skip");
  await page.getByLabel("Why is it skipped?").fill("In a hurry");
  await tap(page, "Skip it");
  await makeSafe(page, "Incoming water shut");
  await step(page, "Drain the water system");
  await tap(page, "Done");
  await step(page, "Make up sanitiser");
  await expect(page.getByRole("alert").filter({ hasText: "Chlorine gas is set free" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Made up and labelled" })).toHaveCount(0);
  await expectAccessible(page);
  // The flush done after all: what was done since, and its skipping, are taken back.
  for (let i = 0; i < 3; i++) await tap(page, /^Undo/);
  await step(page, "Long flush with fresh water through everything");
  await tap(page, "Done");
  await makeSafe(page, "Incoming water shut");
  await tap(page, "Done");
  await step(page, "Make up sanitiser");
  await page.getByLabel(/strength today/).fill("2");
  await expect(page.getByText("50 mL (1.69 US fl oz)")).toBeVisible();
  await page.getByText("Why?").click();
  await expect(page.getByText(/stock volume × its strength/)).toBeVisible();
  await tap(page, "Made up and labelled");
  await step(page, "Reservoir cover off");
  await allSent(page);
});

test("two machines at once: the most urgent clock in sight, a switch is one tap, the maximum is warned of", async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.clock.install();
  await signIn(page, "mira");
  await openSheet(page, "HH-1011", "Chambers and modules after a run");
  await stainerToTheSoak(page);
  await tap(page, "Start the clock");
  await expect(page.getByRole("timer")).toContainText("not before 15 min");
  await allSent(page);

  await openSheet(page, "HH-1006", "Strip-down, every 14 days");
  const hands = page.getByRole("region", { name: "Sheets in your hands" });
  const clocks = page.getByRole("timer");
  await expect(clocks).toContainText("Plankton stainer: Soak in bleach");
  // Five minutes more than that: another page goes by the server's clock, which the heaters' cooling did not move on.
  await page.clock.fastForward(23.5 * 60_000);
  await expect(clocks).toContainText("! take it out now: at most 20 min");
  await expectAccessible(page);
  // All of the head: the sheets in hand and the most urgent clock. The rest of it unfolds.
  expect(must(await page.getByRole("banner").boundingBox()).height).toBeLessThanOrEqual(96);
  await expect(page.getByRole("button", { name: "Sign out" })).toBeHidden();
  await tap(page, "Unfold the head");
  await expect(page.getByRole("button", { name: "Sign out" })).toBeVisible();
  await expectAccessible(page);
  await tap(page, "Fold the head");
  await clocks.getByRole("link", { name: /Soak in bleach/ }).click();
  await step(page, "Heater surfaces and inner edge of the holders");
  await page.clock.fastForward(2 * 60_000);
  await expect(page.getByRole("timer")).toContainText("past the maximum of 20 min");
  await hands.getByRole("link", { name: /Soft-serve freezer café/ }).click();
  await step(page, "Brush set and a clean dry place for the parts");

  // A colleague goes on with it.
  await tap(page, "Hand over");
  await page.getByLabel("Who goes on with it?").selectOption({ label: "Tove Sand" });
  await page.getByRole("dialog").getByRole("button", { name: "Hand over" }).click();
  await expect(page.getByText("This sheet is in a colleague's hands now")).toBeVisible();
  await allSent(page);
});

test("an unsafe machine is out of service until a lead signs it back", async ({ page, browser }) => {
  await signIn(page, "mira");
  await openSheet(page, "HH-6002", "Periodic tasks of the manual");
  await logMeter(page);
  await makeSafe(page, PARKED);
  await step(page, /^The manual's table/);
  await tap(page, "As it should be");
  await makeSafe(page, KEY_ON);
  await step(page, /^Brake/);
  await tap(page, "Not so");
  await page.getByLabel("What is wrong?").fill("Brake does not hold on the ramp");
  await tap(page, "Out of service");
  await allSent(page);
  await page.goto("/round");
  await page.getByRole("main").getByRole("link", { name: "Yard sweeper" }).first().click();
  await expect(page.getByRole("heading", { name: "! Out of service" })).toBeVisible();
  await expect(page.getByText("Nobody runs it until a lead returns it to service.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Return to service" })).toHaveCount(0);

  const lead = await (await browser.newContext()).newPage();
  await signIn(lead, "jonas");
  await lead.goto(page.url());
  await expectAccessible(lead);
  await lead.getByLabel(/What was put right/).fill("New brake shoes, held three times");
  await lead.getByLabel("Your password").fill("wrong");
  await tap(lead, "Return to service");
  await expect(lead.getByText("This is not your password. The machine stays out of service.")).toBeVisible();
  await lead.getByLabel("Your password").fill(PASSWORD);
  await tap(lead, "Return to service");
  await expect(lead.getByText(/returned to service by Jonas Rock/)).toBeVisible();
  await lead.goto("/round");
  await expect(lead.getByText("Brake does not hold on the ramp")).toHaveCount(0);
});

test("an expired instrument is flagged, a finding has its picture, and the record takes a correction", async ({
  page,
}) => {
  await signIn(page, "mira");
  await openSheet(page, "HH-3003", "Read the gauge and judge");
  for (let i = 0; i < 2; i++) await tap(page, "As it should be");
  await step(page, "Running");
  await page.getByRole("button", { name: /Process water temperature/ }).click();
  await expect(page.getByText("Not yet: first")).toBeVisible();
  await page.getByLabel("Measured with").waitFor({ state: "detached" });
  await tap(page, "Back to where the work is");
  await page.getByRole("article").getByRole("checkbox").check();
  await tap(page, "All safe: go on");
  await step(page, "Water pressure");
  await page.getByLabel("Reading", { exact: true }).fill("240");
  await logFigures(page);
  await step(page, "Process water temperature");
  await page.getByLabel("Measured with").selectOption({ label: "T-02, Probe thermometer, van 2" });
  await expect(page.getByRole("alert").filter({ hasText: "Its calibration was due" })).toBeVisible();
  await page.getByLabel("Reading").fill("4.5");
  await logFigures(page);
  await step(page, "What does it come to?");
  await tap(page, "Finding");
  await page.getByLabel("What did you find?").fill("Door seal split at the hinge");
  const choose = page.getByLabel("Picture, if it helps");
  await choose.setInputFiles({ name: "seal.png", mimeType: "image/png", buffer: Buffer.from("no picture at all") });
  await tap(page, "Log the finding");
  await expect(page.getByText("This file is no picture that can be read.")).toBeVisible();
  const buffer = await sharp({ create: { width: 1200, height: 900, channels: 3, background: "tan" } })
    .png()
    .toBuffer();
  await choose.setInputFiles({ name: "seal.png", mimeType: "image/png", buffer });
  await tap(page, "Log the finding");
  await tap(page, /^Neither/);
  for (let i = 0; i < 2; i++) await tap(page, "As it should be");
  await tap(page, "Done");
  await tap(page, "As expected");
  await step(page, "Every step is settled.");
  await allSent(page);
  await page.getByRole("link", { name: "Sign", exact: true }).click();
  await page.getByText("Name typed", { exact: true }).click();
  await page.getByLabel("Customer's name").fill("Kitchen");
  await page.getByLabel("Your password").fill(PASSWORD);
  await tap(page, "Sign the sheet");

  await expect(page.getByText("with T-02, Probe thermometer, van 2")).toBeVisible();
  await expect(page.getByText("calibration expired")).toBeVisible();
  await expect(page.getByRole("img", { name: "Door seal split at the hinge" })).toBeVisible();
  const row = page.getByRole("row", { name: /Process water temperature/ });
  await row.getByRole("button", { name: /^Correct 4\.5/ }).click();
  await row.getByLabel(/Should be, instead of/).fill("3.5");
  await row.getByLabel("Why?").fill("Misread the display");
  await row.getByRole("button", { name: "Add the correction" }).click();
  await expect(page.getByText("Corrected by Mira Holt: was 4.5, Misread the display")).toBeVisible();
  await expect(page.getByText(/Addition no\. \d+ of the chain/)).toBeVisible();
  await expectAccessible(page);
});

test("a paper sheet's results are keyed in from field to field", async ({ page }) => {
  await signIn(page, "tove");
  await openSheet(page, "HH-2007", "At each ribbon change");
  await page.getByRole("link", { name: "Key in from paper" }).click();
  await waitUntilReady(page);
  const now = new Date();
  const local = (minutesAgo: number): string =>
    new Date(now.getTime() - minutesAgo * 60_000 - now.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
  await page.getByLabel("Worked from").fill(local(40));
  await page.getByLabel("until").fill(local(10));
  await page.getByLabel("until").press("Enter");
  // Marks, minutes of the card's run, and which sleeve, until the button has the focus.
  const focused = (): Promise<string> =>
    page.evaluate(() => {
      const at = document.activeElement;
      return at instanceof HTMLButtonElement
        ? "button"
        : `${at?.tagName ?? ""} ${at?.getAttribute("aria-label") ?? ""}`;
    });
  let fields = 0;
  for (let at = await focused(); at !== "button"; at = await focused()) {
    if (at.startsWith("SELECT")) await page.keyboard.press("ArrowDown");
    else await page.keyboard.type(at.endsWith("minutes") ? "3" : "x");
    await page.keyboard.press("Enter");
    fields++;
  }
  expect(fields).toBeGreaterThan(20);
  // Back to the top: a field that has half scrolled under the head is not judged by what is left of it.
  await page.evaluate(() => window.scrollTo(0, 0));
  await expectAccessible(page);
  await tap(page, "Log all of it");
  await step(page, "Every step is settled.");
  await allSent(page);
});
