import { type BrowserContext, test as base } from "@playwright/test";

/**
 * The browser's own `test`, with one browser context for all tests of a run: what it fetched and compiled of the app stays,
 * as it does for a person who comes back. What a test left behind is gone before the next: pages, cookies, stores, routes.
 */
export const test = base.extend<object, { kept: { context?: BrowserContext } }>({
  kept: [
    // eslint-disable-next-line no-empty-pattern -- the runner reads the parameter's pattern to learn what is asked for
    async ({}, give) => {
      const kept: { context?: BrowserContext } = {};
      await give(kept);
      await kept.context?.close();
    },
    { scope: "worker" },
  ],
  context: async ({ browser, kept, baseURL }, give) => {
    // Made within a test, so that it has the run's own settings.
    const context = (kept.context ??= await browser.newContext());
    await give(context);
    await context.unrouteAll({ behavior: "ignoreErrors" });
    await context.setOffline(false);
    for (const page of context.pages()) await page.close();
    await context.clearCookies();
    const sweeper = await context.newPage();
    const browserItself = await context.newCDPSession(sweeper);
    await browserItself.send("Storage.clearDataForOrigin", {
      origin: new URL(baseURL ?? "about:blank").origin,
      storageTypes: "indexeddb,local_storage,cache_storage,service_workers",
    });
    await sweeper.close();
  },
});

export { expect, type Page } from "@playwright/test";
