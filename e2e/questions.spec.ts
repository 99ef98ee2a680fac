import { expect } from "@playwright/test";

import { allSent, expectAccessible, openSheet, PARKED, signIn, step, tap } from "./helpers/app";
import { test } from "./helpers/test";

test("a figure that cannot be is refused, one that is odd is asked about once, and the answer stays with it", async ({
  page,
}) => {
  await signIn(page, "tove");
  await openSheet(page, "HH-2001", "Periodic tasks of the manual");
  await step(page, "Read the hour meter");
  const reading = page.getByLabel("Reading", { exact: true });

  // A digit too many: more hours than there are.
  await reading.fill("99,999");
  await expect(page.getByText(/99999 h cannot be: that is \d+ h more than the last value/)).toBeVisible();
  await expect(page.getByRole("button", { name: "Log the reading" })).toHaveAttribute("aria-disabled", "true");

  // Another meter's face: asked, and typed over.
  await reading.fill("2.4");
  await tap(page, "Log the reading");
  const question = page.getByRole("region", { name: "2.4 h?" });
  await expect(question).toContainText(/Before: .* on .*Expected: \d+ to \d+ h\./);
  await expect(question.getByRole("heading")).toBeFocused();
  await expectAccessible(page);
  await tap(page, "Typed wrong");
  await expect(reading).toBeFocused();
  await expect(question).toHaveCount(0);

  // A new meter: what the old one ended with belongs to it.
  await reading.fill("2.4");
  await page.keyboard.press("Enter");
  await tap(page, "The meter was replaced");
  await page.getByLabel("The old one showed at last").fill("5");
  await expect(page.getByText(/At least \d+, which it showed already/)).toBeVisible();
  await page.getByLabel("The old one showed at last").fill("");
  await tap(page, "Log the new meter");
  await step(page, PARKED);
  // Focus goes with the work, and says where in the sheet that is.
  const heading = page.getByRole("heading", { level: 2, name: PARKED });
  await expect(heading).toBeFocused();
  await expect(heading).toHaveAccessibleDescription("Step 2 of 6");
  await allSent(page);

  // Nobody's oven is at −400 °C: the gate stays shut.
  await openSheet(page, "HH-2008", "Daily exterior, belt and pans");
  await step(page, "Isolated");
  for (const check of await page.getByRole("article").getByRole("checkbox").all()) await check.check();
  await tap(page, "All safe: go on");
  await step(page, "Cool");
  await page.getByLabel("Surface temperature").fill("-400");
  await expect(page.getByText("-400 °C cannot be: less than -90 °C is not possible.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Log it" })).toHaveAttribute("aria-disabled", "true");
  await page.getByLabel("Surface temperature").fill("31");
  await tap(page, "Log it");
  await expect(page.getByText("31 °C, cool enough")).toBeVisible();
  await allSent(page);
});
