import type { Locator, Page } from "@playwright/test";

/** Tabs on until the focus is on something with this name, then presses a key. No pointer anywhere. */
export async function reach(page: Page, name: RegExp, key: string | null = "Enter"): Promise<void> {
  for (let i = 0; i < 80; i++) {
    const focused = await page.evaluate(() => {
      const element = document.activeElement as HTMLElement | null;
      if (!element || element === document.body) return "";
      const label = (element as HTMLInputElement).labels?.[0]?.textContent ?? "";
      return element.getAttribute("aria-label") ?? (label || element.textContent || "");
    });
    if (name.test(focused.trim())) {
      if (key) await page.keyboard.press(key);
      return;
    }
    await page.keyboard.press("Tab");
  }
  throw new Error(`The keyboard never reached ${String(name)}`);
}

/** Picks up what is moved by keys. Arrows are heard a timer later, and keys overtake timers on a busy machine. */
export async function pickUp(page: Page, handle: Locator): Promise<void> {
  await handle.focus();
  await page.keyboard.press("Space");
  await page.evaluate(() => new Promise((resolve) => setTimeout(resolve)));
}
