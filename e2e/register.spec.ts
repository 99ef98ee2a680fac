import { readFileSync } from "node:fs";

import { expect } from "@playwright/test";

import { expectAccessible, signIn, tap } from "./helpers/app";
import { test } from "./helpers/test";

test("a register is checked, its faults are listed, its good rows go in", async ({ page }) => {
  await signIn(page, "jonas");
  await page.goto("/machines");
  await page.getByRole("link", { name: "Import CSV" }).click();
  await tap(page, "Check the file");
  await expect(page.getByText("Choose a CSV file first.")).toBeVisible();
  const csv = [
    "\uFEFFcustomer;site;time_zone;tag;name;family;water_hardness_mg_l;notes",
    'Made Up Co;"Dock; north";Atlantic/Azores;E-1;"Ice ""big""";flake-ice-maker;80,5;"two',
    'lines"',
    "Made Up Co;Dock north;Nowhere/Here;E-2;No zone;flake-ice-maker;;",
    "Made Up Co;Dock north;Atlantic/Azores;E-1;Twice;flake-ice-maker;;",
  ].join("\r\n");
  await page
    .getByLabel("CSV file, one line a machine")
    .setInputFiles({ name: "own register.csv", mimeType: "text/csv", buffer: Buffer.from(csv) });
  await tap(page, "Check the file");
  await expect(page.getByText("1 good row, 2 with faults")).toBeVisible();
  await expect(page.getByRole("row", { name: /4 time_zone is no time zone/ })).toBeVisible();
  await expect(page.getByRole("row", { name: /5 tag Line 2 has the same tag/ })).toBeVisible();
  await expectAccessible(page);
  await tap(page, "Put the good row in");
  await expect(page.getByText("1 machine is in the register.")).toBeVisible();
  await page.getByRole("link", { name: "To the machines" }).click();
  await page.getByLabel("Name, tag, serial, maker or site").fill("E-1");
  await tap(page, "Find");
  await page.getByRole("link", { name: 'Ice "big"' }).click();
  await expect(page.getByRole("link", { name: "Clean and sanitise" })).toBeVisible();
  await expect(page.getByText("80.5 mg/L as CaCO₃, moderately hard")).toBeVisible();

  await page.goto("/machines");
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: "Export CSV" }).click();
  const exported = readFileSync(await (await download).path(), "utf8");
  expect(exported).toContain('"Dock; north"'.replaceAll('"', ""));
  expect(exported).toContain('"Ice ""big"""');
});

test("a meter value that looks like a slip is asked about, then taken, and moves the due day", async ({ page }) => {
  await signIn(page);
  await page.goto("/machines?q=HH-1003");
  await page.getByRole("link", { name: "Sign printer" }).click();
  await page.getByLabel("Meter", { exact: true }).first().selectOption({ label: "Prints" });
  await page.getByLabel("It shows now").fill("71");
  await tap(page, "Log the reading");
  await expect(
    page.getByText(/The last value was 6810 on \S+, this one is 71\. A meter does not run backwards/),
  ).toBeVisible();
  await page.getByLabel("It shows now").fill("7050");
  await tap(page, "Log the reading");
  await expect(page.getByText("7050 prints")).toBeVisible();
  await page.getByRole("link", { name: "Wipe rollers and paper path" }).first().click();
  await page.getByText("Why this day?").click();
  await expect(page.getByText(/left at the last value of 7050/)).toBeVisible();
});

test("an event makes its duty due", async ({ page }) => {
  await signIn(page);
  await page.goto("/machines?q=HH-3001");
  await page.getByRole("main").getByRole("link", { name: "Slide stainer" }).first().click();
  // A run planned for tomorrow: the site's day may differ from this machine's by one.
  await page.getByLabel("Day", { exact: true }).fill(new Date(Date.now() + 36 * 3_600_000).toISOString().slice(0, 10));
  await tap(page, "Log it");
  await expect(
    page.getByRole("listitem").filter({ hasText: "Chambers and modules after a run" }).first(),
  ).toContainText(/due in [12] days?|overdue/);
});
