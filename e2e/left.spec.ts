import { expect, type Page } from "@playwright/test";

import {
  allSent,
  drawSignature,
  expectAccessible,
  KEY_ON,
  logFigures,
  makeSafe,
  openSheet,
  PASSWORD,
  signIn,
  step,
  tap,
  waitUntilReady,
  walkRoundToTheBrooms,
} from "./helpers/app";
import { passGates } from "./helpers/faults";
import { test } from "./helpers/test";

const TAG = "HH-8001";
const DAILY = "Walk-round and brooms";

/** The daily round of the sweeper; its main broom is worn below the limit, and there is none in the van. */
async function walkRoundWithoutBroom(page: Page): Promise<void> {
  await walkRoundToTheBrooms(page);
  await step(page, "Main broom bristle");
  for (const [place, value] of [
    ["Left", "1.9"],
    ["Middle", "1.8"],
    ["Right", "1.9"],
  ] as const)
    await page.getByLabel(place, { exact: true }).fill(value);
  await logFigures(page, "Log the readings");
  await step(page, "Replace the main broom");
  await tap(page, "Skip");
  await page.getByLabel("Why is it skipped?").fill("No broom in the van");
  await tap(page, "Skip it");
  await step(page, "Side broom bristle");
  for (const field of await page.getByRole("article").getByRole("textbox").all()) await field.fill("3.2");
  await logFigures(page, "Log the readings");
  await makeSafe(page, KEY_ON);
  await step(page, "Polish mark of the main broom");
  await page.getByRole("textbox").first().fill("1.2");
  await logFigures(page);
  await step(page, "Drive a test strip");
  await page.getByRole("article").getByRole("button").first().click();
}

async function sign(page: Page): Promise<void> {
  await allSent(page);
  await page.getByRole("link", { name: "Sign", exact: true }).click();
  await drawSignature(page, "Ona Reef");
  await page.getByLabel("Your password").fill(PASSWORD);
  await tap(page, "Sign the sheet");
  await expect(page).toHaveURL(/\/book\/records\//);
}

async function toMachine(page: Page, tag: string): Promise<void> {
  await page.goto(`/machines?q=${tag}`);
  await page.getByRole("listitem").filter({ hasText: tag }).getByRole("link").click();
  await expect(page.getByRole("heading", { name: "Duties" })).toBeVisible();
}

test("a broom below its limit that the van has not is held, planned, loaded, fitted, and then closed", async ({
  page,
}) => {
  await signIn(page, "mira");
  await openSheet(page, TAG, DAILY);
  await walkRoundWithoutBroom(page);
  await sign(page);

  // Open, and the last one in the depot is held for it.
  await toMachine(page, TAG);
  const left = page.getByRole("region", { name: "Left open" });
  await expect(left.getByText("Major: Fit Main broom")).toBeVisible();
  await expect(left.getByText("Held for it: Van yard store")).toBeVisible();
  await expectAccessible(page);

  // On the round like a duty, and on the day.
  await page.goto("/round");
  await page.getByLabel("Site").selectOption("Trailer wash");
  await expect(page).toHaveURL(/site=/);
  await page.getByRole("link", { name: "Fit Main broom" }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Fit Main broom" })).toBeVisible();
  await expectAccessible(page);
  await tap(page, "Put it on my day");
  await expect(page).toHaveURL(/\/round\/day/);
  await page.goto("/round/load");
  await waitUntilReady(page);
  const depot = page.getByRole("region", { name: "Fetch from Van yard store" });
  await expect(depot.getByRole("listitem").filter({ hasText: "Main broom" })).toBeVisible();
  await tap(page, "Move 1 pc of Main broom from Van yard store");
  const van = page.getByRole("region", { name: "In Van 1 already" });
  await expect(van.getByRole("listitem").filter({ hasText: "Main broom" })).toBeVisible();

  // Fitted on its own sheet: what is listed there is logged there.
  await openSheet(page, TAG, "Fit Main broom");
  await expect(page.getByRole("heading", { level: 1, name: "Fit Main broom" })).toBeVisible();
  await expect(page.getByRole("region", { name: "Before you start" }).getByText("Fit Main broom")).toBeVisible();
  await makeSafe(page);
  await step(page, "Settle what was left");
  await expectAccessible(page);
  await tap(page, /^Fitted/);
  await page.getByLabel("Lot or serial, if it has one").fill("MB-118");
  await tap(page, "It is fitted");
  await expect(page.getByText("logged on this sheet")).toBeVisible();
  await tap(page, "Done");
  await step(page, "Prove it");
  await page.getByRole("article").getByRole("button").first().click();
  await sign(page);

  // Closed; the machine has the broom, and its history says so.
  await toMachine(page, TAG);
  await expect(page.getByRole("region", { name: "Left open" })).toHaveCount(0);
  await expect(page.getByRole("link", { name: "Fit Main broom" }).first()).toBeVisible();
  const machine = page.url();
  await page.goto(`${machine}/left`);
  const settled = page.getByRole("region", { name: "Settled" });
  await expect(settled.getByText("Fit Main broom").first()).toBeVisible();
  await settled
    .getByRole("link", { name: /the sheet/ })
    .first()
    .click();
  await expect(page.getByText("MB-118").first()).toBeVisible();
});

test("what an operator reports becomes a call, and its page says that it is done", async ({ page, browser }) => {
  await signIn(page, "jonas");
  await toMachine(page, "HH-1007");
  const machine = page.url();
  await page.getByRole("link", { name: "Set up" }).click();
  await tap(page, "Make a link");
  const address = await page.getByLabel("Address of the operator's page").inputValue();
  const operator = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await operator.goto(address);
  await operator.getByText("Report a problem").click();
  await operator.getByLabel("What is wrong?").fill("Door does not close any more");
  await operator.getByLabel("Your name or initials").last().fill("K. S.");
  await tap(operator, "Report it");
  const reported = operator.getByRole("region", { name: "Reported" });
  await expect(reported.getByText("Reported; nobody has read it yet.")).toBeVisible();

  // One press, and it is on somebody's day.
  const technician = await (await browser.newContext()).newPage();
  await signIn(technician, "mira");
  await technician.goto(machine);
  const reports = technician.getByRole("region", { name: "Reported by operators" });
  await expect(reports.getByText("Door does not close any more")).toBeVisible();
  await expectAccessible(technician);
  await tap(technician, "Make work of it");
  await expect(reports.getByText(/is on Mira Holt's day/)).toBeVisible();
  await operator.reload();
  await expect(reported.getByText(/Read; somebody comes today/)).toBeVisible();
  await expectAccessible(operator);

  // The call has its own name, and takes what was used from the van.
  await reports.getByRole("link", { name: "Its call" }).click();
  await tap(technician, "Open the sheet");
  await waitUntilReady(technician);
  const title = "Emergency: Door does not close any more";
  await expect(technician.getByRole("heading", { level: 1, name: title })).toBeVisible();
  await step(technician, "What is wrong?");
  await tap(technician, "Door does not close");
  await step(technician, "Find the cause");
  await passGates(technician);
  await tap(technician, "Used");
  await technician.getByLabel("Part or material").fill("Alcohol sw");
  await technician.getByRole("list", { name: "Found" }).getByRole("button", { name: "Alcohol swab" }).click();
  await technician.getByLabel(/^How much/).fill("3");
  await tap(technician, "Log it");
  await tap(technician, /^Screws loose/);
  await step(technician, "Tighten");
  await tap(technician, "Note");
  await technician.getByLabel("What should be remembered?").fill("Hinge put right, door closes");
  await tap(technician, "Log the note");
  await tap(technician, "Done");
  await passGates(technician);
  await step(technician, "Prove it");
  await tap(technician, "As expected");
  await sign(technician);
  await expect(technician.getByRole("heading", { level: 1, name: title })).toBeVisible();
  await expect(technician.getByText("Alcohol swab").first()).toBeVisible();

  await operator.reload();
  await expect(reported.getByText(/^Done on .*: Hinge put right, door closes$/)).toBeVisible();
});

test("a machine that is unsafe stops on pages that are open, until who is licensed returns it", async ({
  page,
  browser,
}) => {
  const other = async (name: "mira" | "jonas") => {
    const opened = await (await browser.newContext()).newPage();
    await signIn(opened, name);
    await toMachine(opened, "HH-2009");
    return opened;
  };
  const [mira, jonas] = [await other("mira"), await other("jonas")];
  await signIn(page, "tove");
  await openSheet(page, "HH-2009", "Inside, drip pan and doors");
  await tap(page, "Finding");
  await page.getByLabel("What did you find?").fill("Refrigerant leaks at the compressor");
  await page.getByLabel(/^Unsafe/).check();
  await tap(page, "Log the finding");
  await expect(mira.getByRole("heading", { name: "! Out of service" })).toBeVisible({ timeout: 5000 });
  await expect(mira.getByText("Nobody runs it until a lead returns it to service.")).toBeVisible();

  await allSent(page);
  await page.getByRole("link", { name: "To the signatures" }).click();
  await page.getByLabel("Why do you sign without them?").fill("Stopped: it leaks");
  await drawSignature(page, "Ona Reef");
  await page.getByLabel("Your password").fill(PASSWORD);
  await tap(page, "Sign the sheet");
  await expect(page).toHaveURL(/\/book\/records\//);

  // The lead says what it takes; who has not got it cannot return the machine.
  await jonas.goto(`${jonas.url()}/left`);
  await waitUntilReady(jonas);
  await jonas.getByRole("button", { name: /^Change: Found: Refrigerant leaks/ }).click();
  await jonas.getByLabel("Who does it").first().selectOption("licensed");
  await jonas.getByLabel("Authorisation it takes").first().fill("licensed-refrigeration");
  await jonas.getByRole("button", { name: "Keep" }).first().click();
  await expect(jonas.getByText(/takes licensed-refrigeration/).first()).toBeVisible();
  await expectAccessible(jonas);
  await mira.reload();
  await expect(mira.getByText(/for persons authorised for "licensed-refrigeration"/)).toBeVisible();
  await mira.getByRole("link", { name: "tag to print" }).click();
  await expect(mira.getByRole("heading", { level: 1, name: "Do not use" })).toBeVisible();
  await expectAccessible(mira);
  await mira.goBack();

  await jonas.getByRole("link", { name: "Galley prep cabinet" }).first().click();
  await jonas.getByLabel(/What was put right/).fill("Joint renewed, tested tight");
  await jonas.getByLabel("Your password").fill(PASSWORD);
  await tap(jonas, "Return to service");
  await expect(jonas.getByText(/returned to service by Jonas Rock/)).toBeVisible();
  await expect(mira.getByRole("heading", { name: "! Out of service" })).toHaveCount(0, { timeout: 5000 });
  await expect(mira.getByRole("region", { name: "Left open" }).getByText("Refrigerant leaks")).toHaveCount(0);
});
