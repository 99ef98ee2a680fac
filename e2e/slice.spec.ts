import { readFileSync } from "node:fs";

import { expect } from "@playwright/test";

import { shortDay } from "../app/kit/days/day-time";
import { pagesOfPdf } from "../app/testing/pdf";
import { must } from "../core/must";
import {
  allSent,
  drawSignature,
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
    await openSheet(page, tag, "Clean and sanitise");
    await iceMakerToTheCleaner(page);
    for (const round of [1, 2]) {
      if (round === 2) {
        await step(page, "Drain the water system");
        await expect(page.getByText("Pass 2", { exact: true })).toBeVisible();
        await tap(page, "Done");
        await tap(page, "Off");
      }
      await step(page, "Cleaner into the reservoir, to overflow");
      await page.getByLabel("Ice machine cleaner, mL").fill("240");
      await page.getByLabel("Ice machine cleaner, lot").fill(`L-${round}`);
      await tap(page, "Done");
      await step(page, "Let the cleaner stand");
      await tap(page, "Start the clock");
      if (round === 1) {
        await step(page, "Outside: soft cloth, neutral cleaner");
        await expect(page.getByRole("timer")).toContainText("not before 15 min");
        await tap(page, "Done");
        await step(page, "Let the cleaner stand");
      }
      await page.clock.fastForward(17 * 60_000);
      await expect(page.getByRole("timer")).toContainText("long enough");
      await tap(page, "Stop the clock");
      await freezeOut(page, "cleaner");
      await step(page, "Look into the reservoir");
      await tap(page, round === 1 ? "Not clean: the whole cycle again" : "Clean");
    }
    await makeSafe(page, "End of: Incoming water shut");
    await makeSafe(page, "Water open");
    await step(page, "Long flush with fresh water through everything");
    await tap(page, "Done");
    await makeSafe(page, "Incoming water shut");
    await step(page, "Drain the water system");
    await tap(page, "Done");
    await step(page, "Make up sanitiser");
    await tap(page, "Made up and labelled");
    await tap(page, "Off");
    await step(page, "Sanitiser into the reservoir, to overflow");
    await tap(page, "Done");
    await step(page, "Let the sanitiser stand");
    await tap(page, "Start the clock");
    await step(page, "Bin: wash, rinse");
    await tap(page, "Done");
    await page.clock.fastForward(22 * 60_000);
    await expect(page.getByRole("timer")).toContainText("past the maximum of 20 min");
    await tap(page, "Stop the clock");
    await tap(page, "Looked at: next step");
    await freezeOut(page, "sanitiser");
    await makeSafe(page, "End of: Incoming water shut");
    await makeSafe(page, "Water open");
    await step(page, "Thorough flush with fresh water");
    await tap(page, "Done");
    await step(page, "Bin: sanitise by the label, let it dry");
    await tap(page, "Done");
    await makeSafe(page, "Making ice");
    await step(page, "Catch all ice of the first ten minutes");
    await tap(page, "Start the clock");
    await page.clock.fastForward(10 * 60_000 + 5000);
    await tap(page, "Stop the clock");
    await step(page, "Ice for use");
    await tap(page, "As expected");
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
    await expect(page.getByRole("heading", { name: "Round", level: 1 })).toBeVisible();
    await expect(
      page.getByRole("listitem").filter({ hasText: tag }).filter({ hasText: "Clean and sanitise" }),
    ).toHaveCount(0);
  });
}

test("a visit without access leaves the duty due and says why", async ({ page }) => {
  await signIn(page);
  await openSheet(page, "HH-4001", "Clean and sanitise");
  await tap(page, "End without the work");
  await page.getByLabel("No access").check();
  await page.getByLabel("Why, in a few words").fill("Children in the kitchen already");
  await tap(page, "End the sheet");
  await expect(page).toHaveURL(/\/book\/records\//);
  await expect(page.getByText("No access: the work was not done")).toBeVisible();
  await page.getByRole("link", { name: "Flake ice maker school", exact: true }).click();
  await expect(page.getByText("Children in the kitchen already")).toBeVisible();
});

test("a feeler that goes in anywhere renews both bearings; one of the pair is not enough", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, "tove");
  await openSheet(page, "HH-8004", "Bearing check");
  await makeSafe(page, "Off, water shut, locked out");
  await makeSafe(page, "Drained");
  await makeSafe(page, "Chute and cutter off");
  await step(page, "Bolt back into the auger");
  await tap(page, "Done");
  await step(page, "Rock the auger back and forth by the bolt");
  await tap(page, "As it should be");
  await step(page, "Feeler between auger and bearing");
  for (const [point, value] of [
    ["Front", "0.01"],
    ["Right", "0.02"],
    ["Back", "0"],
    ["Left", "0"],
  ] as const)
    await page.getByLabel(point, { exact: true }).fill(value);
  await expect(page.getByRole("img", { name: /too high/ })).toBeVisible();
  await logFigures(page, "Log the readings");
  await tap(page, "Done");
  await step(page, "Bearings worn: today?");
  await tap(page, /Yes: renew them now/);
  await step(page, "Hex screws of the extruding head out, each with its water seal");
  await tap(page, "Off");
  await tap(page, "Go this way");
  await tap(page, "Done");
  await step(page, "Auger and head together straight up and out");
  await tap(page, "Off");
  await step(page, "Grip off, extruding head off the auger");
  await tap(page, "Done");
  await step(page, "Bearing surfaces of the auger");
  await tap(page, "As it should be");
  await step(page, "Wall of the cylinder");
  await tap(page, "As it should be");
  await tap(page, "Off"); // housing screws
  await step(page, /^Clamp band loose/);
  await tap(page, "Done");
  await step(page, "O-ring between housing and cylinder");
  await tap(page, "As it should be");
  await tap(page, "Off"); // foot bolts and housing
  await step(page, "Both bearings pressed out, new ones pressed in");
  await page.getByRole("listitem").filter({ hasText: "Top bearing" }).getByRole("button").click();
  await step(page, "Both bearings pressed out, new ones pressed in");
  await page.getByRole("listitem").filter({ hasText: "Bottom bearing" }).getByRole("button").click();
  await expect(
    page.getByRole("heading", { level: 2, name: "Both bearings pressed out, new ones pressed in" }),
  ).toHaveCount(0);
  await allSent(page);
});

test("the printer's heads are timed off their caps, its counter's reset cannot be forgotten", async ({ page }) => {
  await page.clock.install();
  await signIn(page);
  await openSheet(page, "HH-5001", "Periodic care: rod, strip, bed");
  const cover = async (state: "open" | "shut"): Promise<void> =>
    makeSafe(page, state === "open" ? "Carriage stands, cover open" : "Cover shut, carriage may move");
  const done = async (...titles: (string | RegExp)[]): Promise<void> => {
    for (const title of titles) {
      await step(page, title);
      await tap(page, "Done");
    }
  };
  await done(/^Everything within reach/);
  await cover("shut");
  await done(/preventive maintenance, start/);
  await cover("open");
  await done("Wipe the rod that is reachable", "Dry that part completely");
  await cover("shut");
  await done("Cover shut: follow the panel");
  await cover("open");
  await done("Wipe and dry the rest of the rod", /hair-thin zig-zag/);
  await cover("shut");
  await done(/the printer spreads it/);
  await cover("open");
  await step(page, "Film of oil");
  await tap(page, "Even");
  await cover("shut");
  await done(/encoder-strip cleaning/);
  await step(page, "Heads are off their caps");
  await tap(page, "Start the clock");
  // The strip is cleaned while the clock runs, each time with the cover's own gate.
  await cover("open");
  await done("Both faces of the strip, all of its surface");
  await tap(page, "As it should be");
  await cover("shut");
  await done(/goes to the left end/);
  await cover("open");
  await done(/^Right end of the strip/);
  await cover("shut");
  await done(/into its parking station/);
  await step(page, "Heads are off their caps");
  await page.clock.fastForward(12 * 60_000);
  await expect(page.getByRole("timer")).toContainText("past the maximum of 10 min");
  await tap(page, "Stop the clock");
  await tap(page, "Looked at: next step");
  await cover("open");
  await done("Wipe the bed: ink and media dust", "1 mm pin right through every hole");
  await tap(page, "All");
  await done("Loosened dust, pins and cloths out");
  await cover("shut");
  await step(page, "Nozzle or test print");
  await tap(page, "As it should be");
  await step(page, /life-counter reset$/);
  await page.getByLabel("Care counter after the reset").fill("97");
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
  await page.getByLabel("Care counter after the reset").fill("0");
  await tap(page, "Log what it shows");
  await step(page, "Care warning");
  await tap(page, "Gone");
  await step(page, "Ready to print");
  await tap(page, "As expected");
  await step(page, "Every step is settled.");
  await allSent(page);
  await page.getByRole("link", { name: "Sign", exact: true }).click();
  await page.getByLabel("Nobody present").check();
  await page.getByLabel("Why does nobody sign?").fill("Press room empty");
  await page.getByLabel("Your password").fill(PASSWORD);
  await tap(page, "Sign the sheet");
  await expect(page.getByText("Not present: Press room empty")).toBeVisible();
  await expect(page.getByRole("row", { name: /Heads are off their caps/ })).toContainText("over the maximum");
});

test("the sweeper's polish mark is adjusted and measured again, and a tap can be taken back", async ({ page }) => {
  await signIn(page);
  await openSheet(page, "HH-8001", "Walk-round and brooms");
  await step(page, "Read the hour meter");
  await logMeter(page);
  await step(page, "Safety functions");
  await tap(page, "Not so");
  await page.getByLabel("What is wrong?").fill("Horn is silent");
  await tap(page, "Out of service");
  await step(page, "Battery gauge, lamps");
  await tap(page, /^Undo/);
  await step(page, "Safety functions");
  await tap(page, "As it should be");
  await step(page, "Battery gauge, lamps");
  await tap(page, "As it should be");
  await makeSafe(page, PARKED);
  await tap(page, "As it should be");
  await step(page, "Main broom bristle");
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
  await makeSafe(page, KEY_ON);
  await step(page, "Polish mark of the main broom");
  await page.getByLabel("Reading").fill("0.6");
  await logFigures(page);
  await expect(page.getByRole("alert").filter({ hasText: "Too narrow: broom knob" })).toBeVisible();
  await page.getByLabel("Reading").fill("1.1");
  await logFigures(page, "Log the new reading");
  await step(page, "Drive a test strip");
  await allSent(page);
});
