import { expect, type Page } from "@playwright/test";

/** Ticks through every gate before what comes next, within the search for a cause and outside it. */
export async function passGates(page: Page): Promise<void> {
  const gate = page
    .getByRole("article")
    .getByRole("button", { name: /^(Tick each first|All safe: go on|Not yet|Not cool yet)$/ });
  for (let n = 0; n < 8 && (await gate.count()) > 0; n++) {
    const title = await page.getByRole("article").getByRole("heading").allTextContents();
    for (const box of await page.getByRole("article").getByRole("checkbox").all()) await box.check();
    await page.getByRole("article").getByRole("button", { name: "All safe: go on" }).click();
    await expect.poll(() => page.getByRole("article").getByRole("heading").allTextContents()).not.toEqual(title);
  }
}
