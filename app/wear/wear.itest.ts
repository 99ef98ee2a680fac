import { must, type RunEventBody } from "@core";
import { getDb } from "@db";

import { getDuty } from "~/duties/due.server";
import type { Actor } from "~/kit/actor";
import { putOnDay } from "~/round/day/put-on-day.server";
import { appendEntries } from "~/sheet/log/append-entries.server";
import { correctFact, loadSheet, openSheet } from "~/sheet/log/sheets.server";
import { keepMissingWear } from "~/sheet/log/wear-missing.server";
import { setFailureFigures } from "~/stores/costs/failure-figures.server";
import { demandUntil } from "~/stores/items/needs.server";
import { loadView } from "~/stores/load/load.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";
import { entryOf, workAndSign } from "~/testing/sheets";

import { setCriticality } from "./criticality.server";
import { foreseeStale } from "./foresee.server";
import { machineWear } from "./machine-wear.server";
import { listWear, wearCsv } from "./wear-list.server";
import { wearNow } from "./wear-now";
import { wearOnSheet } from "./wear-on-sheet.server";

const DAILY = "ride-on-sweeper-daily";
const NOW = new Date("2026-06-10T09:00:00Z");
const day = (n: number): Date => new Date(NOW.getTime() + n * 86_400_000);
const on = (n: number): string => day(n).toISOString().slice(0, 10);
const ALL = { siteIds: null, family: null, now: false };
let ada: Actor;
let lea: Actor;
let sweeper: string;

beforeAll(async () => {
  await freshDatabase();
  await publishShipped("all");
  ada = await addActor("Ada");
  lea = await addActor("Lea", "lead");
  await importLines(
    lea,
    ["sweeper", "other"].map(
      (tag) => `Co,Quay,,Europe/Lisbon,,06:00-22:00,Hall,${tag},Sweeper ${tag},ride-on-sweeper,,2026-03-01`,
    ),
    day(-90),
  );
  sweeper = must(await getDb().models.Machine.findOne({ where: { tag: "sweeper" }, raw: true })).id;
  await getDb().run(
    "INSERT INTO items (id, name, kind, unit, pack_size, pack_price_cents) VALUES ('main-broom', 'Main broom', 'part', 'pcs', 1, 11900) ON DUPLICATE KEY UPDATE pack_price_cents = 11900",
  );
});
afterAll(closeDatabase);

const look = (n: number, hours: number, bristle: number, tag = "sweeper") =>
  workAndSign(ada, tag, DAILY, day(n), {
    readings: {
      "running-hours": [hours],
      "main-broom-bristle": [bristle + 0.1, bristle, bristle + 0.05],
      "polish-mark": [1.2],
    },
  });
const lineOf = async (machineId = sweeper) =>
  (await machineWear({ id: machineId, options: [] }, NOW)).slots[0]?.row ?? null;

it("keeps the worst place of each look, and says nothing before there is enough", async () => {
  await look(-30, 500, 3.2);
  const first = must(await lineOf());
  expect(first).toMatchObject({ slot: "main-broom", n: 1, lastValue: 3.2, limitAt: 2, line: null, per: "day" });
  await look(-23, 530, 2.9);
  expect(must(await lineOf())).toMatchObject({ n: 2, line: null, crossesOn: null, per: "running-hours" });
});

it("foresees the day from the third value on: the limit by hours, the day by how much it is used", async () => {
  await look(-16, 560, 2.6);
  await look(-9, 590, 2.3);
  // 0.01 a running hour: 2.0 after 30 more; 30 hours in 7 days.
  const line = must(await lineOf());
  expect(line).toMatchObject({ n: 4, crossesOn: on(-2), advice: "now" });
  expect(must(line.slope)).toBeCloseTo(-0.01, 4);
  expect(must(line.nextChance)).toBeGreaterThan(0.9);
  // The duty that waits for it has a day: past without a reading, today at the earliest and never overdue.
  const { row } = must(await getDuty(await dutyOf("sweeper", "ride-on-sweeper-main-broom"), NOW));
  expect(row).toMatchObject({ dueOn: on(0), projected: true });
  expect(must(row.foretoldFrom) <= must(row.foretoldTo)).toBe(true);
  const list = await listWear(ALL, null, NOW);
  expect(list.rows.map((one) => [one.tag, one.itemName, one.advice])).toEqual([["sweeper", "Main broom", "now"]]);
  expect((await listWear({ ...ALL, now: true }, null, NOW)).rows).toHaveLength(1);
  expect((await listWear({ ...ALL, family: "prep-cabinet" }, null, NOW)).rows).toEqual([]);
  expect((await listWear({ ...ALL, siteIds: [] }, null, NOW)).rows).toEqual([]);
  expect(await wearCsv(ALL, NOW)).toContain("Quay,sweeper,Sweeper sweeper,Main broom,Main broom,2.3,in");
});

it("takes part in what is wanted: once, with its chance, and on the day's load list", async () => {
  const wanted = (await demandUntil(on(60), on(0), NOW, ["main-broom"])).filter((one) => one.machineId === sweeper);
  expect(wanted).toMatchObject([{ on: on(0), item: "main-broom", qty: 1 }]);
  expect(must(wanted[0]).chance).toBeGreaterThan(0.9);
  expect(must(wanted[0]).chance).toBeLessThan(1);
  const dutyId = await dutyOf("sweeper", DAILY);
  await putOnDay(ada, [dutyId], { on: on(1), personId: ada.id }, NOW);
  const broom = must((await loadView(ada.id, on(1), NOW)).lines.find((one) => one.item.id === "main-broom"));
  expect(broom).toMatchObject({ qty: 1, carry: { carry: 1 } });
  expect(broom.chance).toBeGreaterThan(0.9);
  expect(broom.past[0]).toContain("2.3 in when read last, limit 2");
});

it("at the step, says at once what a value means, and a choice shows the step that renews it", async () => {
  const dutyId = await dutyOf("sweeper", DAILY);
  const sheetId = await openSheet(ada, dutyId, "phone", NOW);
  const view = await loadSheet(sheetId);
  const [known] = await wearOnSheet({ machineId: sweeper, dutyId, procedure: view.procedure }, NOW);
  // The next day is the next visit: this one is under way.
  expect(known).toMatchObject({ slot: "main-broom", visits: [on(1), on(2)], face: { value: 590, use: 90 } });
  const said = must(wearNow(must(known), { value: 2.05, confirmed: false }, 615));
  expect(said).toMatchObject({ n: 5, lastValue: 2.05 });
  expect(said.crossesOn).toBe(on(1));
  expect(wearNow(must(known), { value: 2.05, confirmed: false }, null)?.crossesOn).not.toBeNull();
  const log = async (...bodies: RunEventBody[]): Promise<string[]> =>
    (
      await appendEntries(
        ada,
        sheetId,
        bodies.map((body, i) => entryOf(ada, sheetId, new Date(NOW.getTime() + 1000 * (i + 1)), body)),
        new Date(NOW.getTime() + 60_000),
      )
    ).refused.map((one) => one.code);
  const at = { step: "main-bristle", round: 1 };
  expect(await log({ type: "wear-decided", ...at, choice: "now", chance: 1.5 })).not.toEqual([]);
  expect(await log({ type: "wear-decided", ...at, choice: "now", chance: 0.83 })).toEqual([]);
  await getDb().models.Sheet.update({ status: "ended", openDutyId: null }, { where: { id: sheetId } });
});

it("a new piece begins a new line, and the old one stays to be held against", async () => {
  await look(0, 620, 1.95);
  const { slots, unread } = await machineWear({ id: sweeper, options: [] }, NOW);
  expect(slots).toEqual([]);
  expect(unread).toMatchObject([{ slot: "main-broom", fittedOn: on(0) }]);
  const old = await getDb().models.WearLine.findAll({ where: { machineId: sweeper }, raw: true });
  expect(old).toMatchObject([{ current: false, n: 5, lastValue: 1.95 }]);
  const [fit] = await getDb().models.SlotFit.findAll({ raw: true });
  expect(fit).toMatchObject({ slot: "main-broom", cameOut: "worn", onDay: on(0) });
  expect((await demandUntil(on(60), on(0), NOW, ["main-broom"])).filter((one) => one.chance > 0.9)).toEqual([]);
  await look(7, 650, 3.8);
  const wear = await machineWear({ id: sweeper, options: [] }, day(7));
  expect(wear.slots[0]).toMatchObject({ row: { n: 1, lastValue: 3.8 }, before: [{ from: null, last: 1.95 }] });
});

it("a correction of a signed sheet moves the line, and the old value stays in the log", async () => {
  const { sheetId, entries } = await look(14, 680, 2.4);
  expect((await machineWear({ id: sweeper, options: [] }, day(14))).slots[0]?.row.lastValue).toBe(2.4);
  const wrong = must(entries.find((one) => one.type === "reading" && one.value === 2.4));
  await correctFact(ada, sheetId, { ref: wrong.id, set: { value: 3.5 }, why: "Read off the wrong side" }, day(14));
  // The other two places read 2.5 and 2.45: the worst is another one now.
  expect((await machineWear({ id: sweeper, options: [] }, day(14))).slots[0]?.row).toMatchObject({
    lastValue: 2.45,
    n: 2,
  });
});

it("figures and how much a machine matters change what pays, once somebody looks", async () => {
  await look(21, 710, 2.2);
  const before = must((await machineWear({ id: sweeper, options: [] }, day(21))).slots[0]).row;
  await setCriticality(lea, sweeper, "high", day(21));
  const high = must((await machineWear({ id: sweeper, options: [] }, day(21))).slots[0]).row;
  expect(must(high.costNext)).toBeGreaterThanOrEqual(must(before.costNext));
  await setFailureFigures(lea, { failure: { low: 0, usual: 0, high: 0 }, visit: 0, secondTrip: 0.1 }, day(21));
  expect(must((await machineWear({ id: sweeper, options: [] }, day(21))).slots[0]).row).toMatchObject({
    advice: "next",
    breakEven: 1,
  });
  await expect(setCriticality(ada, sweeper, "low", day(21))).rejects.toMatchObject({ code: "leads-only" });
});

it("what an older version closed is taken up once, to the same lines", async () => {
  const db = getDb();
  const lines = () =>
    db.select(
      "SELECT slot, n, ROUND(level, 9) AS level, ROUND(slope, 9) AS slope, current, last_on AS lastOn FROM wear_lines ORDER BY machine_id, slot, first_on",
    );
  const before = await lines();
  for (const table of ["wear_values", "slot_fits", "wear_lines"]) await db.run(`DELETE FROM ${table}`);
  await db.run("UPDATE sheets SET wear_kept = 0");
  expect(await keepMissingWear(day(21))).toBeGreaterThan(5);
  expect(await lines()).toEqual(before);
  expect(await keepMissingWear(day(21))).toBe(0);
});

it("pieces of other machines help: the first value says what theirs came to", async () => {
  for (const [from, start] of [
    [30, 4],
    [60, 3.9],
  ] as const)
    for (let i = 0; i < 4; i++) await look(from + 7 * i, 800 + 10 * from + 30 * i, i === 3 ? 1.9 : start - 0.6 * i);
  const other = must(await getDb().models.Machine.findOne({ where: { tag: "other" }, raw: true })).id;
  for (const from of [30, 60])
    for (let i = 0; i < 4; i++)
      await look(from + 7 * i, 100 + 10 * from + 30 * i, i === 3 ? 1.95 : 3.9 - 0.61 * i, "other");
  await look(95, 1200, 3.9, "other");
  await look(96, 1205, 3.85, "other");
  await foreseeStale(day(96));
  const [slot] = (await machineWear({ id: other, options: [] }, day(96))).slots;
  const row = must(slot).row;
  expect(row.n).toBe(2);
  expect(must(row.line).pieces).toBeGreaterThanOrEqual(5);
  expect(must(row.line).ownWeight).toBeLessThan(0.5);
  expect(row.crossesOn).not.toBeNull();
});

it("where it is still yesterday, what is foreseen for today is not worked out again and again", async () => {
  await importLines(
    lea,
    ["Co,Far quay,,Pacific/Honolulu,,06:00-22:00,Hall,far,Sweeper far,ride-on-sweeper,,2026-03-01"],
    day(-90),
  );
  const far = must(await getDb().models.Machine.findOne({ where: { tag: "far" }, raw: true })).id;
  await look(96, 100, 3, "far");
  // Half past nine in the evening there, and the day after in Greenwich: its daily look is due on its own day.
  const late = new Date(day(98).toISOString().replace(/T.*/, "T07:30:00.000Z"));
  await foreseeStale(late, 1000);
  const [slot] = (await machineWear({ id: far, options: [] }, late)).slots;
  expect(must(slot).row.nextOn).toBe(on(97));
  expect(await foreseeStale(late, 1000)).toBe(0);
});
