import { expect, type Page } from "@playwright/test";

import { must } from "../core/must";
import { expectAccessible, planned, signIn, tap, waitUntilReady } from "./helpers/app";
import { test } from "./helpers/test";

/** The next Wednesday that is so many days away at least: everybody is let in everywhere. */
function wednesday(inDays: number): string {
  const day = new Date(Date.now() + inDays * 86_400_000);
  day.setUTCDate(day.getUTCDate() + ((3 - day.getUTCDay() + 7) % 7));
  return day.toISOString().slice(0, 10);
}

/** Puts duties of a site on a day, or on today, by its dialog. */
async function choose(page: Page, on: string | null, site: string, what: readonly RegExp[]): Promise<void> {
  await page.goto(`/round/day?add=1${on === null ? "" : `&on=${on}`}`);
  const dialog = page.getByRole("dialog", { name: "Choose duties for this day" });
  await dialog.getByLabel("Site", { exact: true }).selectOption({ label: site });
  await dialog.getByRole("button", { name: "Show" }).click();
  await expect(page).toHaveURL(/site=/);
  for (const one of what)
    await dialog.getByRole("listitem").filter({ hasText: one }).first().getByRole("checkbox").check();
  await dialog.getByRole("button", { name: "Put them on the day" }).click();
  await expect(dialog).toHaveCount(0);
  await planned(page);
}

async function emptied(page: Page, on: string): Promise<void> {
  await page.goto(`/round/day?on=${on}`);
  await planned(page);
  await tap(page, "Start from an empty day");
  await expect(page.getByText(/taken off the day/)).toBeVisible();
}

interface Sent {
  to: string;
  subject: string;
  text: string;
  files: { name: string; type: string; bytes: number }[];
}
const sentTo = async (page: Page, address: string): Promise<Sent | undefined> => {
  const answer = await page.request.get(`${process.env.POST_URL}/messages`);
  return ((await answer.json()) as Sent[]).find((one) => one.to.includes(address));
};

test("a customer is told the hour, asked to let the oven cool, says yes by the link, and the day is planned with it", async ({
  page,
  browser,
}) => {
  await signIn(page, "jonas");
  const on = wednesday(9);
  await choose(page, on, "Ferry terminal", [/Weekly strip and degrease[\s\S]*Galley pizza oven/]);
  const figures = page.getByRole("region", { name: "The round" }).locator("dl").first();
  const backAt = (await figures.innerText()).match(/\d\d:\d\d/)?.[0];
  await page.getByRole("link", { name: "Before we come" }).click();
  await waitUntilReady(page);
  const site = page.getByRole("region", { name: "Ferry terminal" });
  await expect(site.getByText(/^Worth asking for: (\d+ h \d\d|[2-9]\d) min of/)).toBeVisible();
  await expect(site.getByRole("checkbox", { name: /Galley pizza oven: please switch it off by/ })).toBeChecked();
  await expectAccessible(page);
  const address = `desk-${Date.now()}@terminal.example`;
  await site.getByRole("button", { name: "Tell Ferry terminal" }).click();
  await site.getByLabel("Name", { exact: true }).fill("Ana Vale");
  await site.getByLabel("E-mail address").fill("not an address");
  await site.getByLabel("To add").fill("The side door, please.");
  await expect(site.getByText("Good day Ana Vale,")).toBeVisible();
  await site.getByLabel("E-mail address").fill(address);
  await tap(page, "Send it");
  await expect(page.getByText("On its way to Ana Vale.")).toBeVisible();
  await expect(site.getByText("No answer yet: not counted on")).toBeVisible();

  await expect(async () => expect(await sentTo(page, address)).toBeDefined()).toPass({ timeout: 30_000 });
  const message = must(await sentTo(page, address));
  expect(message.subject).toMatch(/^Ferry terminal: we come on Wednesday \d+ \w+, about \d\d:\d\d$/);
  expect(message.text).toMatch(/between \d\d:\d\d and \d\d:\d\d|about \d\d:\d\d/);
  expect(message.text).toContain("1. Galley pizza oven: please switch it off by");
  expect(message.text).toContain("The side door, please.");

  // The customer has no sign-in: the link is enough, on their phone.
  const theirs = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await theirs.newPage();
  await phone.goto(must(/https?:\/\/\S+\/answer\/\S+/.exec(message.text))[0]);
  await waitUntilReady(phone);
  await expectAccessible(phone);
  await phone.getByLabel("Yes, we do it").check();
  await phone.getByLabel("Your name").fill("Ana");
  await tap(phone, "Send the answer");
  await expect(phone.getByText(/^Thank you\./)).toBeVisible();
  await theirs.close();

  await page.reload();
  await expect(site.getByText(/They do it: planned so \(Ana/)).toBeVisible();
  await expect(site.getByText(/^✓ Sent to Ana Vale/)).toBeVisible();
  await page.goto(`/round/day?on=${on}`);
  await planned(page);
  expect(must((await figures.innerText()).match(/\d\d:\d\d/)?.[0]) < must(backAt)).toBe(true);
  await emptied(page, on);
});

test("a ferry is named with the next and the last one back; missed, the next is waited for", async ({ page }) => {
  await signIn(page, "jonas");
  const on = wednesday(16);
  await choose(page, on, "Aquarium and café", [/./]);
  const line = page.getByText(/^⛴ Ferry \d\d:\d\d to/).first();
  const [, departs, next] = must(
    /Ferry (\d\d:\d\d) to \d\d:\d\d.*, next (\d\d:\d\d), last back \d\d:\d\d/.exec(await line.innerText()),
  );
  await expect(page.getByText(/^⛴ Ferry back \d\d:\d\d to/)).toBeVisible();
  await expectAccessible(page);
  // Set off when it has just gone.
  const [hour, minute] = must(departs).split(":");
  await page.getByLabel("From", { exact: true }).fill(`${hour}:${String(Number(minute) + 1).padStart(2, "0")}`);
  await tap(page, "Set the hours");
  await planned(page);
  await expect(line).toContainText(`Ferry ${next} to`);
  await expect(line).toContainText(/\d+ min to wait for it/);
  await emptied(page, on);
});

test("a day on the phone by the thumb bar alone: planned, started, arrived, into the sheet, left, ended", async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, "jonas");
  const bar = page.locator(".fixed").filter({ has: page.getByRole("button").or(page.getByRole("link")) });
  const press = async (name: RegExp): Promise<void> => {
    const target = bar.getByRole("button", { name }).or(bar.getByRole("link", { name })).first();
    // Where the thumb is, never behind the places.
    const box = must(await target.boundingBox());
    expect(box.y).toBeGreaterThan(844 / 2);
    await target.click();
  };
  await press(/^Plan the day$/);
  await expect(page).toHaveURL(/\/round\/day/);
  await waitUntilReady(page);
  await choose(page, null, "Print shop", [/Read the gauge and judge/]);
  await expectAccessible(page);

  await page.goto("/round");
  await waitUntilReady(page);
  await expectAccessible(page);
  // Before the start the sheet is one tap away already.
  await expect(bar.getByRole("link", { name: /Lamp chiller: Read the gauge/ })).toBeVisible();
  await press(/^Start the day$/);
  await expect(bar.getByRole("button", { name: "Arrived at Print shop" })).toBeVisible();
  await press(/^Arrived at Print shop$/);
  await expect(page.getByRole("list", { name: "The round" }).getByText("Now")).toBeVisible();
  // A break is logged in one tap, and is a step of the day like the others.
  const rest = page.getByRole("button", { name: "Break now, 30 min" });
  await rest.click();
  await expect(rest).toHaveCount(0);
  await press(/Lamp chiller: Read the gauge/);
  await expect(page).toHaveURL(/\/duties\//);
  await tap(page, /the sheet|open sheet/);
  await expect(page).toHaveURL(/\/sheet\/[0-9a-f-]{36}$/);
  await waitUntilReady(page);

  await page.goto("/round");
  await waitUntilReady(page);
  await press(/^Go on: Lamp chiller$/);
  await expect(page).toHaveURL(/\/sheet\//);
  await waitUntilReady(page);
  await tap(page, /^\d+\/\d+ steps$/);
  await tap(page, "End without the work");
  await page.getByLabel("No access").check();
  await page.getByLabel("Why, in a few words").fill("The press hall is locked");
  await tap(page, "End the sheet");
  await expect(page).toHaveURL(/\/book\/records\//);

  await page.goto("/round");
  await waitUntilReady(page);
  await press(/^Leave Print shop$/);
  await expect(bar.getByRole("button", { name: "End the day" })).toBeVisible();
  await press(/^End the day$/);
  await expect(page).toHaveURL(/\/round\/evening/);
  await expect(page.getByText(/, breaks 30 min;/)).toBeVisible();
  await page.goto("/round");
  await expect(bar.getByRole("link", { name: "What became of the day" })).toBeVisible();
});

test("a signed record goes to the customer by mail, as PDF", async ({ page }) => {
  await signIn(page, "jonas");
  await page.goto("/book");
  await page.getByRole("main").locator('a[href^="/book/records/"]').first().click();
  await expect(page).toHaveURL(/\/book\/records\//);
  await waitUntilReady(page);
  await tap(page, /^Send it to (the customer|somebody else)$/);
  const address = `record-${Date.now()}@clinic.example`;
  await page.getByLabel("E-mail address").fill("nobody");
  await page.getByLabel("Name", { exact: true }).fill("Kim Quay");
  await page.getByLabel("E-mail address").fill(address);
  await expectAccessible(page);
  await page.getByRole("button", { name: /^Send (the record|\d+ records)$/ }).click();
  await expect(page.getByText("On its way to Kim Quay.")).toBeVisible();
  await expect(async () => expect(await sentTo(page, address)).toBeDefined()).toPass({ timeout: 30_000 });
  const [file] = must(await sentTo(page, address)).files;
  expect(file).toMatchObject({ type: "application/pdf", name: expect.stringMatching(/^record-.*\.pdf$/) });
  expect(must(file).bytes).toBeGreaterThan(3000);
});
