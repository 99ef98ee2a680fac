import { expect, type Page } from "@playwright/test";

import { must } from "../core/must";
import {
  allSent,
  expectAccessible,
  iceMakerToTheCleaner,
  makeSafe,
  openSheet,
  PARKED,
  planned,
  signIn,
  tap,
  waitUntilReady,
} from "./helpers/app";
import { test } from "./helpers/test";

async function putOnMyDay(page: Page, tag: string, duty: string): Promise<void> {
  await page.goto(`/machines?q=${tag}`);
  await page.getByRole("listitem").filter({ hasText: tag }).getByRole("link").click();
  await page.getByRole("link", { name: duty, exact: true }).first().click();
  await tap(page, "Put it on my day");
  await expect(page).toHaveURL(/\/round\/day/);
  await waitUntilReady(page);
}

test("a day: planned, started, two soaks at once, an emergency, the rest planned again, ended", async ({ page }) => {
  await signIn(page, "tove");
  await page.getByRole("link", { name: "Plan the day" }).click();
  await expect(page.getByText("Nothing is on this day yet.")).toBeVisible();
  await expectAccessible(page);
  // Whatever the hour of this test, the day is long enough.
  await page.getByLabel("From", { exact: true }).fill("00:05");
  await page.getByLabel("Until", { exact: true }).fill("23:55");
  await tap(page, "Set the hours");
  await expect(page.getByText("Tove Sand, today · 00:05 to 23:55")).toBeVisible();

  await putOnMyDay(page, "HH-8004", "Clean and sanitise");
  await planned(page);
  await putOnMyDay(page, "HH-8001", "Mist tips");
  await planned(page);
  const visit = page.getByRole("region", { name: "1 Trailer wash" });
  await expect(visit.getByText("Proven: no order of work is shorter.")).toBeVisible();
  await expect(visit.getByText(/% saved/)).toBeVisible();
  await visit.getByText("As a list").click();
  await expect(
    visit.getByRole("cell", { name: /Wait: .*Clean and sanitise.* back by \d\d:\d\d/ }).first(),
  ).toBeVisible();
  await expectAccessible(page);

  // What to load, for both machines.
  await page.getByRole("link", { name: "Open the load list" }).click();
  await expect(page.getByRole("listitem").filter({ hasText: "Container for ice" })).toBeVisible();
  await page.getByRole("checkbox", { name: "Container for ice: in the van" }).check();
  await expect(page.getByText(/^1 of \d+$/)).toBeVisible();
  await page.getByRole("link", { name: "The day" }).click();
  await expect(page.getByText(/^1 of \d+ things are in the van/)).toBeVisible();

  // By keyboard alone from here to the site.
  await page.getByRole("button", { name: "Start the day" }).focus();
  await page.keyboard.press("Enter");
  await planned(page);
  await visit.getByRole("button", { name: "Arrived at Trailer wash" }).focus();
  await page.keyboard.press("Enter");
  await expect(visit.getByText("you are here")).toBeVisible();
  await planned(page);

  await openSheet(page, "HH-8001", "Mist tips");
  await makeSafe(page, PARKED);
  await tap(page, "Off");
  await soakFrom(page);
  await openSheet(page, "HH-8004", "Clean and sanitise");
  await iceMakerToTheCleaner(page);
  await tap(page, "Done");
  await tap(page, "Start the clock");
  await allSent(page);

  await page.goto("/round/day");
  await waitUntilReady(page);
  await tap(page, "Plan the rest again");
  await planned(page);
  // Both soaks go on: the visit's list begins with two waits and says when to be back.
  await visit.getByText("As a list").click();
  await expect(visit.getByRole("cell", { name: /^Wait: .*back by/ })).toHaveCount(3);
  await expect(visit.getByRole("link", { name: "Go on with the sheet" })).toHaveCount(2);

  await page.getByText("Emergency call").click();
  await page.getByLabel("Machine tag").fill("hh-none");
  await page.getByLabel("What is wrong").fill("Door seal hisses");
  await tap(page, "Put it on the day");
  await expect(page.getByText("There is no machine with the tag HH-NONE.")).toBeVisible();
  // The form stays as it was, to be mended.
  await expect(page.getByLabel("What is wrong")).toHaveValue("Door seal hisses");
  await page.getByLabel("Machine tag").fill("hh-7003");
  await page.getByLabel("What is wrong").fill("Door seal hisses");
  await tap(page, "Put it on the day");
  await planned(page);
  // Which of the two comes first depends on the hour at which the day is planned.
  const clinic = page.getByRole("region", { name: /^\d Harbour clinic$/ });
  await expect(clinic.getByRole("link", { name: "Door seal hisses" })).toBeVisible();
  await expect(visit.getByText("you are here")).toBeVisible();
  await page.setViewportSize({ width: 390, height: 844 });
  await expectAccessible(page);

  await tap(page, "Leave Trailer wash");
  const asked = page.getByRole("dialog", { name: "Before you leave Trailer wash" });
  await expect(asked.getByText(/The clock of “.+” runs; .*of \d+ steps settled/).first()).toBeVisible();
  await expectAccessible(page);
  await tap(page, "Leave all the same");
  await planned(page);
  await tap(page, /^Take back: left Trailer wash/);
  await planned(page);
  await expect(visit.getByText("you are here")).toBeVisible();
  await tap(page, "Leave Trailer wash");
  await tap(page, "Leave all the same");
  await planned(page);
  await clinic.getByText("Leave it out today").click();
  await page.getByLabel("Why", { exact: true }).fill("The clinic has a spare");
  await tap(page, "Leave Harbour clinic out");
  await planned(page);
  await tap(page, "End the day");
  await expect(page.getByRole("heading", { name: "What became of the day" })).toBeVisible();
  await expect(page.getByRole("region", { name: /^Not signed yet/ }).getByText("Wash yard sweeper")).toBeVisible();
  await expect(page.getByRole("region", { name: "Hours" }).getByText("Trailer wash")).toBeVisible();
  await expectAccessible(page);
  await page.goBack();
  await tap(page, /^Take back: ended/);
  await tap(page, "End the day");
  await expect(page.getByRole("heading", { name: "What became of the day" })).toBeVisible();
});

/** The sweeper's sheet up to the tips in the descaler. */
async function soakFrom(page: Page): Promise<void> {
  for (let i = 0; i < 8; i++) {
    const clock = page.getByRole("button", { name: "Start the clock" });
    const done = page.getByRole("button", { name: "Done", exact: true });
    const mixed = page.getByRole("button", { name: "Made up and labelled" });
    await expect(clock.or(done).or(mixed).first()).toBeVisible();
    if (await clock.isVisible()) break;
    await done.or(mixed).first().click();
    await page.waitForTimeout(150);
  }
  await tap(page, "Start the clock");
  await allSent(page);
}

test("a round is proposed for the hours there are, moved by hand, and handed over", async ({ page }) => {
  await signIn(page, "jonas");
  await page.goto("/round/day");
  const tomorrow = await page.getByRole("link", { name: "Day after" }).getAttribute("href");
  await page.goto(must(tomorrow));
  await tap(page, "Propose a round");
  await planned(page);
  const stops = page.getByRole("heading", { level: 2 }).filter({ has: page.getByRole("link") });
  await expect(page.getByText("Back at", { exact: true })).toBeVisible();
  // Taken off to choose anew, and put back in one press.
  const before = await page.getByRole("region", { name: "The round" }).locator("dl").first().innerText();
  await tap(page, "Start from an empty day");
  // What has begun stays; the rest is taken off.
  await expect(page.getByText(/^\d+ taken off the day\./)).toBeVisible();
  await tap(page, "Put them back");
  await expect(page.getByText(/^\d+ are back on the day\./)).toBeVisible();
  await planned(page);
  await expect(page.getByRole("region", { name: "The round" }).locator("dl").first()).toHaveText(
    before.replaceAll("\n", ""),
  );
  const first = await stops.first().innerText();
  if ((await stops.count()) > 1) {
    const order = page.getByRole("region", { name: "Order of sites" });
    await order
      .getByRole("button", { name: /^Move / })
      .first()
      .focus();
    // Moved by keys alone, then put back; what it costs is said before it is kept.
    for (const key of ["Space", "ArrowDown", "Space"]) {
      await page.keyboard.press(key);
      await page.waitForTimeout(300);
    }
    await expect(order.getByText(/^Back at \d\d:\d\d, /)).toBeVisible();
    await order.getByRole("button", { name: "Put it back" }).click();
    await expect(order.getByRole("button", { name: "Keep this order" })).toHaveCount(0);
    await order
      .getByRole("button", { name: /^Go to .* later$/ })
      .first()
      .click();
    await expect(order.getByText(/^Back at \d\d:\d\d, /)).toBeVisible();
    await tap(page, "Keep this order");
    await planned(page);
    await expect(stops.first()).not.toHaveText(first);
    await tap(page, "Let the best order be found");
    await planned(page);
  }
  await page.getByRole("link", { name: "Choose duties" }).click();
  const dialog = page.getByRole("dialog", { name: "Choose duties for this day" });
  await expectAccessible(page);
  const box = dialog.getByRole("checkbox").first();
  const chosen = (await dialog.getByRole("listitem").first().locator("span.font-semibold").innerText()).trim();
  await box.check();
  await dialog.getByRole("button", { name: "Put them on the day" }).click();
  await expect(dialog).toHaveCount(0);
  await planned(page);
  await expect(page.getByRole("link", { name: chosen }).first()).toBeVisible();
  // What is pinned to the day cannot be taken off it by a slip of the hand.
  const pin = page.getByRole("button", { name: /^Pin .* to this day$/ }).first();
  const title = must(await pin.getAttribute("aria-label")).replace(/^Pin (.*), to this day$/, "$1");
  await pin.click();
  await expect(page.getByRole("button", { name: `Unpin ${title}` })).toBeVisible();
  await expect(page.getByRole("button", { name: `Take ${title}, off the day` })).toHaveCount(0);
  const file = await page.request.get(
    must(await page.getByRole("link", { name: "Calendar file" }).getAttribute("href")),
  );
  expect(file.headers()["content-type"]).toContain("text/calendar");
  expect(await file.text()).toContain("BEGIN:VEVENT");
  await page.getByText("Hand the rest over").click();
  await page.getByLabel("To", { exact: true }).selectOption({ label: "Mira Holt" });
  await tap(page, "Hand over");
  await expect(page.getByText("Nothing is on this day yet.")).toBeVisible();
});

test("a lead gives the week to everybody, sets a person's territory, the depot, and the firm's own ways", async ({
  page,
}) => {
  await signIn(page, "jonas");
  await page.getByRole("link", { name: "The week", exact: true }).click();
  await waitUntilReady(page);
  await tap(page, "Propose the week");
  await expect(page.getByText(/duties find a place/)).toBeVisible({ timeout: 90_000 });
  await expectAccessible(page);
  const mira = page.getByRole("region", { name: "Mira Holt" });
  // Each day as its own page plans it: put there, its page says the same, and one press takes all of it back.
  const open = await page.getByText(/due by its end and on nobody's day/).innerText();
  await tap(page, "Put it on the days");
  await expect(page.getByText(/duties are on people's days now/)).toBeVisible({ timeout: 60_000 });
  await expectAccessible(page);
  const cell = page
    .getByRole("listitem")
    .filter({ has: page.getByText("Back at") })
    .first();
  const said = (await cell.locator("dd").allInnerTexts()).map((text) => text.trim());
  const day = await page.context().newPage();
  await day.goto(must(await cell.getByRole("link").first().getAttribute("href")));
  await waitUntilReady(day);
  const figures = day.getByRole("region", { name: "The round" }).locator("dl").first();
  await expect(figures).toContainText(`Back at${must(said[0])}`);
  await expect(figures).toContainText(`Holds in${must(said.at(-1))}`);
  await day.close();
  await tap(page, "Undo the week");
  await expect(page.getByText(/^Undone: \d+ duties are where they were before\./)).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/due by its end and on nobody's day/)).toHaveText(open);
  await waitUntilReady(page);
  await mira.getByText("All families, all sites,").click();
  await mira.getByLabel("conveyor oven", { exact: true }).check();
  await tap(page, "Save for Mira Holt");
  await expect(page.getByText("Saved.")).toBeVisible();
  await expect(mira.getByText("1 family, all sites,")).toBeVisible();

  await page.getByRole("link", { name: "Ways" }).click();
  await expect(page.getByLabel("Name")).toHaveValue("Van yard");
  await page.getByLabel("CSV file, one line a way").setInputFiles({
    name: "ways.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("from,to,minutes\nVan yard,Nowhere,5\n"),
  });
  await tap(page, "Take the ways");
  await expect(page.getByText('There is no depot or site "Nowhere".')).toBeVisible();
  await page.getByLabel("CSV file, one line a way").setInputFiles({
    name: "ways.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("from,to,minutes\nVan yard,Boatyard,11\n"),
  });
  await tap(page, "Take the ways");
  await expect(page.getByText("1 way is in.")).toBeVisible();
  await expect(page.getByRole("cell", { name: "Boatyard" })).toBeVisible();
  await expectAccessible(page);
  // How often a proposed day has to hold.
  await page.goto("/round/week");
  await waitUntilReady(page);
  await page.getByText(/A proposed day holds in at least/).click();
  await page.getByLabel("Percent of cases").fill("101");
  await tap(page, "Save");
  await expect(page.getByText("No day holds for certain: 99 percent at most.")).toBeVisible();
  await waitUntilReady(page);
  await page.getByLabel("Percent of cases").fill("90");
  await tap(page, "Save");
  await expect(page.getByText("Days that are proposed hold in at least 90 % of cases from now on.")).toBeVisible();
});
