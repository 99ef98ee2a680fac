import { expect, type Page } from "@playwright/test";

import { expectAccessible, practiseToTheSoak, step, tap } from "./helpers/app";
import { test } from "./helpers/test";

interface Heard {
  tones: number;
  kept: string[];
  notified: string[];
}

/** Counts what a page makes of the device's sound, screen and notifications: the browser of the tests shows none. */
async function listen(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const heard: Heard = { tones: 0, kept: [], notified: [] };
    Object.assign(window, { heard });
    OscillatorNode.prototype.start = () => {
      heard.tones += 1;
    };
    OscillatorNode.prototype.stop = () => undefined;
    const sentinel = Object.assign(new EventTarget(), {
      released: false,
      release: () => {
        heard.kept.push("off");
        return Promise.resolve();
      },
    });
    Object.defineProperty(Notification, "permission", { value: "granted" });
    ServiceWorkerRegistration.prototype.showNotification = (title, options) => {
      heard.notified.push(`${title}: ${options?.body ?? ""}`);
      return Promise.resolve();
    };
    Object.defineProperty(navigator, "wakeLock", {
      value: {
        request: (what: string) => {
          heard.kept.push(what);
          return Promise.resolve(sentinel);
        },
      },
    });
  });
}

const heard = (page: Page): Promise<Heard> => page.evaluate(() => (window as unknown as { heard: Heard }).heard);

test("an alarm is heard until somebody comes, is seen from another page, and keeps the screen on", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.clock.install();
  await listen(page);
  await practiseToTheSoak(page);
  await expect(page.getByText(/When time is up this device sounds, .*notifies you/)).toBeVisible();
  await expectAccessible(page);
  expect((await heard(page)).kept).toEqual([]);

  await tap(page, "Start the clock");
  await expect.poll(async () => (await heard(page)).kept).toEqual(["screen"]);
  await tap(page, "Let 5 minutes pass");
  expect((await heard(page)).tones).toBe(0);
  // Another page is in front from now on.
  await page.evaluate(() =>
    Object.defineProperty(document, "visibilityState", { value: "hidden", configurable: true }),
  );
  for (let i = 0; i < 2; i++) await tap(page, "Let 5 minutes pass");
  await page.clock.runFor(1500);
  await expect
    .poll(async () => (await heard(page)).notified)
    .toEqual([expect.stringMatching(/^Tips in the descaler: long enough/)]);
  const once = (await heard(page)).tones;
  expect(once).toBeGreaterThan(0);
  // Nobody comes: it goes on ringing.
  await page.clock.runFor(45_000);
  const again = (await heard(page)).tones;
  expect(again).toBeGreaterThan(once);
  // Somebody comes: it is quiet.
  await page.mouse.click(5, 400);
  await page.clock.runFor(45_000);
  expect((await heard(page)).tones).toBe(again);
  for (let i = 0; i < 3; i++) await tap(page, "Let 5 minutes pass");
  await page.clock.runFor(1500);
  await expect.poll(async () => (await heard(page)).notified.join()).toMatch(/past the maximum of 30 min/);
});

test("a clock stopped too early says what it missed, begins anew or goes on; one stopped late says by how much", async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.clock.install();
  await practiseToTheSoak(page);
  await tap(page, "Start the clock");
  await tap(page, "Let 5 minutes pass");
  await tap(page, "Stop early");
  await expect(page.getByRole("alert")).toContainText(/Stopped after 5:\d\d: 9:\d\d short of 15 min\./);
  await expect(page.getByRole("heading", { level: 2, name: "Tips in the descaler" })).toBeFocused();
  await expectAccessible(page);
  // Poured out, it stands anew from nothing; left in, it goes on where it was.
  await tap(page, "It was out: start anew");
  await tap(page, "Stop early");
  await expect(page.getByRole("alert")).toContainText(/Stopped after 0:\d\d: 14:\d\d short of 15 min\./);
  await tap(page, "It stayed in: go on");
  await tap(page, "Let 5 minutes pass");
  await expect(page.getByRole("timer")).toContainText("not before 15 min");
  for (let i = 0; i < 6; i++) await tap(page, "Let 5 minutes pass");
  await expect(page.getByRole("article")).toContainText(/5:\d\d over the maximum: take it out now/);
  await tap(page, "Stop the clock");
  await expect(page.getByRole("alert")).toContainText(/Out after 35:\d\d: 5:\d\d over the maximum of 30 min\./);
  await expect(page.getByRole("alert")).toContainText("rinse at once, look at them");
  await tap(page, "Looked at: next step");
  await step(page, "Rinse the tips well");
});
