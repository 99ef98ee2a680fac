/**
 * Run by bench.mjs against a real app process: a sheet of 120 steps tapped in a browser whose processor is slowed down four
 * times, and twenty technicians who each tap once a second.
 */
import { chromium, type Page } from "@playwright/test";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "../app/kit/actor";
import { applyImport, checkImport, claimImport } from "../app/machines/register/imports.server";
import { hashPassword } from "../app/people/passwords.server";
import { publishProcedures, readProcedureFiles, shippedFolder } from "../app/procedures/procedures.server";
import { openSheet } from "../app/sheet/log/sheets.server";
import type { Procedure, RunEvent } from "../core/index";
import { must } from "../core/must";
import { getDb, migrate } from "../db/index";
import { print, quantile } from "./lib/bench";

const BASE = must(process.env.BASE_URL);
const STEPS = 120;
const PEOPLE = 20;
const SECONDS = 60;
const PASSWORD = "bench password one";
const db = getDb();

process.stdout.write(`\nSheets (${STEPS} steps; ${PEOPLE} technicians)\n`);
const now = new Date();
await migrate(db.sequelize);
await publishProcedures(
  [longProcedure(), ...readProcedureFiles(shippedFolder()).filter((one) => one.id === "own-duty")],
  now,
);
const people = await addPeople();
const csv = [
  "customer,site,time_zone,tag,name,family",
  ...people.map((_, i) => `Co,Site ${i % 5},Europe/Lisbon,B-${i},Machine ${i},bench-machine`),
].join("\n");
const importId = await checkImport(must(people[0]), "bench.csv", csv, now);
await claimImport(importId, now);
await applyImport(importId, now);
const plans = await db.select<{ id: string; tag: string }>(
  "SELECT p.id, m.tag FROM duties p JOIN machines m ON m.id = p.machine_id WHERE p.procedure_id = 'bench-long' ORDER BY CAST(SUBSTRING(m.tag, 3) AS INT)",
);
const runs = await Promise.all(people.map((person, i) => openSheet(person, must(plans[i]).id, "bench", now)));

await tapTimes(must(runs[0]));
await twentyTechnicians();
await db.close();

function longProcedure(): Procedure {
  const base = must(readProcedureFiles(shippedFolder()).find((one) => one.id === "own-duty"));
  const steps = Array.from({ length: STEPS }, (_, i): Procedure["steps"][number] => {
    const common = {
      id: `s-${i}`,
      title: `Step number ${i + 1}`,
      text: "Something that takes a sentence or two to say, as real steps do.",
    };
    if (i % 5 === 1) return { ...common, kind: "inspect", asItShouldBe: "As it should be", ifNot: "Log it" };
    if (i % 5 === 2) return { ...common, kind: "prove", expect: "Works" };
    return { ...common, kind: "do" };
  });
  return { ...base, id: "bench-long", family: "bench-machine", title: "Long sheet", steps };
}

async function addPeople(): Promise<Actor[]> {
  const passwordHash = await hashPassword(PASSWORD);
  const actors: Actor[] = [];
  for (let i = 0; i < PEOPLE; i++) {
    const id = uuidv7();
    const person = {
      id,
      name: `Technician ${i}`,
      signIn: `bench${i}`,
      passwordHash,
      role: "technician" as const,
      active: true,
    };
    await db.models.Person.create({ ...person, mustChangePassword: false, demo: false, createdAt: now });
    actors.push({ id, name: person.name, role: "technician", authorisations: [] });
  }
  return actors;
}

/** From the tap to the next frame that shows its result, by the browser's own Event Timing. */
async function tapTimes(sheetId: string): Promise<void> {
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    args: ["--no-sandbox", "--disable-gpu"],
  });
  const page = await browser.newPage({ viewport: { width: 390, height: 844 } });
  await signIn(page, "bench0");
  await page.goto(`${BASE}/sheet/${sheetId}`);
  await page.getByRole("button", { name: "Done" }).waitFor();
  await page.waitForTimeout(1500);
  const session = await page.context().newCDPSession(page);
  await session.send("Emulation.setCPUThrottlingRate", { rate: 4 });
  await page.evaluate(() => {
    const seen: number[] = [];
    Object.assign(window, { seen });
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as PerformanceEventTiming[])
        if (entry.name === "click") seen.push(entry.duration);
    }).observe({ type: "event", durationThreshold: 0 } as PerformanceObserverInit);
  });
  for (let i = 0; i < STEPS; i++) {
    await page.getByRole("heading", { level: 2, name: `Step number ${i + 1}`, exact: true }).waitFor();
    await page.getByRole("button", { name: /^(Done|As it should be|As expected)$/ }).click();
  }
  await page.waitForTimeout(1000);
  const times = await page.evaluate(() => (window as unknown as { seen: number[] }).seen);
  print(
    "tap to painted, 4 times slower processor",
    `p50 ${quantile(times, 0.5)} ms, p95 ${quantile(times, 0.95)} ms, longest ${Math.max(...times)} ms (${times.length} taps)`,
  );
  await browser.close();
}

async function signIn(page: Page, name: string): Promise<void> {
  await page.goto(`${BASE}/sign-in`);
  await page.getByLabel("Sign-in name").fill(name);
  await page.getByLabel("Password").fill(PASSWORD);
  await page.getByRole("button", { name: "Sign in" }).click();
  await page.waitForURL(/\/round/);
}

/** Each person's own connection and session: one batch with one entry a second, evenly shifted against each other. */
async function twentyTechnicians(): Promise<void> {
  const cookies: string[] = [];
  for (let i = 0; i < PEOPLE; i++) {
    const response = await fetch(`${BASE}/sign-in`, {
      method: "POST",
      redirect: "manual",
      headers: { "Content-Type": "application/x-www-form-urlencoded", Origin: BASE },
      body: new URLSearchParams({ signIn: `bench${i}`, password: PASSWORD }),
    });
    const cookie = response.headers.getSetCookie().find((one) => one.startsWith("hound_session="));
    if (!cookie) throw new Error(`bench${i} could not sign in: ${response.status}`);
    cookies.push(must(cookie.split(";")[0]));
  }
  const times: number[] = [];
  let failed = 0;
  const before = await entryCount();
  const tap = async (i: number): Promise<void> => {
    const body: RunEvent = {
      id: uuidv7(),
      runId: must(runs[i]),
      at: new Date().toISOString(),
      by: must(people[i]).id,
      device: "bench",
      type: "note",
      text: "A tap",
    };
    const started = performance.now();
    const response = await fetch(`${BASE}/api/sheets/${must(runs[i])}/entries`, {
      method: "POST",
      headers: { "Content-Type": "application/json", Origin: BASE, Cookie: must(cookies[i]) },
      body: JSON.stringify({ entries: [body] }),
    });
    const answer = (await response.json()) as { accepted?: string[] };
    times.push(performance.now() - started);
    if (answer.accepted?.[0] !== body.id) failed += 1;
  };
  const begun = performance.now();
  await Promise.all(
    people.map(async (_, i) => {
      for (let n = 0; n < SECONDS; n++) {
        const due = begun + n * 1000 + (i * 1000) / PEOPLE;
        await new Promise((resolve) => setTimeout(resolve, Math.max(0, due - performance.now())));
        await tap(i);
      }
    }),
  );
  const stored = (await entryCount()) - before;
  print(
    `${PEOPLE} technicians, a tap a second each, ${SECONDS} s`,
    `p50 ${quantile(times, 0.5).toFixed(1)} ms, p95 ${quantile(times, 0.95).toFixed(1)} ms, longest ${Math.max(...times).toFixed(0)} ms`,
  );
  print("  entries sent, refused, stored", `${times.length}, ${failed}, ${stored}`);
}

async function entryCount(): Promise<number> {
  const [row] = await db.select<{ total: number }>("SELECT COUNT(*) AS total FROM log_entries");
  return must(row).total;
}
