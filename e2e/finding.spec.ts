import { expect, type Locator, type Page } from "@playwright/test";

import { pagesOfPdf } from "../app/testing/pdf";
import { must } from "../core/must";
import { expectAccessible, expectNothingSideways, signIn, waitUntilReady } from "./helpers/app";
import { test } from "./helpers/test";

const MACHINE = "HH-1001";

/** Counts what a hand does; what is typed into the field that a tap opened is no tap. */
function hand() {
  let taps = 0;
  return {
    tap: async (where: Locator): Promise<void> => {
      taps += 1;
      await where.click();
    },
    taps: (): number => taps,
  };
}

/** The words of a PDF that a link leads to. */
async function wordsOf(page: Page, link: Locator): Promise<string> {
  const response = await page.request.get(must(await link.getAttribute("href")));
  expect(response.headers()["content-type"]).toBe("application/pdf");
  return pagesOfPdf(await response.body()).join("\f");
}

/** Last half year's records of the machine with exceptions, as a person sees them on the page. */
async function foundOn(page: Page): Promise<number> {
  const status = page.getByRole("region", { name: "What was found" }).getByRole("status");
  await expect(status).toHaveText(/^\d+ records?$/);
  return Number.parseInt(must(await status.textContent()), 10);
}

for (const [name, size] of Object.entries({
  laptop: { width: 1280, height: 800 },
  phone: { width: 390, height: 844 },
})) {
  test(`an inspector's question is answered and handed over in six taps: ${name}`, async ({ page }) => {
    await page.setViewportSize(size);
    await signIn(page, "jonas");
    const { tap, taps } = hand();
    await tap(page.getByRole("link", { name: "Book", exact: true }));
    await waitUntilReady(page);
    await tap(page.getByLabel("Machine: tag, serial or name"));
    await page.keyboard.type(MACHINE);
    await page.keyboard.press("Enter");
    await expect(page.getByRole("link", { name: /^Without .*HH-1001$/ })).toBeVisible();
    // The half year that is over.
    await tap(page.getByRole("list", { name: "Spans" }).getByRole("link").nth(3));
    await tap(page.getByRole("link", { name: /^All exceptions/ }));
    const count = await foundOn(page);
    expect(count).toBeGreaterThan(0);
    const records = page.getByRole("list", { name: "Records" }).getByRole("listitem");
    await expect(records).toHaveCount(count);
    for (const words of await records.allInnerTexts()) expect(words).toContain(MACHINE);
    await expectAccessible(page);
    await expectNothingSideways(page);
    await tap(page.getByRole("button", { name: "One PDF of these" }));
    const open = page.getByRole("link", { name: "Open the PDF" });
    await expect(open).toBeVisible({ timeout: 30_000 });
    await expectAccessible(page);
    await expectNothingSideways(page);
    expect(taps() + 1).toBeLessThanOrEqual(6);
    const words = await wordsOf(page, open);
    expect(words).toContain(`${count} record${count === 1 ? "" : "s"}, ${count} with exceptions`);
    expect(words.match(new RegExp(`tag ${MACHINE}`, "g"))).toHaveLength(count);
  });
}

test("a search stands in its address: it is taken back part by part, and sent to somebody else", async ({
  page,
  browser,
}) => {
  await signIn(page, "mira");
  await page.goto("/book");
  await waitUntilReady(page);
  await page.getByRole("button", { name: /^More to find by/ }).click();
  await page.getByLabel("Family", { exact: true }).selectOption({ label: "Ride-on sweeper" });
  await page.getByLabel("Outcome", { exact: true }).selectOption({ label: "Done and signed" });
  await page.getByLabel("From", { exact: true }).fill("2020-01-01");
  await page.getByRole("button", { name: "Find", exact: true }).last().click();
  await expect(page).toHaveURL(/family=ride-on-sweeper/);
  const by = page.getByRole("list", { name: "Narrowed by" });
  await expect(by.getByRole("link", { name: /^Without/ })).toHaveCount(3);
  const address = page.url();

  await by.getByRole("link", { name: "Without Done and signed" }).click();
  await expect(page).not.toHaveURL(/outcome=/);
  await expect(page).toHaveURL(/family=ride-on-sweeper/);
  await by.getByRole("link", { name: "The whole book" }).click();
  await expect(page).toHaveURL(/\/book$/);
  await page.goBack();
  await expect(by.getByRole("link", { name: "Without Ride-on sweeper" })).toBeVisible();

  const other = await browser.newPage();
  await signIn(other, "tove");
  await other.goto(address);
  await expect(other.getByRole("list", { name: "Narrowed by" }).getByRole("link", { name: /^Without/ })).toHaveCount(3);
  await other.close();
});

test("what nobody can find says what to do, and a machine's own page leads to its records", async ({ page }) => {
  await signIn(page, "jonas");
  await page.goto("/book?machine=no-such-thing");
  await expect(page.getByText("There is no machine “no-such-thing”. Try the beginning of its name.")).toBeVisible();
  await page.goto("/book?from=2030-01-01");
  await expect(page.getByText("No record fits.")).toBeVisible();
  await page.goto("/book?from=2026-02-31");
  await expect(page.getByText(/This address is not right/)).toBeVisible();
  await page.goto(`/machines?q=${MACHINE}`);
  await page.getByRole("link", { name: "Flake ice maker café", exact: true }).click();
  await page.getByRole("link", { name: "Records", exact: true }).click();
  await expect(page).toHaveURL(`/book?machine=${MACHINE}`);
});

test("readings go out as a table, by the keyboard alone, and stay under Bundles", async ({ page }) => {
  await signIn(page, "tove");
  await page.goto(`/book?machine=${MACHINE}`);
  await waitUntilReady(page);
  await page.getByRole("button", { name: "Readings as CSV" }).focus();
  await page.keyboard.press("Enter");
  const save = page.getByRole("link", { name: "Save the CSV" });
  await expect(save).toBeVisible({ timeout: 30_000 });
  const text = await (await page.request.get(must(await save.getAttribute("href")))).text();
  const [header, ...rows] = text.trim().split("\r\n");
  expect(header).toMatch(/^record_no,sheet,closed_on/);
  expect(rows.length).toBeGreaterThan(1);
  for (const row of rows) expect(row).toContain(`,${MACHINE},`);
  await page.getByRole("link", { name: "Bundles" }).click();
  await expect(page.getByRole("link", { name: "Readings as CSV" }).first()).toBeVisible();
  await expectAccessible(page);
});

test("Find knows duties, by their title and by a machine's tag beside it", async ({ page }) => {
  await signIn(page, "mira");
  await page.goto("/round");
  await waitUntilReady(page);
  await page.keyboard.press("Control+k");
  await page.keyboard.type(`${MACHINE} filters`);
  const duty = page.getByRole("option", { name: /Duty.*Look-over: filters, wires, drips.*HH-1001/ });
  await expect(duty).toBeVisible();
  await expectAccessible(page);
  await duty.click();
  await expect(page).toHaveURL(/\/duties\//);
});
