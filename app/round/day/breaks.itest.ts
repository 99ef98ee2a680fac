import { must } from "@core";
import { getDb } from "@db";

import { closeDatabase, dutyOf } from "~/testing/database";
import { beginRound, later, mo, NOW, ON } from "~/testing/round";

import { changeDay, getDayView, planAndKeep } from "./day.server";
import { logDay, takeBack } from "./day-log.server";
import { eveningOf } from "./evening.server";
import { extrasOf } from "./extras.server";
import { putOnDay } from "./put-on-day.server";
import { todayOf } from "./today.server";
import { whatHelps } from "./what-helps.server";

beforeAll(beginRound);
afterAll(closeDatabase);

const clock = { on: ON, timeZone: "Europe/Lisbon" };
const step = (type: "started" | "rested" | "ended", at: Date, rest?: { minutes: number; over: boolean }) =>
  logDay(mo, { personId: mo.id, on: ON, type, siteId: null, ...(rest && { rest }) }, at);

it("plans the person's break, logs it, and goes on when it is over", async () => {
  await getDb().models.Person.update({ breaks: [{ minutes: 30, from: 60, by: 120 }] }, { where: { id: mo.id } });
  const duties = await Promise.all([
    dutyOf("D-1", "conveyor-oven-weekly"),
    dutyOf("D-2", "slide-stainer-chambers"),
    dutyOf("D-3", "flake-ice-maker-clean-sanitise"),
  ]);
  await putOnDay(mo, duties, { on: ON, personId: mo.id }, NOW);
  const plan = await planAndKeep(mo, mo.id, ON, null, NOW);
  const { day, problem } = await getDayView(mo.id, ON, NOW);
  const from = problem.startAt + 60;
  expect(problem.breaks).toEqual([{ minutes: 30, from, by: from + 60 }]);
  const [rest] = must(plan.breaks);
  expect(must(rest).from).toBeGreaterThanOrEqual(from);
  expect(must(rest).from).toBeLessThanOrEqual(from + 60);
  expect(must(day.figures).breaks).toBe(30);
  expect((await getDayView(mo.id, ON, later(20))).stale).toBe(false);

  await step("started", NOW);
  await planAndKeep(mo, mo.id, ON, null, NOW);
  expect((await todayOf(mo.id, clock, NOW)).nextBreak).toMatchObject({ minutes: 30 });
  await step("rested", later(70), { minutes: 30, over: false });
  const rested = await planAndKeep(mo, mo.id, ON, null, later(75));
  expect(rested.breaks ?? []).toEqual([]);
  // Nothing before it is over.
  const goesOn = must((await getDayView(mo.id, ON, later(75))).problem.startAt);
  expect(must(rested.stops[0]).arrive).toBeGreaterThanOrEqual(goesOn);
  expect((await todayOf(mo.id, clock, later(75))).nextBreak).toBeNull();
  expect(must((await getDayView(mo.id, ON, later(75))).day.figures).breaks).toBe(30);

  const last = must((await getDayView(mo.id, ON, later(76))).events.findLast((one) => one.type === "rested"));
  await takeBack(mo, { personId: mo.id, on: ON, eventId: last.id }, later(76));
  await planAndKeep(mo, mo.id, ON, null, later(76));
  expect((await todayOf(mo.id, clock, later(76))).nextBreak).toMatchObject({ minutes: 30 });
  await step("rested", later(77), { minutes: 30, over: true });
  expect((await getDayView(mo.id, ON, later(78))).problem.startAt).toBeLessThan(goesOn);
  await expect(step("rested", later(79), { minutes: 30, over: false })).resolves.toBeUndefined();
  expect((await eveningOf(mo.id, ON, later(200))).hours.breaks).toBe(60);
});

it("names what else the day has room for on its own machines, and what would make it hold", async () => {
  const on = "2026-06-11";
  await putOnDay(mo, [await dutyOf("D-5", "ride-on-sweeper-daily")], { on, personId: mo.id }, NOW);
  expect(await extrasOf(mo, on, NOW)).toEqual([]);
  await planAndKeep(mo, mo.id, on, null, NOW);
  const { duties } = await getDayView(mo.id, on, NOW);
  const extras = await extrasOf(mo, on, NOW);
  expect(extras.length).toBeGreaterThan(0);
  const [first] = extras;
  const others = await getDb().models.Duty.findAll({ where: { id: extras.map((one) => one.dutyId) }, raw: true });
  expect(new Set(others.map((one) => one.machineId))).toEqual(new Set(duties.map((one) => one.machineId)));
  expect(others.every((one) => one.plannedOn === null && one.who !== "operator")).toBe(true);
  // Put on the day it is planned to be back when it was said.
  await putOnDay(mo, [must(first).dutyId], { on, personId: mo.id }, NOW);
  expect((await planAndKeep(mo, mo.id, on, null, NOW)).endAt).toBe(must(first).endAt);

  expect(await whatHelps(mo, NOW)).toEqual([]);
  await changeDay(mo, mo.id, ON, { startMinute: 420, endMinute: 600, technicians: 1 }, later(80));
  expect((await todayOf(mo.id, clock, later(80))).figures).toBeNull();
  await planAndKeep(mo, mo.id, ON, null, later(80));
  const today = await todayOf(mo.id, clock, later(80));
  expect(today.dangers.join(" ")).toMatch(/wanted by 10:00/);
  expect((await whatHelps(mo, later(80))).join(" ")).toMatch(/Be back at \d\d:\d\d instead/);
});
