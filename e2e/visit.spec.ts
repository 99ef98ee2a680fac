import { expect } from "@playwright/test";

import { must } from "../core/must";
import {
  allSent,
  drawSignature,
  expectAccessible,
  KEY_ON,
  meterNow,
  openSheet,
  PARKED,
  PASSWORD,
  signIn,
  step,
  tap,
  waitUntilReady,
} from "./helpers/app";
import { test } from "./helpers/test";
import { workVisit } from "./helpers/visit";

const TAGS = ["HH-3001", "HH-3004", "HH-3005", "HH-3008", "HH-3009"];

test("a visit of five machines is signed with one signature and one password, in four taps and the drawing", async ({
  page,
}) => {
  await signIn(page, "jonas");
  await page.setViewportSize({ width: 390, height: 844 });
  const sheets = await workVisit(page, TAGS, "Look over before the inspection");
  await page.goto(`/sheet/${must(sheets[0])}`);
  await waitUntilReady(page);

  let taps = 0;
  await page.exposeFunction("countTap", () => {
    taps++;
  });
  await page.addInitScript("addEventListener('pointerdown', (event) => event.target.closest('canvas') || countTap())");
  await page.reload();
  await waitUntilReady(page);
  await page.getByRole("link", { name: "Sign", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Sign: 5 sheets" })).toBeVisible();
  await expectAccessible(page);
  await drawSignature(page, "Kim Tern");
  await expect(page.getByLabel("Your password")).toBeFocused();
  await page.keyboard.type(PASSWORD);
  await tap(page, "Sign 5 sheets");
  await expect(page.getByRole("heading", { name: "5 sheets signed" })).toBeVisible();
  expect(taps).toBeLessThanOrEqual(4);
  await expectAccessible(page);

  // Each has a record of its own, with the signature and whom it is shared with.
  for (const sheet of sheets) {
    await page.goto(`/book/records/${sheet}`);
    await expect(page.getByRole("img", { name: "Signature of Kim Tern" })).toBeVisible();
    await expect(page.getByText(/One signature for the visit, with/).getByRole("link")).toHaveCount(4);
    await expect(page.getByText(/^Record no\. \d+ of the chain/)).toHaveCount(1);
  }
});

test("what is not ready is left out of a visit's signature, or says why it is signed", async ({ page }) => {
  await signIn(page, "jonas");
  const [first, second] = await workVisit(page, ["HH-3002", "HH-3006"], "Second look");
  // A third, of which nothing is done yet.
  await openSheet(page, "HH-3003", "Inlet strainer");
  const third = page.url();

  await page.goto(`/sheet/${must(first)}/sign`);
  await waitUntilReady(page);
  await expect(page.getByRole("heading", { level: 1, name: "Sign: 2 sheets" })).toBeVisible();
  await page.getByRole("checkbox", { name: /HH-3003/ }).check();
  await page.getByText("Nobody present").click();
  await page.getByLabel("Why does nobody sign?").fill("At lunch");
  await page.getByLabel("Your password").fill(PASSWORD);
  await tap(page, "Sign 3 sheets");
  await expect(page.getByText("Steps are missing. Do them, or say why you sign without them.")).toBeVisible();
  for (const sheet of [first, second])
    expect((await page.request.get(`/sheet/${must(sheet)}`, { maxRedirects: 0 })).status()).toBe(200);
  await page.getByRole("checkbox", { name: /HH-3003/ }).uncheck();
  await page.getByLabel("Your password").fill(PASSWORD);
  await tap(page, "Sign 2 sheets");
  await expect(page.getByRole("heading", { name: "2 sheets signed" })).toBeVisible();
  // What is still open here is what is next.
  await page.getByRole("link", { name: /go on with/ }).click();
  await expect(page).toHaveURL(third);
});

test("the sweeper's walk-round, all in order, takes fourteen taps and seven values on a phone", async ({ page }) => {
  await signIn(page, "tove");
  await page.setViewportSize({ width: 390, height: 844 });
  await openSheet(page, "HH-2002", "Walk-round and brooms");
  let taps = 0;
  let values = 0;
  const press = async (name: string | RegExp): Promise<void> => {
    taps++;
    await tap(page, name);
  };
  /** One tap into the first field; the keyboard's own key goes on to the next, and logs after the last. */
  const type = async (...figures: string[]): Promise<void> => {
    taps++;
    await page.getByRole("article").getByRole("textbox").first().click();
    for (const figure of figures) {
      values++;
      await page.keyboard.type(figure);
      await page.keyboard.press("Enter");
    }
  };
  /** As worn as last time. */
  const asLast = async (): Promise<string> =>
    must(/Last: ([\d.]+)/.exec(await page.getByRole("article").innerText())?.[1]);
  const gate = async (title: string): Promise<void> => {
    await step(page, title);
    for (const check of await page.getByRole("article").getByRole("checkbox").all()) {
      taps++;
      await check.check();
    }
    await press("All safe: go on");
  };
  await step(page, "Read the hour meter");
  await type(await meterNow(page));
  for (const look of ["Safety functions", "Battery gauge, lamps"]) {
    await step(page, look);
    await press("As it should be");
  }
  await gate(PARKED);
  await step(page, /^Hopper up/);
  await press("As it should be");
  await step(page, "Main broom bristle");
  const broom = await asLast();
  await type(broom, broom, broom);
  await step(page, "Side broom bristle");
  await expect(page.getByRole("img", { name: /Allowed/ })).toHaveCount(1);
  const side = await asLast();
  await type(side, side);
  await gate(KEY_ON);
  await step(page, "Polish mark of the main broom");
  await type("1.2");
  await step(page, "Drive a test strip");
  await press("As expected");
  await step(page, "Every step is settled.");
  expect(values).toBe(7);
  expect(taps).toBeLessThanOrEqual(14);
  await allSent(page);
});
