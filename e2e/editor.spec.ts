import { expect, type Locator, type Page } from "@playwright/test";

import type { Procedure } from "../core/index";
import { expectAccessible, signIn, tap, waitUntilReady } from "./helpers/app";
import { pickUp } from "./helpers/keyboard";
import { test } from "./helpers/test";

const panel = (page: Page): Locator => page.locator("section[aria-labelledby=edited]");
const row = (within: Locator, list: string, n: number): Locator =>
  within.getByRole("group", { name: list, exact: true }).first().getByRole("listitem").nth(n);

async function beside(page: Page, part: string): Promise<Locator> {
  await page.getByRole("navigation", { name: "The procedure" }).getByRole("button", { name: part }).click();
  await expect(page.getByRole("heading", { level: 2, name: part })).toBeVisible();
  return panel(page);
}

async function addStep(page: Page, kind: string, title: string, minutes: string): Promise<Locator> {
  await page.getByLabel("Kind of the new step", { exact: true }).selectOption({ label: kind });
  await tap(page, "Add");
  await panel(page).getByRole("textbox", { name: "Title" }).fill(title);
  await panel(page).getByLabel("Hands-on minutes", { exact: true }).fill(minutes);
  return panel(page);
}

test("a procedure is written from nothing and published without a line of JSON", async ({ page }) => {
  await signIn(page, "jonas");
  await page.goto("/book/procedures");
  await waitUntilReady(page);
  await tap(page, "Write a new procedure");
  await tap(page, "Begin a draft");
  await expect(page.getByText("Give it a title.")).toBeVisible();
  await page.getByRole("textbox", { name: "Title", exact: true }).fill("Drive belts");
  await page.getByLabel("Which machines it is for", { exact: true }).fill("Belt press");
  await tap(page, "Begin a draft");
  await expect(page).toHaveURL(/\/book\/drafts\//);
  await waitUntilReady(page);
  await expect(page.getByRole("button", { name: "Mend it first" })).toBeVisible();

  let form = await beside(page, "What it is");
  await form
    .getByLabel("Summary", { exact: true })
    .fill("Belts are renewed in pairs. Typical figures: the maker's manual comes first.");
  await form.getByLabel("Hands-on", { exact: true }).fill("20");

  form = await beside(page, "Options and meters");
  await form.getByRole("button", { name: "Add a meter" }).click();
  await row(form, "Meters", 0).getByLabel("Meter", { exact: true }).fill("Running hours");

  // Whichever comes first: six months, or five hundred hours.
  form = await beside(page, "Comes due");
  await form.getByRole("button", { name: "Add a rule" }).click();
  await row(form, "Rules: the earliest counts", 0).getByLabel("Every", { exact: true }).fill("6");
  await form.getByRole("button", { name: "Add a rule" }).click();
  await form
    .getByLabel("Rules: the earliest counts 2: which", { exact: true })
    .selectOption({ label: "By a meter: hours, runs, prints" });
  const byHours = row(form, "Rules: the earliest counts", 1);
  await byHours.getByLabel("Meter", { exact: true }).selectOption({ label: "Running hours" });
  await byHours.getByLabel("Every", { exact: true }).fill("500");

  form = await beside(page, "States of the machine");
  await form.getByRole("button", { name: "Isolated", exact: true }).click();
  await form.getByRole("button", { name: "With power", exact: true }).click();
  await expect(
    row(form, "States, in the order in which a machine gets there", 1).getByLabel("State", { exact: true }),
  ).toHaveValue("With power");
  await expectAccessible(page);

  form = await beside(page, "Materials and parts");
  await form.getByRole("button", { name: "Add a part" }).click();
  const part = row(form, "Parts and where they go", 0);
  await part.getByLabel("Part", { exact: true }).fill("Drive belt B-40");
  await part.getByLabel("Place", { exact: true }).fill("Left pulley");
  await part.getByRole("button", { name: "Add a place" }).click();
  await part.getByLabel("Place", { exact: true }).nth(1).fill("Right pulley");
  await part.getByLabel("Always all of them together", { exact: true }).check();

  form = await beside(page, "Hazards and tools");
  await form.getByRole("button", { name: "Add a hazard" }).click();
  await row(form, "Hazards", 0).getByLabel("Hazard", { exact: true }).selectOption({ label: "moving parts" });
  await row(form, "Hazards", 0)
    .getByLabel("In words", { exact: true })
    .fill("Pulleys turn on after it is switched off.");

  // The proof that the draft began with.
  const steps = page.getByRole("navigation", { name: "Steps" });
  await steps.getByRole("button", { name: "1 (no title)" }).click();
  form = panel(page);
  await form.getByRole("textbox", { name: "Title" }).fill("Ten strokes without load");
  await form.getByLabel("Expected", { exact: true }).fill("No squeal, both belts run in the middle");
  await form.getByLabel("With power", { exact: true }).check();
  await form.getByLabel("Hands-on minutes", { exact: true }).fill("3");

  form = await addStep(page, "Do", "Guard off", "2");
  await form.getByLabel("Isolated", { exact: true }).check();
  await form.getByRole("button", { name: "Parts that come off or go back on" }).click();
  await form.getByRole("button", { name: "Add a part that comes off" }).click();
  await row(form, "Comes off here", 0).getByLabel("What", { exact: true }).fill("belt guard");
  await row(form, "Comes off here", 0).getByLabel("Which way round", { exact: true }).fill("arrow up");
  await form.getByLabel("Begins a way on the bench", { exact: true }).fill("guard");
  await addStep(page, "Do", "Wash the guard", "4");
  form = await addStep(page, "Replace", "Both belts", "5");
  await form.getByLabel("Isolated", { exact: true }).check();
  await form.getByLabel("Part", { exact: true }).selectOption({ label: "Drive belt B-40" });
  await expect(form.getByLabel("Left pulley", { exact: true })).toBeChecked();
  form = await addStep(page, "Measure", "Deflection in the middle", "2");
  await form.getByLabel("Isolated", { exact: true }).check();
  await form.getByLabel("Name of the reading", { exact: true }).fill("Belt deflection");
  await form.getByLabel("Unit", { exact: true }).fill("mm");
  await form.getByRole("button", { name: "Limits", exact: true }).click();
  await form.getByLabel("At least", { exact: true }).fill("8");
  await form.getByLabel("At most", { exact: true }).fill("6");
  await expect(page.getByText(/minimum above its maximum|above its maximum/)).toBeVisible();
  await expect(page.getByRole("button", { name: "Mend it first" })).toBeVisible();
  await form.getByLabel("At most", { exact: true }).fill("12");
  form = await addStep(page, "Do", "Guard on", "2");
  await form.getByLabel("Isolated", { exact: true }).check();
  await form.getByRole("button", { name: "Parts that come off or go back on" }).click();
  await form.getByRole("button", { name: "Add a part that goes back on" }).click();
  await row(form, "Goes back on here", 0).getByLabel("What", { exact: true }).fill("belt guard");

  // The washing goes onto the bench with the guard: by keyboard, to the right.
  await pickUp(page, steps.getByRole("button", { name: "Move Wash the guard" }));
  await expect(page.getByText("Wash the guard is over place 3.")).toBeAttached();
  await page.keyboard.press("ArrowRight");
  await expect(page.getByText("Goes on the bench with guard.")).toBeVisible();
  await page.keyboard.press("Space");
  await expect(steps.getByRole("listitem").filter({ hasText: "Wash the guard" })).toContainText("bench, guard");
  // The proof goes to the end.
  await pickUp(page, steps.getByRole("button", { name: "Move Ten strokes without load" }));
  for (let n = 2; n <= 6; n++) {
    await page.keyboard.press("ArrowDown");
    await expect(page.getByText(`Ten strokes without load is over place ${n}.`)).toBeAttached();
  }
  await page.keyboard.press("Space");
  await expect(steps.getByRole("listitem").last()).toContainText("Ten strokes without load");

  await expect(page.getByText("Nothing to mend")).toBeVisible();
  await expect(page.getByText("Draft of version 1 · saved")).toBeVisible();
  await expectAccessible(page);
  await page.emulateMedia({ colorScheme: "dark" });
  await expectAccessible(page, "colours");
  await page.getByLabel("Why does it change?", { exact: true }).fill("Our own press");
  await tap(page, "Publish version 1");
  await expect(page).toHaveURL(/\/book\/procedures\/belt-press-drive-belts(-\d+)?$/);
  await expect(page.getByText(/every 500 on running hours/)).toBeVisible();

  const response = await page.request.get(`${page.url()}/json`);
  const written = (await response.json()) as Procedure;
  expect(written).toMatchObject({
    formatVersion: 2,
    family: "belt-press",
    plan: {
      triggers: [
        { kind: "calendar", every: 6, unit: "month", basis: "completion" },
        { kind: "meter", meter: "running-hours", every: 500, basis: "completion" },
      ],
    },
    parts: [
      {
        item: "drive-belt-b-40",
        pair: true,
        slots: [
          { id: "left-pulley", name: "Left pulley" },
          { id: "right-pulley", name: "Right pulley" },
        ],
      },
    ],
  });
  expect(written.states?.map((state) => state.id)).toEqual(["isolated", "powered"]);
  expect(written.steps.find((one) => one.title === "Wash the guard")?.path).toBe("guard");
});
