import { expect } from "@playwright/test";

import { allSent, meterNow, PASSWORD, step, waitUntilReady } from "./helpers/app";
import { reach } from "./helpers/keyboard";
import { test } from "./helpers/test";

test("a whole sheet by keyboard alone", async ({ page }) => {
  await page.clock.install();
  await page.goto("/sign-in");
  await waitUntilReady(page);
  await reach(page, /^Sign-in name$/, null);
  await page.keyboard.type("tove");
  await page.keyboard.press("Tab");
  await page.keyboard.type(PASSWORD);
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/round$/);
  await waitUntilReady(page);

  // An operator's duty: found by what it is called and where.
  await reach(page, /^Find anything/);
  const finding = page.getByRole("dialog");
  await expect(finding).toBeVisible();
  await page.keyboard.type("HH-3001 chambers and");
  await expect(finding.getByRole("option").first()).toContainText("Chambers and modules after a run");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/duties\//);
  await waitUntilReady(page);
  await reach(page, /Open the sheet/);
  await expect(page).toHaveURL(/\/sheet\//);
  await waitUntilReady(page);

  const gate = async (title: string, ...checks: RegExp[]): Promise<void> => {
    await step(page, title);
    for (const check of checks) await reach(page, check, "Space");
    await reach(page, /^All safe: go on$/);
  };
  const settle = async (title: string, button: RegExp): Promise<void> => {
    await step(page, title);
    await reach(page, button);
  };
  await gate("Arm may move", /^Cover closed/, /^One person/);
  await step(page, "Read the run counter");
  await reach(page, /^Reading$/, null);
  await page.keyboard.type(await meterNow(page));
  await reach(page, /^Log the reading$/);
  // Read on the day it was read before, any use is asked about.
  if (await page.getByRole("button", { name: "It is right" }).isVisible()) await reach(page, /^It is right$/);
  await gate("Arm held still", /^Run ended/, /^Software stopped/, /^Gloves, glasses/);
  await settle("All slides unloaded", /^Done$/);
  await settle("Heaters cool", /^Start the clock$/);
  await page.clock.fastForward(5 * 60_000 + 1000);
  await gate("Heaters cool", /^Heaters off/);
  await settle("Chambers off, into a basin of tap water at once", /^Off$/);
  await step(page, "Make up 1 % bleach that will cover them all");
  await reach(page, /strength today$/, null);
  await page.keyboard.press("Control+A");
  await page.keyboard.type("4");
  await expect(page.getByText("125 mL (4.23 US fl oz)")).toBeVisible();
  await reach(page, /^Made up and labelled$/);
  await settle("All chambers under the bleach", /^Done$/);
  await settle("Soak in bleach", /^Start the clock$/);
  await settle("Heater surfaces and inner edge of the holders", /^Done$/);
  await settle("Hinges: push a corner of the towel down", /^Done$/);
  await settle("Residue that is left: alcohol swab", /^Done$/);
  await settle("Tubing and pump syringes", /^As it should be$/);
  await step(page, "Soak in bleach");
  await page.clock.fastForward(16 * 60_000);
  await reach(page, /^Stop the clock$/);
  await settle("Chromogen on the chambers?", /^As it should be$/);
  await step(page, "Running tap water, changed eight times");
  for (let i = 0; i < 8; i++) {
    if (i > 0) await expect(page.getByText(`${i} of 8`).first()).toBeVisible();
    await reach(page, /^One change more$/);
  }
  await settle("Large bath of tap water over all of them", /^Done$/);
  await settle("Air-dry until no drop is left", /^Start the clock$/);
  await page.clock.fastForward(31 * 60_000);
  await reach(page, /^Stop the clock$/);
  await settle("Alcohol swab over the dry surfaces", /^Done$/);
  await settle("Look at each chamber: gasket, cracks, surface", /^As it should be$/);
  await settle("Chambers back on their modules", /^All back on$/);
  await gate("End of: Arm held still", /^Hands, cloths/, /^Software started/);
  await gate("Arm may move", /^Cover closed/, /^One person/);
  await settle("Ready for the next run", /^As expected$/);
  await step(page, "Every step is settled.");
  await allSent(page);
  await reach(page, /^Sign$/);
  await expect(page.getByRole("heading", { name: /^Sign:/ })).toBeVisible();
  await reach(page, /^Signs here$/, "ArrowRight");
  await reach(page, /^Customer's name$/, null);
  await page.keyboard.type("Lab desk");
  await reach(page, /^Your password$/, null);
  await page.keyboard.type(PASSWORD);
  await reach(page, /^Sign the sheet$/);
  await expect(page.getByText("Lab desk (typed)")).toBeVisible();
});
