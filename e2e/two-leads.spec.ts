import { expect } from "@playwright/test";

import { expectAccessible, expectNothingSideways, signIn } from "./helpers/app";
import { test } from "./helpers/test";

test.setTimeout(90_000);

test("of two who change one site the second reads what the first wrote, and decides", async ({ browser, page }) => {
  await signIn(page, "jonas");
  await page.goto("/sites");
  await page.getByRole("link", { name: "Trailer wash" }).first().click();
  await page.waitForURL(/\/sites\/[0-9a-f-]{36}$/);
  const site = page.url();
  const other = await browser.newPage({ baseURL: new URL(site).origin });
  await signIn(other, "jonas");
  for (const one of [page, other]) await one.goto(`${site}/edit`);

  await other.getByLabel("Notes").fill("Ring the bell twice");
  await other.getByRole("button", { name: "Save the site" }).click();
  await expect(other.getByText("Ring the bell twice")).toBeVisible();

  await page.getByLabel("Where to drain").fill("Yard drain by the gate");
  await page.getByRole("button", { name: "Save the site" }).click();
  await expect(page.getByText(/changed this while you had it open/)).toBeVisible();
  const table = page.getByRole("table", { name: "What differs" });
  await expect(table.getByRole("row", { name: /^Notes/ })).toContainText("Ring the bell twice");
  await expect(table.getByRole("row", { name: /^Where to drain/ })).toContainText("Yard drain by the gate");
  await expectAccessible(page);
  await page.setViewportSize({ width: 390, height: 844 });
  await expectNothingSideways(page);

  // Nothing typed is gone; with theirs taken over by hand, both are kept.
  await expect(page.getByLabel("Where to drain")).toHaveValue("Yard drain by the gate");
  await page.getByLabel("Notes").fill("Ring the bell twice");
  await page.getByRole("button", { name: "Save the site" }).click();
  await expect(page).toHaveURL(site);
  await expect(page.getByText("Ring the bell twice")).toBeVisible();
  await expect(page.getByText("Yard drain by the gate")).toBeVisible();
  await other.close();
});

test("a duty that somebody else has put on their day is not taken by who saw it free", async ({ browser, page }) => {
  await signIn(page, "mira");
  await page.goto("/round/day?add=1");
  const dialog = page.getByRole("dialog");
  const first = dialog.getByRole("checkbox").first();
  const title = (await dialog.getByRole("listitem").first().locator(".font-semibold").first().textContent()) ?? "";
  await first.check();

  const other = await browser.newPage({ baseURL: new URL(page.url()).origin });
  await signIn(other, "tove");
  await other.goto("/round/day?add=1");
  await other.getByRole("dialog").getByRole("checkbox").first().check();
  await other.getByRole("button", { name: "Put them on the day" }).click();
  await expect(other.getByRole("dialog")).toBeHidden();

  await page.getByRole("button", { name: "Put them on the day" }).click();
  // Said where it is seen: over the page that the choosing hides.
  await expect(dialog.getByText(`“${title.trim()}” was put on`)).toBeVisible();
  await expect(dialog.getByText(/'s day, \w{3} \d+ \w{3} meanwhile\. Nothing was moved\./)).toBeVisible();
  await other.close();
});
