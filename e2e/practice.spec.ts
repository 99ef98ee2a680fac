import { expect, type Page } from "@playwright/test";

import { must } from "../core/must";
import { expectAccessible, expectNothingSideways, signIn, tap, waitUntilReady } from "./helpers/app";
import { passGates } from "./helpers/faults";
import { reach } from "./helpers/keyboard";
import { test } from "./helpers/test";

const lookAt = (page: Page) => page.getByRole("region", { name: "Look at" }).getByRole("button");

/** Every act loads the page anew: its line stands below the others. */
async function act(page: Page, press: () => Promise<void>): Promise<string> {
  const lines = page.getByRole("list", { name: "What happened" }).getByRole("listitem");
  const before = await lines.count();
  await press();
  await expect.poll(() => lines.count()).toBeGreaterThan(before);
  return must(await lines.last().textContent());
}

test("a fault on a machine that does not exist: what was unsafe and forgotten is said, and what it was", async ({
  page,
}) => {
  await signIn(page, "mira");
  await page.goto("/machines/practice");
  await expectAccessible(page);
  await tap(page, "Conveyor toaster");
  await expect(page).toHaveURL(/\/machines\/practice\/[0-9a-f-]{36}$/);
  await waitUntilReady(page);
  await expectAccessible(page);
  await act(page, () => page.getByRole("button", { name: "Make it so Unplugged" }).click());
  await expect(page.getByRole("button", { name: "End it Unplugged" })).toBeVisible();
  await act(page, () => page.getByRole("button", { name: "It is so Cold" }).click());
  await expect(page.getByText(/Unsafe: Said to be “Cold” at \d+ °C before it was/).first()).toBeVisible();
  await act(page, () => lookAt(page).first().click());
  await tap(page, "Remedy it here");
  await expect(page.getByText("Choose what it is.")).toBeVisible();
  await tap(page, "Leave the machine");
  await expect(page.getByText("Not passed")).toBeVisible();
  await expect(page.getByRole("region", { name: "Unsafe" }).getByText(/Said to be “Cold”/)).toBeVisible();
  const forgotten = page.getByRole("region", { name: "Forgotten or missed" });
  await expect(forgotten.getByText("Left without handing it over.")).toBeVisible();
  await expect(forgotten.getByText(/^“Unplugged” was not ended/)).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: /By the guide alone/ }).click();
  await expect(page.getByRole("list", { name: "By the guide alone" }).getByRole("listitem").last()).toContainText(
    "Left the machine",
  );

  // The same machine again has the same fault, now on the phone: named at once, and it counts for nothing.
  const was = must(await page.getByText(/^It was: /).textContent()).slice("It was: ".length);
  await page.setViewportSize({ width: 390, height: 844 });
  await tap(page, "The same machine again");
  await expect(page.getByText("the same machine again")).toBeVisible();
  await waitUntilReady(page);
  await expectNothingSideways(page);
  await page.getByLabel("The cause").selectOption({ label: was });
  await tap(page, "Hand it over");
  await expect(page.getByRole("status").filter({ hasText: `Handed over: ${was}` })).toHaveCount(1);
  await tap(page, "Leave the machine");
  await expect(page.getByText("it counts for no authorisation")).toBeVisible();
});

test("a whole sheet on a machine that answers: its time goes on with the work, and what is left out is said", async ({
  page,
}) => {
  await signIn(page, "mira");
  await page.goto("/practice/conveyor-toaster-speed");
  await tap(page, "Practise it on a machine that answers");
  await expect(page).toHaveURL(/\?run=/);
  await waitUntilReady(page);
  const shows = page.getByRole("region", { name: "The machine shows" });
  for (let n = 0; n < 12 && (await shows.count()) === 0; n++) {
    await passGates(page);
    const heading = page.getByRole("article").getByRole("heading", { level: 2 });
    const title = await heading.textContent();
    if ((await shows.count()) > 0) break;
    await page.getByRole("button", { name: "Skip", exact: true }).click();
    await expect(heading).not.toHaveText(must(title));
  }
  await expect(shows).toBeVisible();
  await expectAccessible(page);
  // Left and come back to, it stands where it was left.
  const heading = page.getByRole("article").getByRole("heading", { level: 2 });
  const sheet = must(await page.getByRole("heading", { level: 1 }).textContent()).slice("Practice: ".length);
  const left = must(await heading.textContent());
  await page.goto("/machines/practice");
  await page.getByRole("link", { name: sheet, exact: true }).first().click();
  await expect(heading).toHaveText(left);
  await page.reload();
  await expect(heading).toHaveText(left);
  await waitUntilReady(page);
  await page.getByRole("button", { name: "Skip", exact: true }).click();
  await tap(page, "Give up and hand it in");
  await expect(page.getByText("Not passed")).toBeVisible();
  await expect(page.getByText(/^Left out: /).first()).toBeVisible();
  await expect(page.getByText(/the best order takes/)).toBeVisible();
});

test("an authorisation may ask for practice, and leads see who has practised", async ({ page }) => {
  await signIn(page, "jonas");
  await page.goto("/book/people");
  await waitUntilReady(page);
  const required = page.getByRole("region", { name: "Practice before an authorisation" });
  await required.getByLabel("Authorisation").fill("toaster-work");
  await required.getByLabel("A fault found on").selectOption("Conveyor toaster");
  await required.getByRole("button", { name: "Ask for it", exact: true }).click();
  await expect(required.getByText("toaster-work: Conveyor toaster, passed within 365 days")).toBeVisible();
  const tove = page.getByRole("listitem").filter({ has: page.getByRole("heading", { name: "Tove Sand" }) });
  await tove.getByRole("button", { name: /Change/ }).click();
  await tove.getByLabel("Authorisation").fill("toaster-work");
  await tove.getByRole("button", { name: "Grant it" }).click();
  await expect(tove.getByText(/It asks for practice passed first on: Conveyor toaster/)).toBeVisible();
  await required.getByRole("button", { name: /^Ask for it no more/ }).click();
  await expect(required.getByText("toaster-work")).toHaveCount(0);

  await page.getByRole("link", { name: "Practice", exact: true }).click();
  await expect(
    page.getByRole("table", { name: "Practice by person and family" }).getByText("Mira Holt").first(),
  ).toBeVisible();
});

test("practice by the keyboard alone: the focus stays where it was pressed, and goes to what it came to", async ({
  page,
}) => {
  await signIn(page, "tove");
  await page.goto("/machines/practice");
  await waitUntilReady(page);
  await reach(page, /^Card printer/);
  await expect(page).toHaveURL(/\/machines\/practice\/[0-9a-f-]{36}$/);
  await waitUntilReady(page);
  const first = lookAt(page).first();
  const title = must(await first.textContent()).slice(0, 8);
  await act(page, () => reach(page, new RegExp(`^${title.replace(/[^\w ]/g, ".")}`)));
  await expect(first).toBeFocused();
  await act(page, () => page.keyboard.press("Enter"));
  await reach(page, /^The cause$/, null);
  await page.keyboard.type("Not found");
  await act(page, () => reach(page, /^Hand it over$/));
  await act(page, () => reach(page, /^Tell the operator$/));
  await reach(page, /^Leave the machine$/);
  await expect(page.getByRole("paragraph").filter({ hasText: /^Not passed$/ })).toBeFocused();
});
