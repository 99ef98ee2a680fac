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

  await reach(page, /^Chambers after a run$/);
  await expect(page).toHaveURL(/\/duties\//);
  await waitUntilReady(page);
  await reach(page, /Open the sheet/);
  await expect(page).toHaveURL(/\/sheet\//);
  await waitUntilReady(page);

  await step(page, "Make it safe");
  await reach(page, /^Run ended/, "Space");
  await reach(page, /^Gloves, glasses/, "Space");
  await reach(page, /^All safe: go on$/);
  await step(page, "Read the run counter");
  await reach(page, /^Reading$/, null);
  await page.keyboard.type(await meterNow(page));
  await reach(page, /^Log the reading$/);
  // Read on the day it was read before, any use is asked about.
  if (await page.getByRole("button", { name: "It is right" }).isVisible()) await reach(page, /^It is right$/);
  await step(page, "Chambers out");
  await reach(page, /^Done$/);
  await step(page, "Rinse the chambers in tap water");
  await reach(page, /^Done$/);
  await step(page, "Make up 1 % chlorine");
  await reach(page, /strength today$/, null);
  await page.keyboard.press("Control+A");
  await page.keyboard.type("4");
  await expect(page.getByText("125 mL (4.23 US fl oz)")).toBeVisible();
  await reach(page, /^Made up and labelled$/);
  await step(page, "Soak in 1 % chlorine");
  await reach(page, /^Start the clock$/);
  await step(page, "Wipe the probe arm meanwhile");
  await reach(page, /^Done$/);
  await step(page, "Soak in 1 % chlorine");
  await page.clock.fastForward(16 * 60_000);
  await reach(page, /^Stop the clock$/);
  await step(page, "Change the rinse water");
  for (let i = 0; i < 8; i++) {
    if (i > 0) await expect(page.getByText(`${i} of 8`).first()).toBeVisible();
    await reach(page, /^One change more$/);
  }
  await step(page, "Inspect the gaskets");
  await reach(page, /^As it should be$/);
  await step(page, "Chambers back, air-dried");
  await reach(page, /^Done$/);
  await step(page, "Chambers back, dry");
  await reach(page, /^As expected$/);
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
