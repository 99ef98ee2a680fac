import { expect, type Page } from "@playwright/test";

import { shortDay } from "../app/kit/days/day-time";
import { must } from "../core/must";
import { signIn } from "./helpers/app";
import { test } from "./helpers/test";

/** Every kind of duty rule is set up in the interface, and its duty stands on the right day with the reason. */

const DAY_MS = 86_400_000;
/** Today where the demo firm is. */
const today = (): string =>
  new Intl.DateTimeFormat("sv-SE", { timeZone: "Atlantic/Azores", dateStyle: "short" }).format(new Date());
/** As the pages say it. */
const say = (day: string): string => shortDay(day, today());
const plus = (days: number): string =>
  new Date(Date.parse(`${today()}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10);
/** Calendar months later, clamped to the month's end. */
function plusMonths(months: number): string {
  const [year, month, day] = today().split("-").map(Number) as [number, number, number];
  const last = new Date(Date.UTC(year, month - 1 + months + 1, 0)).getUTCDate();
  return new Date(Date.UTC(year, month - 1 + months, Math.min(day, last))).toISOString().slice(0, 10);
}
/** So many days from the demo firm's loading, which may have been before midnight, or on another day than the firm's. */
const fromLoading = (days: number): string =>
  new Date(Date.parse(`${must(process.env["HOUND_DEMO_DAY"])}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10);
const nextFriday = (): string =>
  must([0, 1, 2, 3, 4, 5, 6].map(plus).find((day) => new Date(`${day}T00:00:00Z`).getUTCDay() === 5));

async function machinePage(page: Page, tag: string): Promise<void> {
  await page.goto(`/t/${tag}`);
  await expect(page.getByRole("heading", { name: "Duties" })).toBeVisible();
}

async function addOwnDuty(page: Page, tag: string, title: string): Promise<void> {
  await machinePage(page, tag);
  await page.getByRole("link", { name: "Set up" }).click();
  await page.getByLabel("Which").selectOption({ label: "One of this machine's own" });
  await page.getByLabel("Title", { exact: true }).fill(title);
  await page.getByRole("button", { name: "Add it" }).click();
  await expect(page.getByRole("heading", { name: "When this duty comes due" })).toBeVisible();
}

interface Rule {
  kind: "By the calendar" | "By a meter" | "When something happens" | "When a reading is out";
  fill?: Record<string, string>;
  choose?: Record<string, string | RegExp>;
}

async function fillRule(page: Page, number: number, { kind, fill = {}, choose = {} }: Rule): Promise<void> {
  const row = page.getByRole("group", { name: `Rule ${number}` });
  await row.getByRole("combobox", { name: `Rule ${number}` }).selectOption({ label: kind });
  for (const [label, value] of Object.entries(fill)) await row.getByLabel(label, { exact: true }).fill(value);
  for (const [label, value] of Object.entries(choose)) {
    const select = row.getByLabel(label, { exact: true });
    const text =
      typeof value === "string"
        ? value
        : await select.locator("option").filter({ hasText: value }).first().textContent();
    await select.selectOption({ label: must(text) });
  }
}

async function save(page: Page, reason: string): Promise<void> {
  await page.getByLabel("Why is it changed?").fill(reason);
  await page.getByRole("button", { name: "Save the rules" }).click();
  await expect(page.getByRole("link", { name: "Change the rules" })).toBeVisible();
}

/** The duty's page shows the day, and why. */
async function expectDue(page: Page, day: string, why: string | RegExp, words?: string | RegExp): Promise<void> {
  await page.getByText("Why this day?").click();
  await expect(page.getByText(say(day), { exact: true }).first()).toBeVisible();
  await expect(page.getByRole("main").getByText(why).first()).toBeVisible();
  if (words) await expect(page.getByRole("main").getByText(words).first()).toBeVisible();
}

const change = (page: Page) => page.getByRole("link", { name: "Change the rules" }).click();

test("calendar rules: days, first interval, fixed dates, weekday, factor, alerts, hard stop", async ({ page }) => {
  test.setTimeout(120_000);
  await signIn(page, "jonas");
  await addOwnDuty(page, "HH-1004", "Rules by the calendar");
  await page.getByLabel("Counts from").fill(today());
  await fillRule(page, 1, {
    kind: "By the calendar",
    fill: { Every: "14" },
    choose: { Unit: "days", "Counted from": "the last completion" },
  });
  await page.getByRole("button", { name: "Try without saving" }).click();
  await expect(page.getByRole("heading", { name: "It would come to" })).toBeVisible();
  await expect(page.getByText(say(plus(14)), { exact: true }).first()).toBeVisible();
  await save(page, "Every fourteen days");
  await expectDue(page, plus(14), /Every 14 days from the last completion/, "due in 14 days");

  await change(page);
  await fillRule(page, 1, {
    kind: "By the calendar",
    fill: { Every: "6", "First interval": "3" },
    choose: { Unit: "months", "Its unit": "months", "Counted from": "the last completion" },
  });
  await save(page, "First oil change sooner");
  await expectDue(page, plusMonths(3), /never done yet\) \+ 3 months/);

  await change(page);
  await fillRule(page, 1, {
    kind: "By the calendar",
    fill: { Every: "1", "First interval": "" },
    choose: { Unit: "months", "Its unit": "–", "Counted from": "fixed dates" },
  });
  await save(page, "Fixed dates suit the customer");
  await expectDue(page, plusMonths(1), /Fixed dates every month from/);

  await change(page);
  await page.getByLabel("Counts from").fill(plus(-7));
  await fillRule(page, 1, { kind: "By the calendar", choose: { Unit: "weeks", "Moved to": "Friday" } });
  await save(page, "Drained before the weekend");
  await expectDue(page, nextFriday(), /moved forward to Friday/);

  await change(page);
  await page.getByLabel("Counts from").fill(plus(-4));
  await fillRule(page, 1, {
    kind: "By the calendar",
    fill: { Every: "40" },
    choose: { Unit: "days", "Moved to": "–", "Counted from": "the last completion" },
  });
  await page.getByText("Alerts, water, use afterwards, what it contains and sets off").click();
  await page.getByLabel("Interval factor").fill("0.5");
  await page.getByLabel("Notice, days before").fill("10");
  await page.getByLabel("Warning, days before").fill("4");
  await save(page, "Hard water, two alerts");
  await expectDue(page, plus(16), /site factor 0.5 = 20 days/);
  await expect(
    page.getByText(`Notice from ${say(plus(6))} (10 days before), warning from ${say(plus(12))} (4 days before).`),
  ).toBeVisible();

  await change(page);
  await page.getByLabel("Counts from").fill(plus(-30));
  await page.getByLabel(/Hard stop/).check();
  await save(page, "The maker locks it");
  await expectDue(page, plus(-10), /must stand still until it is done/, "locked: 10 days past, must stand still");

  // What was said and set before stays readable.
  await change(page);
  await expect(page.getByText(/Fixed dates suit the customer/)).toBeVisible();
});

test("meter rules: hours on a named basis and counts, forecast from readings that came by file", async ({ page }) => {
  await signIn(page, "jonas");
  await machinePage(page, "HH-6001");
  await page.goto("/machines/readings");
  await page.getByLabel("CSV file").setInputFiles({
    name: "readings.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(
      [
        "tag,meter,value,read_at",
        `HH-6001,spindle-hours,2256,${fromLoading(-20)}`,
        `HH-6001,spindle-hours,2332,${fromLoading(-1)}`,
      ].join("\n"),
    ),
  });
  await page.getByRole("button", { name: "Take the readings" }).click();
  await expect(page.getByText("2 readings are in")).toBeVisible();
  await addOwnDuty(page, "HH-6001", "Rules by spindle hours");
  await page.getByLabel("Counts from").fill(fromLoading(-20));
  await fillRule(page, 1, {
    kind: "By a meter",
    choose: { Meter: "Spindle hours (h)", "Counted from": "the last completion" },
    fill: { Every: "100" },
  });
  await save(page, "Every hundred spindle hours");
  // 76 of 100 used in 19 days, after 4 a day in the demo's own readings: 24 left at 4 a day.
  await expectDue(page, fromLoading(5), /24 left at the last value of 2332 on .*; at 4 a day/);
  await change(page);
  await fillRule(page, 1, {
    kind: "By a meter",
    choose: { "Counted from": "fixed points" },
    fill: { Every: "70", First: "50" },
  });
  await save(page, "Fixed points");
  await expectDue(page, fromLoading(-1), /reached by the reading of 2332/, /due today|days? past|overdue/);

  // Counts: the demo's printer made 5,590 prints in 74 days, the last of them five days ago.
  await addOwnDuty(page, "HH-5002", "Rules by prints");
  await page.getByLabel("Counts from").fill(fromLoading(-5));
  await fillRule(page, 1, {
    kind: "By a meter",
    choose: { Meter: /^Prints/, "Counted from": "the last completion" },
    fill: { Every: "500", First: "" },
  });
  await save(page, "Every 500 prints");
  await expectDue(page, fromLoading(2), /500 left at the last value of 10790 on .*; at 75.54 a day/);
});

test("event rules: after a run, an indicator or monthly, before standing idle", async ({ page }) => {
  test.setTimeout(90_000);
  await signIn(page, "jonas");
  await addOwnDuty(page, "HH-4003", "Rules by events");
  await page.getByLabel("Counts from").fill(today());
  await fillRule(page, 1, { kind: "When something happens", fill: { Event: "warning-light" } });
  await page.getByRole("button", { name: "Add a rule" }).click();
  await fillRule(page, 2, {
    kind: "By the calendar",
    fill: { Every: "1" },
    choose: { Unit: "months", "Counted from": "the last completion" },
  });
  await save(page, "The light or monthly, whichever is first");
  await expectDue(page, plusMonths(1), /The earliest of 2 rules counts/);
  await page.getByRole("main").getByRole("link", { name: "Prep cabinet" }).click();
  await page.getByLabel("What", { exact: true }).first().selectOption({ label: "The warning light came on" });
  await page.getByRole("button", { name: "Log it" }).click();
  await expect(page.getByRole("listitem").filter({ hasText: "The warning light came on" }).first()).toBeVisible();
  await page.getByRole("link", { name: "Rules by events" }).click();
  await expectDue(page, today(), /At each "warning-light": the earliest is on/, "due today");

  await change(page);
  await page.getByRole("button", { name: "Remove rule 2" }).click();
  await fillRule(page, 1, { kind: "When something happens", fill: { Event: "idle-ahead" } });
  await save(page, "Prime before the weekend");
  // The school kitchen is closed on Saturdays and Sundays; a public holiday may bring the last open day forward.
  const lines = (await page.getByRole("main").innerText()).split("\n").map((line) => line.trim());
  const until = [0, 1, 2, 3, 4, 5, 6].map(plus).filter((day) => day <= nextFriday());
  const due = must(until.find((day) => lines.includes(say(day))));
  await expectDue(page, due, /At each "idle-ahead"/);
});

test("a reading beyond its limit makes a duty due", async ({ page }) => {
  await signIn(page, "jonas");
  await addOwnDuty(page, "HH-2001", "Rules by a reading");
  await page.getByLabel("Counts from").fill(plus(-60));
  await fillRule(page, 1, { kind: "When a reading is out", fill: { Reading: "main-broom-bristle", Below: "99" } });
  await save(page, "Brooms");
  await expectDue(page, fromLoading(-56), /When main-broom-bristle is below 99: beyond it since/);
});

test("nesting, second halves and what operators do: ticked on a phone in a few taps", async ({ page, browser }) => {
  test.setTimeout(120_000);
  await signIn(page, "jonas");
  const rulesOf = async (title: string, more: () => Promise<void>): Promise<void> => {
    await addOwnDuty(page, "HH-5003", title);
    await page.getByLabel("Counts from").fill(plus(-1));
    await more();
    await save(page, "Set up");
  };
  await rulesOf("Refill the tank", () =>
    fillRule(page, 1, { kind: "When something happens", fill: { Event: "refill" } }),
  );
  await rulesOf("Drain the tank", async () => {
    await fillRule(page, 1, {
      kind: "By the calendar",
      fill: { Every: "1" },
      choose: { Unit: "days", "Counted from": "the last completion" },
    });
    await page.getByLabel("Who does it").selectOption({ label: "The operator" });
    await page.getByText("Alerts, water, use afterwards, what it contains and sets off").click();
    await page.getByLabel("When done, sets off the occurrence").fill("refill");
    await page.getByLabel("… dated to").selectOption({ label: "the site's next open day" });
  });
  await rulesOf("Clean the head", () =>
    fillRule(page, 1, { kind: "When something happens", fill: { Event: "ribbon-replaced" } }),
  );
  const daily = {
    kind: "By the calendar",
    fill: { Every: "1" },
    choose: { Unit: "days", "Counted from": "the last completion" },
  } as const;
  await rulesOf("Wipe the rail", () => fillRule(page, 1, daily));
  await rulesOf("Change the ribbon", async () => {
    await fillRule(page, 1, { ...daily, fill: { Every: "30" } });
    await page.getByLabel("Who does it").selectOption({ label: "The operator" });
    await page.getByText("Alerts, water, use afterwards, what it contains and sets off").click();
    await page.getByLabel("When done, sets off the occurrence").fill("ribbon-replaced");
    await page.getByLabel("… dated to").selectOption({ label: "the same day" });
    await page.getByRole("group", { name: "Counts for these duties too" }).getByLabel("Wipe the rail").check();
  });
  await machinePage(page, "HH-5003");
  await page.getByRole("link", { name: "Set up" }).click();
  await page.getByRole("button", { name: "Make a link" }).click();
  const address = await page.getByLabel("Address of the operator's page").inputValue();

  const phone = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const operator = await phone.newPage();
  await operator.goto(address);
  await expect(operator.getByText("Refill the tank")).toHaveCount(0);
  const begun = Date.now();
  await operator.getByRole("checkbox", { name: /Drain the tank/ }).check();
  await operator.getByRole("checkbox", { name: /Change the ribbon/ }).check();
  await operator.getByLabel("Your name or initials").first().fill("K. S.");
  await operator.getByRole("button", { name: "Log as done" }).click();
  await expect(operator.getByText("Logged. Thank you.")).toBeVisible();
  expect(Date.now() - begun).toBeLessThan(20_000);
  await operator.getByText("Report a problem").click();
  await operator.getByLabel("What is wrong?").fill("It squeaks");
  await operator.getByLabel("The machine is stopped").check();
  await operator.getByLabel("Your name or initials").last().fill("K. S.");
  await operator.getByRole("button", { name: "Report it" }).click();
  await expect(operator.getByText(/Your service firm sees it now/)).toBeVisible();

  await page.goto("/round");
  await expect(page.getByText(/Machine stopped: It squeaks/)).toBeVisible();
  await machinePage(page, "HH-5003");
  await expect(page.getByText(/Drain the tank, K. S./)).toBeVisible();
  await page.getByRole("button", { name: /^Answer or close/ }).click();
  await page.getByLabel("What was done about it").fill("Oiled the rail");
  await page.getByRole("button", { name: "Close it" }).click();
  await expect(page.getByText(/Closed by Jonas Rock: Oiled the rail/)).toBeVisible();
  await page.getByRole("link", { name: "Refill the tank" }).click();
  await expectDue(page, plus(1), /At each "refill": the earliest is on/, "due in 1 day");

  // What was replaced asks for another duty the same day, and what it contains counts as done.
  await machinePage(page, "HH-5003");
  await page.getByRole("link", { name: "Clean the head" }).click();
  await expectDue(page, today(), /At each "ribbon-replaced": the earliest is on/, "due today");
  await machinePage(page, "HH-5003");
  await page.getByRole("link", { name: "Wipe the rail" }).click();
  await expectDue(page, plus(1), new RegExp(`the last completion on ${say(today())} \\+ 1 day`), "due in 1 day");

  // A revoked link opens nothing.
  await machinePage(page, "HH-5003");
  await page.getByRole("link", { name: "Set up" }).click();
  await page.getByRole("button", { name: /End the link made/ }).click();
  await expect(page.getByRole("button", { name: /End the link made/ })).toHaveCount(0);
  expect(must(await operator.goto(address)).status()).toBe(404);
  await phone.close();
});

test("licensed work is kept from who has no authorisation; a pause takes duties off and gives them back", async ({
  page,
}) => {
  test.setTimeout(90_000);
  await signIn(page, "jonas");
  await addOwnDuty(page, "HH-3003", "Refrigerant check");
  await page.getByLabel("Counts from").fill(plus(-1));
  await fillRule(page, 1, {
    kind: "By the calendar",
    fill: { Every: "10" },
    choose: { Unit: "days", "Counted from": "the last completion" },
  });
  await page.getByLabel("Who does it").selectOption({ label: "Licensed or authorised persons only" });
  await page.getByLabel("Authorisation needed").fill("licensed-refrigeration");
  await save(page, "By law");
  const duty = page.url();
  await expectDue(page, plus(9), /Every 10 days/);
  await page.getByRole("main").getByRole("link", { name: "Recirculating chiller" }).click();
  await page.getByText("The machine is stored or the site closes for a season").click();
  await page.getByLabel("Why", { exact: true }).fill("In store for the winter");
  await page.getByRole("button", { name: "Pause", exact: true }).click();
  await expect(page.getByText(/All duties from/)).toBeVisible();
  await page.goto(duty);
  await page.getByText("Why this day?").click();
  await expect(page.getByText(/Paused since .* \(In store for the winter\)/)).toBeVisible();
  await page.getByRole("main").getByRole("link", { name: "Recirculating chiller" }).click();
  await page.getByRole("button", { name: "Resume today" }).click();
  await expect(page.getByText(/All duties from/)).toHaveCount(0);
  await page.goto(duty);
  await expectDue(page, plus(9), /Every 10 days/);
  await page.getByRole("button", { name: "Sign out" }).click();
  await signIn(page, "mira");
  await page.goto(duty);
  await expect(page.getByText(/licensed-refrigeration/)).toBeVisible();
});
