import { expect, type Page } from "@playwright/test";

import { must } from "../core/must";
import { expectAccessible, signIn } from "./helpers/app";
import { test } from "./helpers/test";

/** Presses Tab until the element is reached, as a person without a pointer does. */
async function tabTo(page: Page, selector: string): Promise<void> {
  for (let i = 0; i < 120; i++) {
    if (await page.evaluate((wanted) => document.activeElement?.matches(wanted) ?? false, selector)) return;
    await page.keyboard.press("Tab");
  }
  throw new Error(`Tab does not reach ${selector}`);
}

test("a handful of duties is planned onto a day by keyboard alone, and undone", async ({ page }) => {
  await signIn(page, "jonas");
  await page.goto("/ahead");
  await expect(page.getByRole("grid")).toBeVisible();
  await tabTo(page, "[data-at]");
  await page.keyboard.press("Home");
  await page.keyboard.press("Space");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Space");
  const panel = page.getByRole("region", { name: /hands-on/ });
  await expect(panel).toBeVisible();
  const chosen = Number(must(/^(\d+) dut/.exec(must(await panel.getByRole("heading").textContent())))[1]);
  expect(chosen).toBeGreaterThan(1);
  await tabTo(page, "#plan-on");
  await page.keyboard.type("10302027");
  await tabTo(page, "#plan-for");
  await page.keyboard.type("Mira");
  await tabTo(page, "button[value=put]");
  await page.keyboard.press("Enter");
  await expect(page.getByText(`${chosen} put on Sat 30 Oct 2027.`)).toBeVisible();
  await expect(panel.getByText("→ Sat 30 Oct 2027")).toHaveCount(Math.min(5, chosen));
  // What lies under the bar at the top cannot be measured.
  await page.evaluate(() => scrollTo(0, 0));
  await expectAccessible(page);
  // What was chosen stays chosen: it can be taken off again, and that undone.
  await tabTo(page, "button[value=take-off]");
  await page.keyboard.press("Enter");
  await expect(page.getByText(`${chosen} taken off.`)).toBeVisible();
  await expect(panel.getByText("→ Sat 30 Oct 2027")).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText("Undone.")).toBeVisible();
  await page.goto("/ahead?as=table");
  await expect(
    page.getByRole("row").filter({ hasText: "Sat 30 Oct 2027" }).filter({ hasText: "Mira Holt" }),
  ).toHaveCount(chosen);
});

test("a mark is dragged onto a day; the filter lives in the address and is kept as a view", async ({ page }) => {
  await signIn(page, "jonas");
  await page.goto("/ahead");
  await page.locator('[data-at$="/0"][draggable=true]').first().dragTo(page.locator('[data-at="0/6"]'));
  await expect(page.getByText(/put on \w{3} \d+ \w{3}/)).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("Undone.")).toBeVisible();

  await page.getByLabel("Site or customer").fill("Ferry");
  await page.getByRole("button", { name: "Show" }).click();
  await expect(page).toHaveURL(/q=Ferry/);
  await expect(page.getByRole("rowheader")).toHaveCount(1);
  await page.getByText("Saved views (0)").click();
  await page.getByLabel("Keep this filter as").fill("The ferry");
  await page.getByRole("button", { name: "Save the view" }).click();
  await expect(page.getByText("Saved views (1)")).toBeVisible();
  await page.goto("/ahead");
  await page.getByText("Saved views (1)").click();
  await page.getByRole("link", { name: "The ferry" }).click();
  await expect(page).toHaveURL(/q=Ferry/);
  const file = await page.request.get("/ahead.csv?q=Ferry");
  expect((await file.text()).split("\r\n")[0]).toContain("due_on");
});

test("Ctrl-K, a slash and a scanned tag find machines and places", async ({ page }) => {
  await signIn(page);
  await page.keyboard.press("Control+k");
  await page.getByPlaceholder("Machine, tag, duty, site, part …").fill("kiosk");
  await expect(page.getByRole("option", { name: /Flake ice maker kiosk/ })).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Flake ice maker kiosk" })).toBeVisible();
  await page.keyboard.press("/");
  await page.keyboard.type("HH-6001");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Lathe", exact: true })).toBeVisible();
  expect((await page.request.get("/t/no-such-tag")).url()).toContain("/machines/new?tag=no-such-tag");
  // Its tag comes as a picture and on a sheet to print. (Inside the unit tests' sandbox the picture takes seconds.)
  const machine = new URL(page.url()).pathname;
  const png = await page.request.get(`${machine}/tag.png`);
  expect((await png.body()).subarray(1, 4).toString()).toBe("PNG");
  expect((await (await page.request.get("/tags.pdf")).body()).subarray(0, 5).toString()).toBe("%PDF-");
});

test("a calendar address works without sign-in until it is ended", async ({ page, request }) => {
  await signIn(page, "jonas");
  await page.goto("/sites?q=Ferry");
  await page.getByRole("link", { name: "Ferry terminal" }).click();
  await page.getByRole("link", { name: "Calendar" }).click();
  await page.getByRole("button", { name: "Make an address" }).click();
  const address = await page.getByLabel("Address of the calendar").inputValue();
  const feed = await request.get(address);
  expect(feed.headers()["content-type"]).toContain("text/calendar");
  expect(await feed.text()).toContain("BEGIN:VEVENT");
  await page.getByRole("button", { name: /End the address/ }).click();
  await expect(page.getByText("No address yet.")).toBeVisible();
  expect((await request.get(address)).status()).toBe(404);
  expect((await request.get(`${address.slice(0, -10)}aaaaaa.ics`)).status()).toBe(404);
});
