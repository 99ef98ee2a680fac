import { type Browser, expect, type Page, type Request } from "@playwright/test";

import { must } from "../core/must";
import { allSent, logMeter, makeSafe, openSheet, signIn, step, tap } from "./helpers/app";
import { startApp, untilReady } from "./helpers/own-app";
import { test } from "./helpers/test";

const HOUR = 3_600_000;

/** As when somebody sets the clock in the device's settings, or it sets itself: the steady clock runs on. */
async function setClock(page: Page, byMs: number): Promise<void> {
  await page.evaluate((by) => {
    const told = Date.now.bind(Date);
    Date.now = () => told() + by;
  }, byMs);
}

/** Nothing but what is logged asks the server, and hears the time in its answer: no question is under way either. */
async function onlyEntries(page: Page): Promise<void> {
  await page.route("**/*", (route) => (route.request().method() === "GET" ? route.abort() : route.continue()));
  await expect.poll(() => underWay.get(page)?.size).toBe(0);
  // What came last is read too: an answer that is there may wait for a page that is busy.
  await page.evaluate(() => new Promise((resolve) => setTimeout(resolve, 500)));
}

const underWay = new WeakMap<Page, Set<Request>>();

/** A page whose questions to the server are counted from its first. */
async function countedPage(browser: Browser, baseURL: string): Promise<Page> {
  const page = await browser.newPage({ baseURL });
  const asked = new Set<Request>();
  underWay.set(page, asked);
  page.on("request", (request) => asked.add(request));
  for (const end of ["requestfinished", "requestfailed"] as const)
    page.on(end as "requestfinished", (request) => asked.delete(request));
  return page;
}

interface Logged {
  type: string;
  at: string;
  uncertain?: boolean;
}

test("a clock that is set on and back while the page is open holds nothing up, and every entry has its time", async ({
  browser,
}) => {
  // A server that tells the time and takes no other, as in production.
  const app = await startApp({ HOUND_DEMO: "1", HOUND_SAY_TIME: "1", HOUND_CLOCK_SLACK_MIN: "10" });
  await untilReady(app.url);
  const page = await countedPage(browser, app.url);
  try {
    await signIn(page, "tove");
    const started = Date.now();
    await openSheet(page, "HH-2001", "Walk-round and brooms");
    const sheetId = must(page.url().split("/").pop());
    // The sheet is up, and knows the time: what it would hear first after the clock was set, it would believe.
    await allSent(page);
    await onlyEntries(page);
    await setClock(page, 5 * HOUR);
    await logMeter(page);
    await allSent(page);
    // The answer has told the time meanwhile: it is certain again.
    await step(page, "Safety functions");
    await tap(page, "As it should be");
    await step(page, "Battery gauge, lamps");
    await allSent(page);
    await setClock(page, -365 * 24 * HOUR);
    await tap(page, "As it should be");
    await allSent(page);
    await page.unrouteAll({ behavior: "ignoreErrors" });
    const { entries } = (await (await page.request.get(`/api/sheets/${sheetId}/entries?have=0`)).json()) as {
      entries: Logged[];
    };
    const own = entries.slice(-3);
    expect(own.map((one) => [one.type, one.uncertain ?? false])).toEqual([
      ["reading", true],
      ["step-done", false],
      ["step-done", true],
    ]);
    const times = own.map((one) => Date.parse(one.at));
    expect(times).toEqual([...times].sort((a, b) => a - b));
    expect(must(times[0])).toBeGreaterThanOrEqual(started - 15_000);
    expect(must(times[2])).toBeLessThanOrEqual(Date.now() + 15_000);
  } finally {
    await page.close();
    app.child.kill("SIGTERM");
    await app.exited;
  }
});

test("what was logged by a wrong clock without a connection is put right when there is one", async ({ browser }) => {
  const app = await startApp({ HOUND_DEMO: "1", HOUND_SAY_TIME: "1", HOUND_CLOCK_SLACK_MIN: "10" });
  await untilReady(app.url);
  const page = await countedPage(browser, app.url);
  try {
    await signIn(page, "jonas");
    await openSheet(page, "HH-2003", "Battery water after the charge");
    const sheetId = must(page.url().split("/").pop());
    // The sheet is up, and knows the time: what it would hear first after the clock was set, it would believe.
    await allSent(page);
    await onlyEntries(page);
    // Out of sight, a jump looks like a sleep: it is believed, and found out by the server.
    await page.evaluate(() => {
      Object.defineProperty(document, "visibilityState", { value: "hidden", configurable: true });
      document.dispatchEvent(new Event("visibilitychange"));
    });
    await setClock(page, 5 * HOUR);
    await makeSafe(page, "Charger off, aired");
    await allSent(page);
    await page.unrouteAll({ behavior: "ignoreErrors" });
    const { entries } = (await (await page.request.get(`/api/sheets/${sheetId}/entries?have=0`)).json()) as {
      entries: (Logged & { deviceAt?: string })[];
    };
    const told = must(entries.at(-1));
    expect(told).toMatchObject({ type: "safety-confirmed", uncertain: true });
    expect(Math.abs(Date.parse(told.at) - Date.now())).toBeLessThan(60_000);
    expect(Date.parse(must(told.deviceAt)) - Date.now()).toBeGreaterThan(4 * HOUR);
  } finally {
    await page.close();
    app.child.kill("SIGTERM");
    await app.exited;
  }
});
