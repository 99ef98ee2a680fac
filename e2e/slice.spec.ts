import { readFileSync } from "node:fs";

import { expect } from "@playwright/test";

import { shortDay } from "../app/kit/days/day-time";
import { pagesOfPdf } from "../app/testing/pdf";
import { must } from "../core/must";
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
} from "./helpers/app";
import { test } from "./helpers/test";

/**
 * From what is due to a signed record, on a laptop and on a phone. Soaks take a quarter of an hour in life: the browser's
 * clock is moved on instead.
 */
for (const { name, viewport, tag, next } of [
  { name: "laptop", viewport: { width: 1280, height: 800 }, tag: "HH-3004", next: { years: 1, days: 0 } },
  { name: "phone", viewport: { width: 390, height: 844 }, tag: "HH-1001", next: { years: 0, days: 182 } },
]) {
  test(`the ice maker's sheet from due to signed, on a ${name}`, async ({ page }) => {
    await page.setViewportSize(viewport);
    await page.clock.install();
    await signIn(page);
    await expect(page.getByText(tag).first()).toBeVisible();
    await openSheet(page, tag, "Clean, sanitise and check the bearings");
    await makeSafe(page);
    await step(page, "Look it over");
    await tap(page, "As it should be");
    if (tag === "HH-1001") {
      await step(page, "Renew the water filter");
      await tap(page, "Done");
    }

    await step(page, "Check the bearing gap");
    await page.getByLabel("Reading").fill("0.02");
    await expect(page.getByRole("img", { name: /too high/ })).toBeVisible();
    await logFigures(page);

    await step(page, "Replace both bearings");
    await page.getByRole("listitem").filter({ hasText: "Top bearing" }).getByRole("button").click();
    await step(page, "Replace both bearings"); // one of a pair is not enough
    await page.getByRole("listitem").filter({ hasText: "Bottom bearing" }).getByRole("button").click();

    for (const round of [1, 2]) {
      await step(page, "Fill with cleaner to overflow");
      if (round === 2) await expect(page.getByText("Pass 2", { exact: true })).toBeVisible();
      await page.getByLabel("Ice machine cleaner, mL").fill("240");
      await page.getByLabel("Ice machine cleaner, lot").fill(`L-${round}`);
      await tap(page, "Done");
      await step(page, "Let the cleaner stand");
      await tap(page, "Start the clock");
      await step(page, "Wipe panels and door meanwhile");
      await expect(page.getByRole("timer")).toContainText("not before 15 min");
      await tap(page, "Done");
      await step(page, "Let the cleaner stand");
      await page.clock.fastForward(17 * 60_000);
      await expect(page.getByRole("timer")).toContainText("long enough");
      await tap(page, "Stop the clock");
      await step(page, "Freeze the cleaner out");
      await tap(page, "Done");
      await step(page, "Is the reservoir clean?");
      await tap(page, round === 1 ? "Not clean: do the whole cycle again" : "Clean");
    }
    await step(page, "Rinse before the sanitiser");
    for (let i = 0; i < 3; i++) await tap(page, "One rinse more");
    await step(page, "Make up sanitiser, 200 ppm");
    await tap(page, "Made up and labelled");
    await step(page, "Fill with sanitiser to overflow");
    await tap(page, "Done");
    await step(page, "Let the sanitiser stand");
    await tap(page, "Start the clock");
    await page.clock.fastForward(22 * 60_000);
    await expect(page.getByRole("timer")).toContainText("past the maximum of 20 min");
    await tap(page, "Stop the clock");
    await tap(page, "Looked at: next step");
    await step(page, "Freeze the sanitiser out, then flush");
    await tap(page, "Done");
    await step(page, "Discard the first ice");
    await tap(page, "Start the clock");
    await page.clock.fastForward(10 * 60_000 + 5000);
    await tap(page, "Stop the clock");

    await step(page, "Prove it");
    await tap(page, "As expected");
    await step(page, "Give it back");
    await tap(page, "Handed over");
    await step(page, "Every step is settled.");
    await allSent(page);
    await page.getByRole("link", { name: "Sign", exact: true }).click();

    await drawSignature(page, "Kim Quay");
    await page.getByLabel("Your password").fill("not my password");
    await tap(page, "Sign the sheet");
    await expect(page.getByText("This is not your password")).toBeVisible();
    await expect(page.getByRole("img", { name: "Signature of Kim Quay" })).toBeVisible();
    await page.getByLabel("Your password").fill(PASSWORD);
    await tap(page, "Sign the sheet");

    await expect(page).toHaveURL(/\/book\/records\//);
    await expect(page.getByRole("row", { name: /Let the sanitiser stand/ })).toContainText("over the maximum: 22");
    await expect(page.getByText("Auger bearing: Top bearing")).toBeVisible();
    await expect(page.getByText(/Ice machine cleaner, 480 mL/)).toBeVisible();
    await expect(page.getByText(/240 mL lot L-2/)).toBeVisible();
    await expect(page.getByRole("img", { name: "Signature of Kim Quay" })).toBeVisible();

    // The due day has moved by the interval, halved where the water is very hard, and says why.
    const due = new Date(await page.evaluate(() => Date.now()));
    due.setUTCFullYear(due.getUTCFullYear() + next.years);
    due.setUTCDate(due.getUTCDate() + next.days);
    const dayBefore = new Date(due.getTime() - 86_400_000);
    const shown = (await page.locator("p", { hasText: "Next time:" }).textContent()) ?? "";
    const say = (day: Date): string => shortDay(day.toISOString().slice(0, 10), "");
    // With its year, when that is another.
    expect(
      [due, dayBefore].some((day) => shown.includes(say(day)) || shown.includes(say(day).replace(/ \d{4}$/, ""))),
    ).toBe(true);
    await page.getByText("Why this day?").click();
    await expect(page.getByText(/the last completion on/).first()).toBeVisible();
    if (tag === "HH-1001") await expect(page.getByText(/site factor 0.5 = 182 days/)).toBeVisible();
    await expectAccessible(page);

    const download = page.waitForEvent("download");
    const url = await page.getByRole("link", { name: "PDF" }).getAttribute("href");
    await page.evaluate((href) => {
      const link = document.createElement("a");
      link.href = href;
      link.download = "";
      link.click();
    }, must(url));
    const pdf = readFileSync(await (await download).path());
    expect(pdf.subarray(0, 5).toString()).toBe("%PDF-");
    const text = pagesOfPdf(pdf).join("\f");
    for (const words of [
      "Service record",
      tag,
      "Kim Quay",
      "Mira Holt, signed with password",
      "over the maximum",
      "lot L-1, L-2",
      "page 1 of",
    ])
      expect(text).toContain(words);
    await page.goto("/round");
    await expect(page.getByText(tag)).toHaveCount(0);
  });
}

test("a visit without access leaves the duty due and says why", async ({ page }) => {
  await signIn(page);
  await openSheet(page, "HH-4001", "Clean, sanitise and check the bearings");
  await tap(page, "End without the work");
  await page.getByLabel("No access").check();
  await page.getByLabel("Why, in a few words").fill("Children in the kitchen already");
  await tap(page, "End the sheet");
  await expect(page).toHaveURL(/\/book\/records\//);
  await expect(page.getByText("No access: the work was not done")).toBeVisible();
  await page.getByRole("link", { name: "Flake ice maker school", exact: true }).click();
  await expect(page.getByText("Children in the kitchen already")).toBeVisible();
});

test("the printer's counter comes first, its reset cannot be forgotten", async ({ page }) => {
  await signIn(page);
  await openSheet(page, "HH-5001", "Periodic service");
  await step(page, "Read the service counter first");
  await expect(page.getByText("Last: 12240 prints")).toBeVisible();
  await page.getByLabel("Reading").fill("12,700");
  await page.getByLabel("Reading").fill("12700");
  await logFigures(page);
  await makeSafe(page);
  for (const title of [
    "Clean and dry the carriage rod",
    "Oil the rod: a thin zig-zag",
    "Clean the encoder strip, both sides",
    "Clear the platen holes",
  ]) {
    await step(page, title);
    await tap(page, "Done");
  }
  await step(page, "Maintenance cartridge level");
  await tap(page, "As it should be");
  await step(page, "Close covers, plug in, switch on");
  await tap(page, "Done");
  await step(page, "Automatic purge");
  await tap(page, "Start the clock");
  await tap(page, "Stop early");
  await tap(page, "Leave it so: next step");
  await step(page, "Test print");
  await tap(page, "As expected");
  await step(page, "Reset the service counter");
  await page.getByLabel("Service counter after the reset").fill("12701");
  await tap(page, "Log what it shows");
  await expect(page.getByRole("alert").filter({ hasText: "it is not reset" })).toBeVisible();
  await allSent(page);

  await page.getByRole("link", { name: "To the signatures" }).click();
  await expect(page.getByText("The counter is not reset:")).toBeVisible();
  await page.getByLabel("Name typed").check();
  await page.getByLabel("Customer's name").fill("Press desk");
  await page.getByLabel("Your password").fill(PASSWORD);
  await tap(page, "Sign the sheet");
  await expect(page.getByText("Steps are missing. Do them, or say why you sign without them.")).toBeVisible();
  await page.getByRole("link", { name: "Back to the sheet" }).click();
  await page.getByLabel("Service counter after the reset").fill("0");
  await tap(page, "Log what it shows");
  await step(page, "Every step is settled.");
  await allSent(page);
  await page.getByRole("link", { name: "Sign", exact: true }).click();
  await page.getByLabel("Nobody present").check();
  await page.getByLabel("Why does nobody sign?").fill("Press room empty");
  await page.getByLabel("Your password").fill(PASSWORD);
  await tap(page, "Sign the sheet");
  await expect(page.getByText("Not present: Press room empty")).toBeVisible();
  await expect(page.getByRole("row", { name: /Automatic purge/ })).toContainText("cut short");
});

test("the sweeper's polish mark is adjusted and measured again, and a tap can be taken back", async ({ page }) => {
  await signIn(page);
  await openSheet(page, "HH-8001", "Walk-round and brooms");
  await makeSafe(page);
  await step(page, "Read the hour meter");
  await logMeter(page);
  await step(page, "Safety functions");
  await tap(page, "Not so");
  await page.getByLabel("What is wrong?").fill("Horn is silent");
  await tap(page, "Out of service");
  await step(page, "Main broom bristle");
  await tap(page, /^Undo/);
  await step(page, "Safety functions");
  await tap(page, "As it should be");
  for (const [point, value] of [
    ["Left", "3.1"],
    ["Middle", "3.0"],
    ["Right", "3.2"],
  ] as const)
    await page.getByLabel(point, { exact: true }).fill(value);
  await logFigures(page, "Log the readings");
  await step(page, "Side broom bristle");
  await page.getByLabel("Left broom").fill("2.4");
  await page.getByLabel("Right broom").fill("2.9");
  await logFigures(page, "Log the readings");
  await step(page, "Replace both side brooms");
  await tap(page, "Both fitted");
  await step(page, "Polish mark of the main broom");
  await page.getByLabel("Reading").fill("0.6");
  await logFigures(page);
  await expect(page.getByRole("alert").filter({ hasText: "Too narrow: turn the knob" })).toBeVisible();
  await page.getByLabel("Reading").fill("1.1");
  await logFigures(page, "Log the new reading");
  await step(page, "Battery cells");
  await allSent(page);
});
