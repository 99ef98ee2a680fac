import { expect } from "@playwright/test";

import { must } from "../core/must";
import { expectAccessible, makeSafe, practiseToTheSoak, signIn, step, tap, waitUntilReady } from "./helpers/app";
import { pickUp } from "./helpers/keyboard";
import { test } from "./helpers/test";

test("a technician edits a draft with the linter beside it and tries it; a lead publishes it with a reason", async ({
  page,
}) => {
  await signIn(page, "mira");
  await page.goto("/book/procedures?q=trackball cart");
  await page.getByRole("link", { name: "Trackball of the cart" }).click();
  await tap(page, "Edit a draft");
  await waitUntilReady(page);
  const steps = page.getByRole("navigation", { name: "Steps" });
  await expect(page.getByText("Nothing to mend")).toBeVisible();

  // Moved by keyboard: the window before the ball, and back.
  const rollers = "Little rollers in the socket";
  await pickUp(page, steps.getByRole("button", { name: `Move ${rollers}` }));
  await expect(page.getByText(/^Little rollers in the socket.* is over place 4\.$/)).toBeAttached();
  await page.keyboard.press("ArrowUp");
  await expect(page.getByText(/^Little rollers in the socket.* is over place 3\.$/)).toBeAttached();
  await page.keyboard.press("Space");
  await expect(steps.getByRole("listitem").nth(2)).toContainText(rollers);
  await expect(page.getByText("Draft of version 2 · saved")).toBeVisible();

  const form = page.locator("section[aria-labelledby=edited]");
  const second = (list: string) =>
    form.getByRole("group", { name: list, exact: true }).first().getByRole("listitem").nth(1);
  await steps
    .getByRole("button", { name: /Ball out/ })
    .last()
    .click();
  await form.getByRole("button", { name: "Add a part that comes off" }).click();
  await second("Comes off here").getByLabel("What", { exact: true }).fill("spring");
  await expect(
    page.getByText('"Ball out with the fingers" takes off spring, and no later step puts it back.'),
  ).toBeVisible();
  await expectAccessible(page);
  await steps
    .getByRole("button", { name: /Ball back/ })
    .last()
    .click();
  await form.getByRole("button", { name: "Add a part that goes back on" }).click();
  await form
    .getByRole("group", { name: "Goes back on here", exact: true })
    .first()
    .getByRole("listitem")
    .nth(2)
    .getByLabel("What", { exact: true })
    .fill("spring");
  await expect(page.getByText("Nothing to mend")).toBeVisible();

  await page.getByLabel("Kind of the new step").selectOption("wait");
  await tap(page, "Add");
  await page.getByRole("textbox", { name: "Title" }).fill("Let it dry");
  await page.getByLabel("At least, minutes").fill("");
  await expect(page.getByText(/waits without a time/)).toBeVisible();
  await page.getByLabel("At least, minutes").fill("2");
  await expect(page.getByText("Nothing to mend")).toBeVisible();
  await expect(page.getByText("Draft of version 2 · saved")).toBeVisible();
  await expect(page.getByText("A lead publishes it.")).toBeVisible();

  await page.getByRole("link", { name: "Try it" }).click();
  await waitUntilReady(page);
  await makeSafe(page).catch(() => undefined);
  await expect(page.getByText("A machine that does not exist")).toBeVisible();
  await expect(page.getByRole("complementary", { name: "Steps" })).toContainText("Let it dry");

  const draft = must(new URL(page.url()).searchParams.get("draft"));
  await page.context().clearCookies();
  await signIn(page, "jonas");
  await page.goto(`/book/drafts/${draft}`);
  await waitUntilReady(page);
  await tap(page, "Publish version 2");
  await expect(page.getByText("Say why it changes")).toBeVisible();
  await page.getByLabel("Why does it change?").fill("The ring was forgotten twice");
  await tap(page, "Publish version 2");
  await expect(page.getByText(/Version 2/)).toBeVisible();
  await page.getByRole("link", { name: "what changed" }).click();
  await expect(page.getByText("The ring was forgotten twice")).toBeVisible();
  await expect(page.getByText("New: Let it dry")).toBeVisible();
  await expect(page.getByText("Changed: Ball out with the fingers")).toBeVisible();
  await expectAccessible(page);
});

test("practice works like the real sheet and logs nothing", async ({ page }) => {
  await page.clock.install();
  await practiseToTheSoak(page);
  await tap(page, "Start the clock");
  for (let i = 0; i < 7; i++) await tap(page, "Let 5 minutes pass");
  await expect(page.getByRole("timer")).toContainText("past the maximum of 30 min");
  await tap(page, "Stop the clock");
  await tap(page, "Looked at: next step");
  await step(page, "Rinse the tips well");
  await page.goto("/round");
  await expect(page.getByRole("region", { name: "Sheets in your hands" }).getByText("Mist tips")).toHaveCount(0);
});

test("the bench computes, in both systems of units, and says why", async ({ page }) => {
  await signIn(page, "mira");
  await page.goto("/book/bench");
  await waitUntilReady(page);
  await page.getByLabel("Stock's strength today").fill("6");
  await page.getByRole("textbox", { name: "Wanted" }).fill("200");
  await page.getByLabel("Finished solution").fill("10");
  await expect(page.getByText("33 mL (1.13 US fl oz)")).toBeVisible();
  await page.getByText("US units").click();
  await page.getByLabel("Finished solution").fill("1");
  await page.getByRole("textbox", { name: "Wanted" }).fill("70000");
  await expect(page.getByText(/weaker than the 70000 ppm wanted/)).toBeVisible();
  await page.getByRole("link", { name: "May they meet?" }).click();
  await expect(page.getByText(/Never together/)).toBeVisible();
  await page.getByLabel("Comes next").selectOption("water");
  await expect(page.getByText("No hazard between these classes is known here.")).toBeVisible();
  await page.getByRole("link", { name: "Tightening order" }).click();
  await expect(page.getByText("Crosswise: 1, 5, 3, 7, 2, 6, 4, 8.")).toBeVisible();
  await page.getByRole("link", { name: "Polish mark" }).click();
  await page.getByLabel("Width of the mark").fill("15");
  await expect(page.getByText(/Turn towards lower/)).toBeVisible();
  await page.getByRole("link", { name: "Strainer" }).click();
  await page.getByLabel("Drop now").fill("80");
  await expect(page.getByText(/about 50 % of the clean flow is left/)).toBeVisible();
  await page.getByText("Metric").click();
});
