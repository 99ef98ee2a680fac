import AxeBuilder from "@axe-core/playwright";
import { expect, type Page } from "@playwright/test";

import { must } from "../../core/must";

export const PASSWORD = "harbour-demo-1";

/** Signs in without its page, which has tests of its own. */
export async function signIn(page: Page, name: "mira" | "jonas" | "tove" = "mira"): Promise<void> {
  // Of whichever app the page is for: some tests start their own.
  const { origin } = new URL((await page.request.get("/healthz")).url());
  const answer = await page.request.post(`${origin}/sign-in`, {
    form: { signIn: name, password: PASSWORD },
    headers: { Origin: origin },
    maxRedirects: 0,
  });
  expect(answer.status()).toBe(302);
  await page.goto("/round");
  await expect(page.getByRole("heading", { name: "Round", level: 1 })).toBeVisible();
}

/** Opens the sheet of a machine's duty by way of its tag. */
export async function openSheet(page: Page, tag: string, duty: string): Promise<void> {
  await page.goto(`/t/${tag}`);
  await page.getByRole("link", { name: duty, exact: true }).first().click();
  await page.getByRole("button", { name: /the sheet|open sheet/ }).click();
  await expect(page).toHaveURL(/\/sheet\/[0-9a-f-]{36}$/);
  await waitUntilReady(page);
}

/** The page's script is up: taps are taken. */
export async function waitUntilReady(page: Page): Promise<void> {
  const theme = page.getByRole("button", { name: /^(Dark|Light)$/, includeHidden: true });
  await expect(theme).toBeAttached();
}

export async function step(page: Page, title: string | RegExp): Promise<void> {
  await expect(page.getByRole("heading", { level: 2, name: title })).toBeVisible();
}

export async function tap(page: Page, name: string | RegExp): Promise<void> {
  await page.getByRole("button", { name, exact: typeof name === "string" }).click();
}

/** Logs what was typed; a figure that this machine seldom shows is said to be right. */
export async function logFigures(page: Page, button = "Log the reading"): Promise<void> {
  await tap(page, button);
  const right = page.getByRole("button", { name: "It is right" });
  // The question is there at once, or never.
  if (await right.isVisible()) await right.click();
}

/** What a meter shows after a little more use; of one that was never read, anything. */
export async function meterNow(page: Page): Promise<string> {
  const last = /Last: ([\d.]+)/.exec(await page.getByRole("article").innerText());
  return last ? String(Math.round(Number(last[1]) * 10 + 10) / 10) : "100";
}

/** Reads the meter of the step in sight. */
export async function logMeter(page: Page): Promise<void> {
  await page.getByLabel("Reading", { exact: true }).fill(await meterNow(page));
  await logFigures(page);
}

/** Ticks every check of the safety gate and goes on. */
export async function makeSafe(page: Page, gate = "Make it safe"): Promise<void> {
  await step(page, gate);
  for (const check of await page.getByRole("article").getByRole("checkbox").all()) await check.check();
  await tap(page, "All safe: go on");
}

/** What the sweeper's walk-round begins with: meter, safety functions and gauge, all in order, then parked with the key out. */
export async function walkRoundToTheBrooms(page: Page, hours?: string): Promise<void> {
  await step(page, "Read the hour meter");
  await page.getByLabel("Reading", { exact: true }).fill(hours ?? (await meterNow(page)));
  await logFigures(page);
  for (const look of ["Safety functions", "Battery gauge, lamps"]) {
    await step(page, look);
    await tap(page, "As it should be");
  }
  await makeSafe(page, PARKED);
  await step(page, /^Hopper up/);
  await tap(page, "As it should be");
}

/** The sweeper's gates. */
export const PARKED = "Parked, key out";
export const KEY_ON = "Key on, people away";

/** In practice, up to a soak of at least 15 and at most 30 minutes. */
export async function practiseToTheSoak(page: Page): Promise<void> {
  await signIn(page, "tove");
  await page.goto("/practice/ride-on-sweeper-spray");
  await waitUntilReady(page);
  await makeSafe(page, PARKED);
  await tap(page, "Off");
  await step(page, "Rinse the filters");
  await tap(page, "Done");
  await tap(page, "Made up and labelled");
  await step(page, "Tips in the descaler");
}

/** The stainer's sheet up to the soak in bleach. The page's clock is moved on: its heaters cool. */
export async function stainerToTheSoak(page: Page): Promise<void> {
  await makeSafe(page, "Arm may move");
  await logMeter(page);
  await makeSafe(page, "Arm held still");
  await step(page, "All slides unloaded");
  await tap(page, "Done");
  await step(page, "Heaters cool");
  await tap(page, "Start the clock");
  await page.clock.fastForward(5 * 60_000 + 1000);
  await makeSafe(page, "Heaters cool");
  await step(page, "Chambers off, into a basin of tap water at once");
  await tap(page, "Off");
  await tap(page, "Made up and labelled");
  await step(page, "All chambers under the bleach");
  await tap(page, "Done");
  await step(page, "Soak in bleach");
}

/** The ice maker's sheet from its first gate to the cleaner in the reservoir. */
export async function iceMakerToTheCleaner(page: Page): Promise<void> {
  await makeSafe(page, "Switched off");
  await step(page, "Ice out of the bin, away or stored");
  await tap(page, "Done");
  await step(page, "Reservoir as found");
  await tap(page, "As it should be");
  await makeSafe(page, "Incoming water shut");
  await step(page, "Drain the water system");
  await tap(page, "Done");
  await step(page, "Reservoir cover off");
  await tap(page, "Off");
  await step(page, "Cleaner into the reservoir, to overflow");
}

/** What stands in the reservoir is frozen out with the water shut, and its ice is put away. The page's clock is moved on. */
export async function freezeOut(page: Page, agent: "cleaner" | "sanitiser"): Promise<void> {
  await step(page, "Reservoir cover on");
  await tap(page, "All back on");
  await makeSafe(page, "Freezing out, water shut");
  await step(page, `Freeze the ${agent} out`);
  await tap(page, "Start the clock");
  await page.clock.fastForward(16 * 60_000);
  await tap(page, "Stop the clock");
  await makeSafe(page, "Switched off");
  await step(page, `Ice with ${agent} away, where nobody can use it`);
  await tap(page, "Done");
}

const SEEN = new Set<string>();

/**
 * Whether anything in sight is of a kind not yet looked at in this theme: by its classes and states within those around it, which is
 * what its colours come from.
 */
async function hasNewColours(page: Page): Promise<boolean> {
  if (process.env.HOUND_SOAK) return true;
  const kinds = await page.evaluate(() => {
    const theme = getComputedStyle(document.body);
    const within = new Map<Element, string>();
    for (const one of document.body.querySelectorAll("*")) {
      if (!one.checkVisibility()) continue;
      const states = one
        .getAttributeNames()
        .filter(
          (name) =>
            /^(aria-|data-state|disabled|role|type)/.test(name) && !/labelledby|describedby|controls|label$/.test(name),
        )
        .map((name) => `${name}=${one.getAttribute(name) ?? ""}`);
      const own = [one.localName, one.getAttribute("class") ?? "", one.getAttribute("style") ?? "", ...states].join(
        " ",
      );
      const around = one.parentElement ? (within.get(one.parentElement) ?? "") : "";
      within.set(one, `${around.split(" > ").slice(-3).join(" > ")} > ${own}`);
    }
    return [...new Set(within.values())].map((kind) => `${theme.color} on ${theme.backgroundColor} ${kind}`);
  });
  const isNew = kinds.some((kind) => !SEEN.has(kind));
  for (const kind of kinds) SEEN.add(kind);
  return isNew;
}

export async function allSent(page: Page): Promise<void> {
  await expect(page.getByTestId("outbox")).toHaveAttribute("data-unsent", "0");
}

/** Axe finds nothing, and nothing is wider than the window. `colours` asks only what another theme can change. */
export async function expectAccessible(page: Page, what: "all" | "colours" = "all"): Promise<void> {
  // No frames from elsewhere: without a blank page of its own for each look, it takes half the time.
  // Nor is what passed described node by node.
  const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ["violations"] });
  // Most of the time goes into contrasts, which are the same wherever the same stands.
  const isNew = await hasNewColours(page);
  if (what === "colours" && !isNew) return;
  if (what === "colours") axe.withRules(["color-contrast", "link-in-text-block"]);
  else axe.withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]);
  if (what === "all" && !isNew) axe.disableRules(["color-contrast"]);
  // Half scrolled under the page's head a link is small, and is reached by scrolling: the page is looked at from its top.
  await page.evaluate(() => {
    window.scrollTo(0, 0);
  });
  const { violations } = await axe.analyze();
  expect(violations.map((one) => `${one.id}: ${one.nodes.map((node) => node.target.join(" ")).join(", ")}`)).toEqual(
    [],
  );
  await expectNothingSideways(page);
}

/** Nothing is wider than the window; a chart takes a moment to follow it. */
export async function expectNothingSideways(page: Page): Promise<void> {
  await expect
    .poll(() => page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth))
    .toBeLessThanOrEqual(0);
}

/** The customer signs on the whole screen. */
export async function drawSignature(page: Page, name: string): Promise<void> {
  await tap(page, "Customer signs");
  await page.getByLabel("Customer's name").fill(name);
  const box = must(await page.getByRole("img", { name: "Signature", exact: true }).boundingBox());
  await page.mouse.move(box.x + 30, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 90, box.y + 20, { steps: 5 });
  await page.mouse.move(box.x + 160, box.y + box.height - 20, { steps: 5 });
  await page.mouse.up();
  await tap(page, "Done");
  await expect(page.getByRole("img", { name: `Signature of ${name}` })).toBeVisible();
}

/** Nothing is being looked for any more, and the plan shown is the one kept. */
export async function planned(page: Page): Promise<void> {
  // What was pressed has been taken up: two frames later the page says that it is busy.
  await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));
  await expect(page.locator("[aria-busy=true]")).toHaveCount(0, { timeout: 60_000 });
}
