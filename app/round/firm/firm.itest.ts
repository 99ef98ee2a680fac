import { must } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import { firmDay } from "~/kit/days/firm-day.server";
import { getDayView, planAndKeep, proposeAndPut } from "~/round/day/day.server";
import { logDay } from "~/round/day/day-log.server";
import { putOnDay } from "~/round/day/put-on-day.server";
import { todayOf } from "~/round/day/today.server";
import { openSheet } from "~/sheet/log/sheets.server";
import { closeDatabase, dutyOf } from "~/testing/database";
import { beginRound, kim, later, lead, mo, NOW, ON, site } from "~/testing/round";

import { digestOf, sendDigests } from "./digest.server";
import { firmToday } from "./firm-today.server";

let oven: string;
let sweeper: string;

beforeAll(async () => {
  await beginRound();
  oven = await dutyOf("D-1", "conveyor-oven-weekly");
  sweeper = await dutyOf("D-5", "ride-on-sweeper-daily");
  await putOnDay(mo, [oven, sweeper], { on: ON, personId: mo.id }, NOW);
  await planAndKeep(mo, mo.id, ON, null, NOW);
});
afterAll(closeDatabase);

const firm = async (now: Date) => firmToday(await firmDay(now), now);
const today = async (now: Date) => todayOf(mo.id, await firmDay(now), now);
const whereIs = async (id: string, now: Date): Promise<string> =>
  must((await firm(now)).people.find((one) => one.id === id)).says;

it("puts nothing beside what does not hold by itself", async () => {
  // A Saturday: the school lets nobody in.
  const to = { on: "2026-06-13", personId: kim.id };
  const dutyId = await dutyOf("D-4", "flake-ice-maker-clean-sanitise");
  const moved = await putOnDay(lead, [dutyId], { ...to, evenPinned: true }, NOW);
  expect(await proposeAndPut(kim, kim, to.on, NOW)).toBeNull();
  expect((await getDayView(kim.id, to.on, NOW)).duties.map((one) => one.dutyId)).toEqual([dutyId]);
  await putOnDay(lead, [dutyId], must(moved[0]), NOW);
});

it("says of everybody where they are, and what slips", async () => {
  expect(await whereIs(kim.id, NOW)).toBe("no plan yet");
  expect(await whereIs(mo.id, NOW)).toMatch(/^not started; (Works|Yard) at/);
  await logDay(mo, { personId: mo.id, on: ON, type: "started", siteId: null }, NOW);
  expect(await whereIs(mo.id, later(1))).toMatch(/^on the way to/);
  const works = must(site.get("Works"));
  await logDay(mo, { personId: mo.id, on: ON, type: "arrived", siteId: works }, later(10));
  expect(await whereIs(mo.id, later(11))).toMatch(/^at Works since 08:10/);
  const late = must((await firm(later(600))).people.find((one) => one.id === mo.id));
  expect(late.slips).toBeGreaterThan(60);
  expect(late).toMatchObject({ status: "started", duties: 2, done: 0 });
});

it("says of one's own day what is now, then and later, with the sheet that is open", async () => {
  const sheetId = await openSheet(mo, oven, "phone", later(12));
  const mine = await today(later(13));
  expect(mine.stops.map((stop) => [stop.name, stop.state])).toEqual(
    expect.arrayContaining([
      ["Works", "here"],
      ["Yard", "next"],
    ]),
  );
  const here = must(mine.stops.find((stop) => stop.state === "here"));
  expect(here.duties).toMatchObject([{ dutyId: oven, sheetId, done: false }]);
  expect(mine).toMatchObject({ status: "started", duties: 2, endBy: 960, unplanned: 0 });
  // At a site that the plan does not have.
  const school = await dutyOf("D-4", "flake-ice-maker-clean-sanitise");
  const [moved] = await putOnDay(mo, [school], { on: ON, personId: mo.id }, later(14));
  expect(await today(later(14))).toMatchObject({ duties: 3, unplanned: 1 });
  await putOnDay(mo, [school], must(moved), later(14));
});

it("lists what is bad, open and without a day, until it has one", async () => {
  const machine = must(await getDb().models.Duty.findByPk(oven, { attributes: ["machineId"], raw: true })).machineId;
  const item = (severity: "major" | "minor") => ({
    id: uuidv7(),
    name: `${severity} one`,
    machineId: machine,
    sheetId: uuidv7(),
    dutyId: oven,
    workDutyId: sweeper,
    kind: "finding" as never,
    severity,
    title: `A ${severity} thing`,
    because: "",
    minutes: 10,
    who: "technician" as const,
    wantedBy: ON,
    arisenAt: NOW,
    body: {} as never,
  });
  await getDb().models.OpenItem.bulkCreate([item("major"), item("minor")]);
  // Its work is on today's day still.
  expect((await firm(NOW)).items).toEqual([]);
  expect((await firm(later(1440))).items.map((one) => one.title)).toEqual(["A major thing"]);
  expect(await firm(later(1440))).toMatchObject({ itemCount: 1 });
});

it("tells each lead with an address once a day, from the morning on, what nobody has taken up", async () => {
  expect(await sendDigests(later(1440))).toBe(0);
  await getDb().models.Person.update({ email: "lea@harbour.example" }, { where: { id: lead.id } });
  const morning = later(1440);
  const digest = await digestOf(morning);
  expect(digest.majors).toEqual([{ what: "Oven: A major thing", where: "Works", when: "wanted by Wed 10 Jun" }]);
  expect(digest.overdue.length).toBeGreaterThan(0);
  // In the night nobody is woken.
  expect(await sendDigests(new Date("2026-06-11T03:00:00Z"))).toBe(0);
  expect(await sendDigests(morning)).toBe(1);
  expect(await sendDigests(later(1500))).toBe(0);
  expect(await sendDigests(later(2 * 1440))).toBe(1);
  const kept = await getDb().models.Message.findAll({ where: { kind: "digest" }, raw: true });
  expect(kept.map((one) => [one.toAddress, one.onDay])).toEqual([
    ["lea@harbour.example", "2026-06-11"],
    ["lea@harbour.example", "2026-06-12"],
  ]);
  expect(must(kept[0]).body).toContain("Major, left open, without a day: 1");
});
