import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

import { chromium, expect } from "@playwright/test";
import QRCode from "qrcode";
import sharp from "sharp";

import { must } from "../core/must";
import {
  allSent,
  drawSignature,
  expectAccessible,
  expectNothingSideways,
  makeSafe,
  PASSWORD,
  signIn,
  step,
  tap,
  waitUntilReady,
} from "./helpers/app";
import { test } from "./helpers/test";

test("a technician before an unknown machine adds it on the phone, with its site, and works its first sheet", async ({
  page,
  browser,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, "mira");
  await page.goto("/t/NEW-77");
  await expect(page.getByText("No machine in the register has the tag NEW-77.")).toBeVisible();
  await waitUntilReady(page);
  await expectAccessible(page);
  await expectNothingSideways(page);

  await page.getByRole("link", { name: "The site is not here yet" }).click();
  await page.getByLabel("Customer", { exact: true }).fill("Island school board");
  await page.getByLabel("Site", { exact: true }).fill("School office");
  await page.getByLabel("When one gets in").fill("whenever");
  await tap(page, "Add the site");
  await expect(page.getByRole("alert").filter({ hasText: "whenever" })).toBeVisible();
  await page.getByLabel("When one gets in").fill("");
  await expectAccessible(page);
  await tap(page, "Add the site");

  await expect(page.getByLabel("Site", { exact: true })).toHaveValue("School office, Island school board");
  await expect(page.getByLabel("Tag", { exact: true })).toHaveValue("NEW-77");
  await waitUntilReady(page);
  await page.getByText("Card printer", { exact: true }).click();
  await tap(page, "Add the machine");
  await expect(page.getByText("Give the machine a name.")).toBeVisible();
  await page.getByLabel("Name", { exact: true }).fill("Card printer, office");
  await tap(page, "Meters, maker, picture: now or later");
  await page.getByLabel("Rear fan with filter").check();
  await tap(page, "Add the machine");

  await expect(page.getByRole("heading", { level: 1, name: "What it owes" })).toBeVisible();
  await expectAccessible(page);
  await expectNothingSideways(page);
  const owed = page.getByRole("listitem");
  const fan = owed.filter({ hasText: "Rear fan filter" });
  const count = await owed.count();
  await owed.filter({ hasNotText: "Rear fan filter" }).first().getByRole("checkbox").uncheck();
  const day = await fan.getByLabel(/^First day of/).inputValue();
  await tap(page, "Take these");
  await expect(page.getByText("Added on the spot by Mira Holt")).toBeVisible();
  await page.getByRole("link", { name: "What it owes" }).click();
  await expect(owed).toHaveCount(count - 1);
  await expect(fan.getByLabel(/^First day of/)).toHaveValue(day);
  await tap(page, "Take these");

  await page.getByRole("link", { name: "Rear fan filter" }).click();
  await tap(page, /the sheet/);
  await waitUntilReady(page);
  await makeSafe(page, "Switched off, unplugged");
  await step(page, /^Access door open/);
  await tap(page, "Off");
  await step(page, "Wait for it, or fit a dry spare?");
  await page.getByRole("radio", { name: /^A dry spare/ }).check();
  await tap(page, "Go this way");
  await step(page, /^Rinse in cool water/);
  await tap(page, "Done");
  await step(page, "The filter that goes in");
  await tap(page, "As it should be");
  await step(page, /^Dry filter into its mount/);
  await tap(page, "All back on");
  await step(page, "Vents, and room around them");
  await tap(page, "As it should be");
  for (const gate of ["End of: Switched off, unplugged", "Doors shut, it may run"]) await makeSafe(page, gate);
  await step(page, "Power on");
  await tap(page, "As expected");
  await step(page, "Every step is settled.");
  await allSent(page);
  await page.getByRole("link", { name: "Sign", exact: true }).click();
  await drawSignature(page, "Kim Quay");
  await page.getByLabel("Your password").fill(PASSWORD);
  await tap(page, "Sign the sheet");
  await expect(page).toHaveURL(/\/book\/records\//);

  // The lead finds what was added where the day begins, and looks it over.
  const lead = await (await browser.newContext()).newPage();
  await signIn(lead, "jonas");
  const added = lead.getByRole("region", { name: "Added on the spot" });
  await expect(added.getByRole("listitem")).toHaveCount(2);
  await added.getByRole("link", { name: "Card printer, office" }).click();
  await expectAccessible(lead);
  await tap(lead, "It is right");
  await expect(lead.getByText("Added on the spot")).toHaveCount(0);
  await lead.goto("/round");
  await added.getByRole("link", { name: "School office" }).click();
  await tap(lead, "It is right");
  await expect(lead.getByText("Added on the spot")).toHaveCount(0);
  await lead.goto("/round");
  await expect(lead.getByRole("heading", { name: "Round" })).toBeVisible();
  await expect(added).toHaveCount(0);
  await lead.context().close();
});

test("one like it is added by copy, and taken out for good with its history", async ({ page }) => {
  await signIn(page, "jonas");
  await page.goto("/t/HH-3001");
  const name = must(await page.getByRole("heading", { level: 1 }).textContent());
  await page.getByRole("link", { name: "Add one like it" }).click();
  await expect(page.getByRole("heading", { level: 1, name: `Add one like ${name}` })).toBeVisible();
  await waitUntilReady(page);
  await expectAccessible(page);
  await page.getByRole("button", { name: /^Take / }).click();
  const tag = await page.getByLabel("Tag", { exact: true }).inputValue();
  expect(tag).toMatch(/^HH-\d{4}$/);
  await page.getByLabel("Name", { exact: true }).fill("A second one");
  await tap(page, "Add the machine");
  await tap(page, "Take these");
  await expect(page.getByRole("heading", { level: 1, name: "A second one" })).toBeVisible();
  await expect(page.getByText("Added on the spot")).toHaveCount(0);

  await page.getByRole("link", { name: "Set up" }).click();
  const move = page.getByRole("region", { name: "Move it to another site" });
  await move.getByLabel("Site", { exact: true }).fill("No such place");
  await move.getByRole("button", { name: "Move it" }).click();
  await expect(move.getByText("No site begins like “No such place”.")).toBeVisible();
  await move.getByLabel("Site", { exact: true }).fill("Boatyard");
  await move.getByRole("button", { name: "Move it" }).click();
  await expect(page.getByRole("link", { name: "Boatyard" })).toBeVisible();

  await page.getByRole("link", { name: "Set up" }).click();
  await page.getByRole("link", { name: "Take it out for good" }).click();
  await expect(page.getByText(/With it ends what is open: \d+ duties\./)).toBeVisible();
  await expectAccessible(page);
  await tap(page, "Take it out");
  await expect(page.getByText("Say why, such as sold")).toBeVisible();
  await page.getByLabel("Why", { exact: true }).fill("Sold");
  await tap(page, "Take it out");
  await expect(page.getByText("Taken out of the register")).toBeVisible();
  await page.goto("/machines?q=A second one");
  await expect(page.getByText("No machine matches.")).toBeVisible();
  await page.getByLabel("State").selectOption("Taken out");
  await tap(page, "Find");
  await page.getByRole("link", { name: "A second one" }).click();
  await page.getByRole("link", { name: "Take it back" }).click();
  await tap(page, "Take it back");
  await expect(page.getByText("Taken out of the register")).toHaveCount(0);
});

test("a tag is read by the camera; without one it is typed", async ({ page, baseURL }) => {
  await signIn(page, "mira");
  await page.goto("/machines/new");
  await waitUntilReady(page);
  await tap(page, "Scan the tag");
  await expect(page.getByText(/^! .*type the code\.$/i)).toBeVisible();
  await expectAccessible(page);
  await tap(page, "Type it instead");
  await page.getByLabel("Tag", { exact: true }).fill("TYPED-1");

  // A browser whose camera sees a tag of ours.
  const folder = mkdtempSync(join(tmpdir(), "hound-camera-"));
  const film = join(folder, "tag.mjpeg");
  const code = await QRCode.toBuffer(`${baseURL}/t/SCAN-42`, { width: 360, margin: 4 });
  const frame = await sharp({ create: { width: 640, height: 480, channels: 3, background: "#d8d8d8" } })
    .composite([{ input: code }])
    .jpeg({ quality: 90 })
    .toBuffer();
  writeFileSync(film, Buffer.concat(Array.from({ length: 30 }, () => frame)));
  const seeing = await chromium.launch({
    executablePath: must(process.env.CHROMIUM),
    args: [
      "--no-sandbox",
      "--use-fake-ui-for-media-stream",
      "--use-fake-device-for-media-stream",
      `--use-file-for-fake-video-capture=${film}`,
    ],
  });
  try {
    const scanner = await (await seeing.newContext({ baseURL: must(baseURL) })).newPage();
    const asked: string[] = [];
    scanner.on("request", (request) => {
      if (!request.url().startsWith(must(baseURL)) && !/^(data|blob):/.test(request.url())) asked.push(request.url());
    });
    await signIn(scanner, "mira");
    await scanner.goto("/machines/new");
    await waitUntilReady(scanner);
    await tap(scanner, "Scan the tag");
    await expect(scanner.getByLabel("Tag", { exact: true })).toHaveValue("SCAN-42");
    expect(asked).toEqual([]);
  } finally {
    await seeing.close();
    rmSync(folder, { recursive: true });
  }
});
