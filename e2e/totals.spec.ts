import { expect, type Page } from "@playwright/test";
import { type Connection, createConnection } from "mysql2/promise";

import { must } from "../core/must";
import { signIn, tap, waitUntilReady } from "./helpers/app";
import { test } from "./helpers/test";

/**
 * Every figure that pages tell of the same thing, read from the pages and worked out from the database's rows in another way
 * than the app does: no statement and no function of it is used here.
 */

interface Duty {
  id: string;
  procedureId: string;
  minutes: number;
  site: string;
}

let database: Connection;
test.beforeAll(async () => {
  database = await createConnection({ uri: must(process.env["DATABASE_URL"]), dateStrings: true });
});
test.afterAll(() => database.end());

async function rows<Row>(sql: string, values: unknown[] = []): Promise<Row[]> {
  return (await database.query(sql, values))[0] as Row[];
}

/** Hands-on minutes by procedure: of the body with the highest version. */
async function handsOn(): Promise<(duty: Duty) => number> {
  const newest = new Map<string, { version: number; hands: number; family: string }>();
  for (const { id, version, body } of await rows<{ id: string; version: number; body: string | object }>(
    "SELECT id, version, body FROM procedures",
  )) {
    const { minutes, family } = (typeof body === "string" ? JSON.parse(body) : body) as {
      minutes: { handsOn: number };
      family: string;
    };
    if ((newest.get(id)?.version ?? 0) < version) newest.set(id, { version, hands: minutes.handsOn, family });
  }
  return ({ procedureId, minutes }) => {
    const known = newest.get(procedureId);
    // What is for any family is of the firm's own making, and so is a call about a fault: its minutes are what somebody set.
    return !known || known.family === "any" || procedureId.endsWith("-faults") ? minutes : known.hands;
  };
}

/** The driver gives JSON parsed or as text. */
const parsed = (value: unknown): unknown => (typeof value === "string" ? JSON.parse(value) : value);

/** "2 h 05 min" as minutes. */
const minutesIn = (words: string): number => {
  const [, hours, minutes] = must(/(?:(\d+) h )?(\d+)/.exec(words));
  return Number(hours ?? 0) * 60 + Number(minutes);
};
const clockIn = (words: string): number => Number(words.slice(0, 2)) * 60 + Number(words.slice(3, 5));

async function figuresIn(page: Page, selector: string): Promise<Record<string, string>> {
  const dl = page.locator(selector).first();
  const [names, values] = [await dl.locator("dt").allInnerTexts(), await dl.locator("dd").allInnerTexts()];
  return Object.fromEntries(names.map((name, i) => [name, must(values[i])]));
}

interface Body {
  family: string;
  materials: { item: string; qty: number }[];
  parts: { item: string; uses?: number; slots: { id: string }[] }[];
  tools: string[];
  protective: string[];
  steps: {
    id: string;
    kind: string;
    item?: string;
    slots?: string[];
    some?: boolean;
    when?: ({ step: string; is: string } | { option: string; fitted: boolean })[];
    uses?: { item: string; qty: number }[];
    schools?: { id: string }[];
    branches?: { id: string }[];
  }[];
}

/**
 * What the duties on a day take, from the bodies of their procedures: the steps that come up when nothing is found, with what
 * they use and fit, each tool and each piece of protection once.
 */
async function takesOfDay(
  person: string,
  on: string,
): Promise<{ duties: number; keys: Set<string>; amounts: Map<string, { qty: number; unit: string; name: string }> }> {
  const list = await rows<{
    procedure: string;
    options: string | string[];
    rules: string | object;
    machine: string;
    id: string;
  }>(
    `SELECT p.id, p.procedure_id AS \`procedure\`, p.rules, p.machine_id AS machine, m.options FROM duties p JOIN machines m ON m.id = p.machine_id
     WHERE p.planned_for = ? AND p.planned_on = ? AND p.active = 1`,
    [person, on],
  );
  const covers = list.flatMap(({ rules, machine }) =>
    ((parsed(rules) as { covers?: string[] }).covers ?? []).map((id) => `${machine} ${id}`),
  );
  const own = list.filter(
    ({ id, machine, procedure }) => !covers.includes(`${machine} ${id}`) && !covers.includes(`${machine} ${procedure}`),
  );
  const keys = new Set<string>();
  const sums = new Map<string, number>();
  const add = (item: string, qty: number): void => {
    if (qty > 1e-9) sums.set(item, (sums.get(item) ?? 0) + qty);
  };
  const slug = (name: string): string =>
    name
      .toLowerCase()
      .normalize("NFD")
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "");
  for (const { procedure, options } of own) {
    const [newest] = await rows<{ body: string | Body; expanded: string | Body | null }>(
      "SELECT body, expanded FROM procedures WHERE id = ? ORDER BY version DESC LIMIT 1",
      [procedure],
    );
    const body = parsed(must(newest).expanded ?? must(newest).body) as Body;
    const fitted = parsed(options) as string[];
    const answers = new Map<string, string>();
    const usual = body.steps.filter((step) => {
      for (const one of step.when ?? []) {
        if ("option" in one ? fitted.includes(one.option) !== one.fitted : answers.get(one.step) !== one.is)
          return false;
      }
      answers.set(
        step.id,
        { measure: "in", choose: step.schools?.[0]?.id, decide: step.branches?.[0]?.id }[step.kind] ?? "ok",
      );
      return true;
    });
    const usedIn = (steps: Body["steps"], item: string): number =>
      steps.flatMap((step) => step.uses ?? []).reduce((sum, use) => (use.item === item ? sum + use.qty : sum), 0);
    for (const { item, qty } of body.materials)
      add(item, Math.max(0, qty - usedIn(body.steps, item)) + usedIn(usual, item));
    for (const part of body.parts)
      for (const step of usual)
        if (step.kind === "replace" && step.item === part.item)
          add(part.item, step.some ? 1 : (step.slots ?? []).length);
    for (const name of body.tools) keys.add(`tool-${slug(name)}`.slice(0, 80));
    for (const name of body.protective) keys.add(`wear-${slug(name)}`.slice(0, 80));
  }
  const items = await rows<{ id: string; unit: string; name: string }>("SELECT id, unit, name FROM items");
  const amounts = new Map(
    [...sums].flatMap(([id, qty]) => {
      const item = items.find((one) => one.id === id);
      return item ? [[id, { qty, unit: item.unit, name: item.name }] as const] : [];
    }),
  );
  for (const id of sums.keys()) keys.add(id);
  return { duties: own.length, keys, amounts };
}

test("round: each site's duties and hands-on minutes", async ({ page }) => {
  await signIn(page, "jonas");
  const hands = await handsOn();
  const shown = new Map<string, [number, number]>();
  for (const section of await page.locator("section[aria-labelledby^=due-]").all()) {
    const [site, rest] = (await section.locator("h2").innerText()).split("\n");
    const [, count, words] = must(/(\d+) dut(?:y|ies), (.*) hands-on/.exec(must(rest ?? site)));
    expect(await section.getByRole("listitem").count()).toBe(Number(count));
    shown.set(must(site).trim(), [Number(count), minutesIn(must(words))]);
  }
  // The page holds the fifty that wait longest; where one stands today decides whether a duty is near.
  const ids = await page
    .locator('section[aria-labelledby^=due-] a[href^="/duties/"]')
    .evaluateAll((links) => links.map((link) => (link.getAttribute("href") ?? "").split("/")[2] ?? ""));
  const due = await rows<Duty & { dueOn: string }>(
    `SELECT p.id, p.procedure_id AS procedureId, p.minutes, s.name AS site, DATE_FORMAT(p.due_on, '%Y-%m-%d') AS dueOn
     FROM duties p JOIN sites s ON s.id = p.site_id
     WHERE p.active = 1 AND p.who <> 'operator' AND p.notice_from <= UTC_DATE() - INTERVAL 1 DAY ORDER BY p.due_on, p.id LIMIT 40`,
  );
  // What has been near since yesterday anywhere on earth is there, unless the page is full of what waits longer; nothing is twice.
  const [last] = await rows<{ dueOn: string }>(
    "SELECT DATE_FORMAT(MAX(due_on), '%Y-%m-%d') AS dueOn FROM duties WHERE id IN (?)",
    [ids],
  );
  const isFull = (await page.getByRole("link", { name: "Next 50" }).count()) > 0;
  const missing = due.filter((one) => !ids.includes(one.id) && !(isFull && one.dueOn >= must(last).dueOn));
  expect(missing.map((one) => one.id)).toEqual([]);
  expect(new Set(ids).size).toBe(ids.length);
  const all = await rows<Duty>(
    "SELECT p.id, p.procedure_id AS procedureId, p.minutes, s.name AS site FROM duties p JOIN sites s ON s.id = p.site_id WHERE p.id IN (?)",
    [ids],
  );
  const expected = new Map<string, [number, number]>();
  for (const duty of all) {
    const [count, minutes] = expected.get(duty.site) ?? [0, 0];
    expected.set(duty.site, [count + 1, minutes + hands(duty)]);
  }
  for (const [site, [count, minutes]] of expected)
    expect([site, ...must(shown.get(site))]).toEqual([site, count, Math.round(minutes)]);
  expect(shown.size).toBe(expected.size);
});

test("ahead: each duty's hands-on minutes", async ({ page }) => {
  await signIn(page, "jonas");
  await page.goto("/ahead?as=table");
  await waitUntilReady(page);
  const hands = await handsOn();
  const lines = await page.locator("tbody tr").evaluateAll((list) =>
    list.map((row) => ({
      id: row.querySelector('a[href^="/duties/"]')?.getAttribute("href")?.split("/")[2] ?? "",
      words: row.lastElementChild?.textContent ?? "",
    })),
  );
  expect(lines.length).toBeGreaterThan(20);
  const duties = await rows<Duty>(
    "SELECT id, procedure_id AS procedureId, minutes, '' AS site FROM duties WHERE id IN (?)",
    [lines.map((one) => one.id)],
  );
  const byId = new Map(duties.map((duty) => [duty.id, hands(duty)]));
  expect(lines.filter(({ id, words }) => Number.parseFloat(words) !== byId.get(id))).toEqual([]);
});

test("day and week: the same figures, which add up, for the same duties", async ({ page }) => {
  await signIn(page, "jonas");
  const [mira] = await rows<{ id: string }>("SELECT id FROM persons WHERE sign_in = 'mira'");
  const day = new Date(Date.now() + 23 * 86_400_000);
  day.setUTCDate(day.getUTCDate() + ((3 - day.getUTCDay() + 7) % 7));
  const on = day.toISOString().slice(0, 10);
  const address = `/round/day?on=${on}&for=${must(mira).id}`;
  await page.goto(address);
  await waitUntilReady(page);
  await tap(page, "Propose a round");
  await expect(page.getByText(/put on the day\./)).toBeVisible({ timeout: 60_000 });
  await expect(page.locator("[aria-busy=true]")).toHaveCount(0, { timeout: 60_000 });
  const told = await figuresIn(page, "section[aria-label='The round'] dl");

  const [kept] = await rows<{ plan: string; problem: string; startMinute: number; endMinute: number }>(
    "SELECT plan, problem, start_minute AS startMinute, end_minute AS endMinute FROM days WHERE person_id = ? AND on_day = ?",
    [must(mira).id, on],
  );
  const plan = parsed(must(kept).plan) as {
    stops: { site: string; begin: number; leave: number; schedule: { phases: { job: string }[] } }[];
    endAt: number;
    breaks?: { site: string | null; from: number; to: number }[];
  };
  const breaks = (plan.breaks ?? []).map(({ site, from, to }) => ({ site, minutes: to - from }));
  const rested = breaks.reduce((sum, one) => sum + one.minutes, 0);
  const problem = parsed(must(kept).problem) as { sites: { id: string; arriving: number }[] };
  const there = plan.stops.reduce(
    (sum, stop) => sum + stop.leave - stop.begin + must(problem.sites.find((site) => site.id === stop.site)).arriving,
    0,
  );
  const onSite = breaks.reduce((sum, one) => sum - (one.site === null ? 0 : one.minutes), there);
  expect(told["Breaks"] ? minutesIn(told["Breaks"]) : 0).toBe(rested);
  expect(minutesIn(must(told["On site"]))).toBe(Math.round(onSite));
  expect(clockIn(must(told["Back at"]))).toBe(Math.round(plan.endAt));
  const [way, waiting] = [minutesIn(must(told["On the way"])), told["Waiting"] ? minutesIn(told["Waiting"]) : 0];
  // Each is rounded by itself.
  expect(Math.abs(must(kept).startMinute + onSite + way + waiting + rested - plan.endAt)).toBeLessThanOrEqual(2);
  const [{ planned }] = (await rows<{ planned: number }>(
    "SELECT COUNT(*) AS planned FROM duties WHERE planned_for = ? AND planned_on = ? AND active = 1",
    [must(mira).id, on],
  )) as [{ planned: number }];
  const inPlan = new Set(plan.stops.flatMap((stop) => stop.schedule.phases.map((phase) => phase.job.split("/")[0])));
  expect(inPlan.size).toBeLessThanOrEqual(planned);
  expect(await page.locator('section[aria-labelledby^=stop-] li a[href^="/duties/"]').count()).toBe(planned);

  await page.goto(`/round/week?from=${on}`);
  await waitUntilReady(page);
  const cell = page.getByRole("region", { name: "Mira Holt" }).locator("ol > li").first();
  await expect(cell.getByText(`${planned} on it`)).toBeVisible();
  const week = await figuresIn(page, "section[aria-label='Mira Holt'] ol > li dl");
  expect(minutesIn(must(week["On site"]))).toBe(minutesIn(must(told["On site"])));
  expect(minutesIn(must(week["On the way"]))).toBe(way);
  expect([week["Back at"], week["Holds in"], week["Breaks"]]).toEqual([
    told["Back at"],
    told["Holds in"],
    told["Breaks"],
  ]);

  // What the day takes along: how many things, and how much of each material.
  const takes = await takesOfDay(must(mira).id, on);
  await page.goto(`/round/load?on=${on}&for=${must(mira).id}`);
  await waitUntilReady(page);
  const head = await page
    .getByText(/in the van$/)
    .first()
    .innerText();
  const [, duties, , things] = must(/(\d+) dut(?:y|ies) · (\d+) of (\d+) in the van/.exec(head));
  expect([Number(duties), Number(things)]).toEqual([takes.duties, takes.keys.size]);
  expect(takes.amounts.size).toBeGreaterThan(0);
  for (const [item, { qty, unit, name }] of takes.amounts) {
    const row = page.locator(`li:has(a[href="/stores/items/${item}"])`).first();
    const words = (await row.innerText()).replace(/\u00a0/g, " ");
    const [, shown, shownUnit] = must(/, ([\d.,]+) (\S+)/.exec(words));
    const large = { L: 1000, kg: 1000 }[must(shownUnit)] ?? 1;
    const amount = Number(must(shown).replaceAll(",", "")) * large;
    // Amounts are rounded up to what can be measured; pieces are what they are.
    if (unit === "pc") expect([name, amount]).toEqual([name, qty]);
    else {
      expect([name, amount >= qty - 1e-6]).toEqual([name, true]);
      expect([name, amount - qty <= Math.max(1, 0.25 * qty)]).toEqual([name, true]);
    }
  }
  await page.goto(address);
  await waitUntilReady(page);
  await tap(page, "Start from an empty day");
  await expect(page.getByText(/taken off the day/)).toBeVisible();
});

test("costs: the sum of what was used and of the hours worked", async ({ page }) => {
  await signIn(page, "jonas");
  await page.goto("/stores/costs");
  const [from, to] = [await page.getByLabel("From").inputValue(), await page.getByLabel("Until").inputValue()];
  const words = await page.getByRole("heading", { name: /in all$/ }).innerText();
  const used = await rows<{ cents: string | null }>(
    "SELECT cost_cents AS cents FROM stock_moves WHERE kind = 'use' AND on_day BETWEEN ? AND ? AND machine_id IS NOT NULL",
    [from, to],
  );
  const worked = await rows<{ minutes: string; site: string }>(
    `SELECT t.hands_minutes AS minutes, m.site_id AS site FROM sheet_minutes t JOIN sheets r ON r.id = t.sheet_id JOIN machines m ON m.id = r.machine_id
     WHERE t.done_on BETWEEN ? AND ?`,
    [from, to],
  );
  const [rate] = await rows<{ value: string }>("SELECT value FROM settings WHERE name = 'hourly-rate-cents'");
  const cents = Number(rate?.value ?? 6000);
  const hours = worked.reduce((sum, one) => sum + (Number(one.minutes) / 60) * cents, 0);
  const goods = used.reduce((sum, one) => sum + Number(one.cents ?? 0), 0);
  // Hours and parts of each site are rounded to the cent.
  const sites = new Set(worked.map((one) => one.site)).size;
  expect(Math.abs(Number(words.replace(/[^\d.]/g, "")) * 100 - hours - goods)).toBeLessThanOrEqual(2 * sites + 1);
});
