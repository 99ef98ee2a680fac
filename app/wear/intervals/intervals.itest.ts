import { type AsFound, must } from "@core";
import { getDb } from "@db";

import { changeDuty, dutyForEdit } from "~/duties/duties.server";
import type { Actor } from "~/kit/actor";
import { changeSite, getSite } from "~/machines/sites/sites.server";
import { machineTrail } from "~/machines/trail.server";
import { correctFact } from "~/sheet/log/sheets.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { workAndSign } from "~/testing/sheets";

import { decideInterval } from "./decide-interval.server";
import { foundCsv, foundTable } from "./found.server";
import { explained } from "./found-by-site";
import { foundByMachine } from "./intervals.sql";
import { listIntervals, openIntervals } from "./list-intervals.server";

const CONDENSER = "prep-cabinet-condenser";
const BEGAN = new Date("2026-01-05T09:00:00Z");
const day = (n: number): Date => new Date(BEGAN.getTime() + n * 86_400_000);
let ada: Actor;
let lea: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("all");
  ada = await addActor("Ada");
  lea = await addActor("Lea", "lead");
  await importLines(
    lea,
    Array.from(
      { length: 8 },
      (_, i) =>
        `Co,Bakery ${Math.floor(i / 2)},,Europe/Lisbon,,06:00-22:00,Hall,cab${i},Cabinet ${i},prep-cabinet,,2025-11-01`,
    ),
    day(-60),
  );
});
afterAll(closeDatabase);

const service = (tag: string, n: number, found?: AsFound, air = 3) =>
  workAndSign(ada, tag, CONDENSER, day(n), { readings: { "cabinet-temperature": [air, 3] }, ...(found && { found }) });
const open = async () => (await listIntervals("open", null)).rows;
const openOf = async (tag: string) => {
  const dutyId = await dutyOf(tag, CONDENSER);
  return (await open()).find((one) => one.dutyId === dutyId) ?? null;
};
const duty = async (tag: string) =>
  must(await getDb().models.Duty.findByPk(await dutyOf(tag, CONDENSER), { raw: true }));
const every = async (tag: string) =>
  (await duty(tag)).rules.triggers.flatMap((one) => (one.kind === "calendar" ? [`${one.every} ${one.unit}`] : []));
const accept = async (tag: string, is = true) =>
  decideInterval(lea, { id: must(await openOf(tag)).id, accept: is, reason: "as it was found" }, day(400));

it("a poor finding asks for a shorter interval; accepted, the duty comes by it and the trail tells of it", async () => {
  await service("cab0", 0, "fair");
  expect(await openOf("cab0")).toBeNull();
  await service("cab0", 91, "poor");
  const asked = must(await openOf("cab0"));
  expect(asked).toMatchObject({
    found: "poor",
    because: "Found poor at the last service.",
    status: "open",
    isOutdated: false,
    chance: { n: 1, poor: 1, own: false },
  });
  expect(asked.history.map((one) => [one.found, one.afterDays])).toEqual([
    ["fair", null],
    ["poor", 91],
  ]);
  expect(asked.newDays).toBe(68);
  // Minutes of a service by how many more there are a year.
  const { minutes, dueOn } = await duty("cab0");
  expect(asked.minutesAYear).toBeCloseTo(minutes * (365.2425 / 68 - 365.2425 / ((365.2425 / 12) * 3)), 6);
  expect(must(asked.chance).new[1]).toBeLessThan(must(asked.chance).old[0]);

  await accept("cab0");
  expect(await every("cab0")).toEqual(["68 day"]);
  const after = await duty("cab0");
  expect(after.rules.given).toMatchObject({ triggers: [{ every: 3, unit: "month" }, { kind: "event" }] });
  expect(must(after.dueOn) < must(dueOn)).toBe(true);
  expect(await open()).toEqual([]);
  expect((await listIntervals("decided", null)).rows[0]).toMatchObject({ status: "accepted", decider: "Lea" });
  const { items } = await machineTrail(after.machineId);
  expect(items.filter((one) => one.kind === "change").map((one) => `${one.title} ${one.text}`)).toContainEqual(
    expect.stringMatching(/interval tuned as it was found, Lea$/),
  );
});

it("what the sheet tells needs nobody to say it, and a finding that is put right takes its proposal along", async () => {
  await service("cab1", 0);
  const { sheetId, entries } = await service("cab1", 80, undefined, 9);
  expect(await openOf("cab1")).toMatchObject({ found: "poor" });
  expect(must(await openOf("cab1")).history).toEqual([
    expect.objectContaining({ told: "sheet", because: [expect.stringContaining("9 °C")], afterDays: 80 }),
  ]);
  const read = must(entries.find((one) => one.type === "reading" && one.value === 9));
  await correctFact(ada, sheetId, { ref: read.id, set: { value: 4 }, why: "misread" }, day(81));
  expect(await openOf("cab1")).toBeNull();
  expect(await getDb().models.AsFound.count({ where: { sheetId } })).toBe(0);
});

it("clean three times in a row asks for a longer one, refused it is not asked again before three more", async () => {
  for (const n of [0, 90, 180]) await service("cab2", n, "clean");
  const asked = must(await openOf("cab2"));
  expect(asked).toMatchObject({ because: "Found clean 3 times in a row.", newDays: 109 });
  // What is said to wait is what is listed, and of a duty that is out of use nothing is.
  const waiting = (await open()).length;
  expect(await openIntervals()).toBe(waiting);
  await getDb().models.Duty.update({ active: false }, { where: { id: asked.dutyId } });
  expect([await openIntervals(), (await open()).length]).toEqual([waiting - 1, waiting - 1]);
  await getDb().models.Duty.update({ active: true }, { where: { id: asked.dutyId } });
  await expect(accept("cab2", false)).resolves.toBeUndefined();
  expect(await every("cab2")).toEqual(["3 month"]);
  for (const n of [270, 360]) {
    await service("cab2", n, "clean");
    expect(await openOf("cab2")).toBeNull();
  }
  await service("cab2", 450, "clean");
  expect(await openOf("cab2")).toMatchObject({ newDays: 109 });
});

it("a later finding takes the place of an open proposal, and one stands until it is decided", async () => {
  await service("cab3", 0, "poor");
  const first = must(await openOf("cab3"));
  await service("cab3", 60, "fair");
  expect((await openOf("cab3"))?.id).toBe(first.id);
  await service("cab3", 120, "failed");
  const second = must(await openOf("cab3"));
  expect(second).toMatchObject({ found: "failed", newDays: 46 });
  await expect(decideInterval(lea, { id: first.id, accept: true, reason: "late" }, day(121))).rejects.toThrow(
    /open no more/,
  );
  // Two leads at once: one decides, the other is told.
  const both = await Promise.allSettled([accept("cab3"), accept("cab3", false)]);
  expect(both.filter((one) => one.status === "fulfilled")).toHaveLength(1);
});

it("rules changed by hand put a proposal away, and findings from before them count no more", async () => {
  for (const n of [0, 90]) await service("cab4", n, "clean");
  await service("cab4", 180, "poor");
  const id = await dutyOf("cab4", CONDENSER);
  const { settings } = await dutyForEdit(id, day(181));
  const triggers = [{ kind: "calendar", every: 2, unit: "month", basis: "completion" }] as never;
  await changeDuty(
    lea,
    id,
    { settings: { ...settings, rules: { ...settings.rules, triggers } }, reason: "dust" },
    day(181),
  );
  expect(await openOf("cab4")).toMatchObject({ isOutdated: true });
  await expect(accept("cab4")).rejects.toThrow(/no longer applies/);
  expect(await every("cab4")).toEqual(["2 month"]);
  expect(await openOf("cab4")).toBeNull();
  for (const n of [240, 300]) {
    await service("cab4", n, "clean");
    expect(await openOf("cab4")).toBeNull();
  }
});

it("another water makes a scale-related duty come by its given interval again", async () => {
  const ice = "flake-ice-maker-clean-sanitise";
  await importLines(
    lea,
    ["Co,Fish hall,,Europe/Lisbon,,06:00-22:00,Hall,ice0,Flaker,flake-ice-maker,,2025-11-01"],
    day(-60),
  );
  const id = await dutyOf("ice0", ice);
  const rules = must(await getDb().models.Duty.findByPk(id, { raw: true })).rules;
  const given = { triggers: rules.triggers };
  await getDb().models.Duty.update(
    { rules: { ...rules, triggers: [{ kind: "calendar", every: 200, unit: "day", basis: "completion" }], given } },
    { where: { id } },
  );
  const { siteId } = must(await getDb().models.Duty.findByPk(id, { raw: true }));
  const { site } = await getSite(siteId, day(0));
  const { customerName: _, id: __, customerId: ___, addedBy: ____, toCheck: _____, ...settings } = site;
  await changeSite(lea, siteId, { ...settings, waterHardness: 400 }, day(1));
  const after = must(await getDb().models.Duty.findByPk(id, { raw: true })).rules;
  expect(after.given).toBeUndefined();
  expect(after.triggers).toEqual(given.triggers);
  expect(after.intervalFactor).toBeLessThan(1);
});

it("sites beside each other: what was found, and no more said of dust than the data bear", async () => {
  const { sites, procedures, procedureId } = await foundTable(null, "2027-06-01", day(460));
  expect(procedureId).toBe(CONDENSER);
  expect(procedures[0]).toMatchObject({ id: CONDENSER });
  const [first] = sites;
  expect(first).toMatchObject({
    siteName: "Bakery 0",
    dust: "usual",
    machines: 1,
    n: 2,
    fair: 1,
    poor: 1,
    meanDays: 91,
  });
  expect((await foundCsv(null, "2027-06-01")).split(/\r?\n/)[1]).toBe("Bakery 0,,usual,1,2,0,1,1,0,91");
  const rows = await foundByMachine({ procedureId: CONDENSER, since: "2026-01-01", limit: 10 });
  expect(explained(rows, new Map()).map((one) => [one.cause, one.rho, one.n])).toEqual([
    ["water", null, 0],
    ["dust", null, 3],
  ]);
});
