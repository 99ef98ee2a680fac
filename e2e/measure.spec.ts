import { expect, type Page } from "@playwright/test";

import { expectAccessible, makeSafe, signIn, step, tap, waitUntilReady } from "./helpers/app";
import { test } from "./helpers/test";

async function timed(page: Page, ...seconds: number[]): Promise<void> {
  for (const [i, value] of seconds.entries())
    await page.getByLabel(`Run ${i + 1}`, { exact: true }).fill(String(value));
  await tap(page, "Log the readings");
}

test("times that scatter are taken again; one beyond its limits is adjusted and measured again, or left because", async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, "tove");
  await page.goto("/practice/conveyor-toaster-speed");
  await waitUntilReady(page);
  await timed(page, 58, 60, 70);
  await expect(page.getByRole("alert")).toContainText("These lie 12 s apart");
  await expectAccessible(page);
  await tap(page, "Take them again");
  await expect(page.getByLabel("Run 1", { exact: true })).toHaveValue("");

  await timed(page, 65, 66, 65);
  // Nothing is passed by: what it means, and what is done about it.
  await expect(page.getByRole("alert")).toContainText("Belt is slower than its dial.");
  await expect(page.getByText(/Too high: it should be at least 57 and at most 63 s/)).toBeVisible();
  await expectAccessible(page);
  await tap(page, "Adjusted: measure again");
  await expect(page.getByLabel("Run 1", { exact: true })).toBeFocused();
  for (const run of [1, 2, 3]) await page.getByLabel(`Run ${run}`, { exact: true }).fill("64");
  await tap(page, "Log the new reading");
  await tap(page, "Left so, because…");
  await page.getByLabel("Why is it left so?").fill("Dial at its stop");
  await tap(page, "Leave it");
  await step(page, "Unplugged");
});

test("a reading on the instrument's own scale is worked out of what it shows", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, "tove");
  await page.goto("/practice/icp-spectrometer-daily");
  await waitUntilReady(page);
  await makeSafe(page, "Plasma off, pump stopped");
  await tap(page, "As it should be");
  await page.getByLabel("Reading", { exact: true }).fill("0");
  await tap(page, "Log the reading");
  await makeSafe(page, "Plasma may light");
  await tap(page, "Done");
  await tap(page, "Start the clock");
  for (const _ of [1, 2, 3, 4, 5]) await tap(page, "Let 5 minutes pass");
  await tap(page, "Stop the clock");

  await step(page, "Blank: background, % of its own value");
  const reading = page.getByLabel("Reading", { exact: true });
  await page.getByLabel("Counts now", { exact: true }).fill("1 260");
  await page.getByLabel("Counts when all was clean", { exact: true }).fill("1050");
  await expectAccessible(page);
  await tap(page, "Into the reading");
  await expect(reading).toHaveValue("120");
  await tap(page, "Log the reading");

  await step(page, "Standard, five repeats: scatter");
  // Mean 84,036 and standard deviation 255.6: 0.30 %.
  for (const [i, counts] of [84_120, 83_950, 84_400, 84_010, 83_700].entries())
    await page.getByLabel(`Repeat ${i + 1}`, { exact: true }).fill(String(counts));
  await tap(page, "Into the reading");
  await expect(reading).toHaveValue("0.3");
  await tap(page, "Log the reading");
  await step(page, "Check standard: intensity, % of its own value");
});

test("of a check fluid's results the one farthest off counts, with its sign", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, "tove");
  await page.goto("/book/bench?tool=check-fluid");
  await waitUntilReady(page);
  const analyte = async (nth: number, ...figures: string[]): Promise<void> => {
    const row = page.getByRole("group", { name: `Analyte ${nth}`, exact: true });
    for (const [i, label] of ["Result", "Lot's mean", "Lot's SD"].entries())
      await row.getByLabel(label, { exact: true }).fill(figures[i] ?? "");
  };
  await analyte(1, "5,4", "5", "0.2");
  await expect(page.getByText("2 SD", { exact: true })).toBeVisible();
  await tap(page, "One more analyte");
  await analyte(2, "131", "140", "3");
  await expect(page.getByText("-3 SD, the farthest off of 2")).toBeVisible();
  await expectAccessible(page);
  // Half filled in, nothing is said; a spread of nothing is refused.
  await analyte(2, "131", "140");
  await expect(page.getByText(/SD, the farthest/)).toBeHidden();
  await analyte(2, "131", "140", "0");
  await expect(page.getByText("A lot's SD is above 0")).toBeVisible();
});
