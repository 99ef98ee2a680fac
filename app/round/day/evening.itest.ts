import { must } from "@core";
import { getDb } from "@db";

import { timeOnSite } from "~/book/records.sql";
import { appendEntries } from "~/sheet/log/append-entries.server";
import { openSheet } from "~/sheet/log/sheets.server";
import { closeDatabase, dutyOf } from "~/testing/database";
import { entryOf, workAndSign } from "~/testing/sheets";
import { beginStores, kim, later, lead, mo, NOW, ON, put, van } from "~/testing/stores";

import { getDayView, planAndKeep } from "./day.server";
import { whereOne } from "./day-events";
import { logDay, takeBack } from "./day-log.server";
import { eveningOf } from "./evening.server";
import { putOnDay } from "./put-on-day.server";

const sites = new Map<string, string>();
const mine = { personId: "", on: ON };
const eventsNow = async () => (await getDayView(mo.id, ON, NOW)).events;

beforeAll(async () => {
  await beginStores();
  for (const row of await getDb().models.Site.findAll({ attributes: ["id", "name"], raw: true }))
    sites.set(row.name, row.id);
  mine.personId = mo.id;
});
afterAll(closeDatabase);

const step = (type: "started" | "arrived" | "left" | "ended", minute: number, place?: string, sure = false) =>
  logDay(mo, { ...mine, type, siteId: place === undefined ? null : must(sites.get(place)), sure }, later(minute));

const back = async (minute: number, who = mo): Promise<void> =>
  takeBack(who, { ...mine, eventId: must((await eventsNow()).at(-1)).id }, later(minute));

describe("a step of the day that is taken back", () => {
  it("is as if it had not been, and stays readable", async () => {
    await step("started", 0);
    await back(1);
    expect((await getDayView(mo.id, ON, later(1))).day.status).toBe("open");
    await step("started", 2);
    await step("arrived", 10, "Lab");
    await back(11);
    expect(whereOne(await eventsNow())).toBeNull();
    await step("arrived", 12, "Works");
    await step("left", 40, "Works");
    await back(41);
    expect(whereOne(await eventsNow())).toBe(sites.get("Works"));
    await step("left", 50, "Works");
    await step("ended", 60);
    await back(61);
    const { day } = await getDayView(mo.id, ON, later(61));
    expect(day.status).toBe("started");
    const kept = await getDb().models.DayEvent.findAll({ where: { dayId: day.id }, order: ["seq"], raw: true });
    expect(kept.filter((one) => one.type === "undone")).toHaveLength(4);
    expect(kept.map((one) => one.type)).toContain("ended");
  });

  it("is left out of the time on site that a record tells", async () => {
    const at = { personId: mo.id, on: ON, closedAt: later(30) };
    const [works] = await timeOnSite({ ...at, siteId: must(sites.get("Works")) });
    expect(works).toEqual({ arrivedAt: later(12), leftAt: later(50) });
    expect(await timeOnSite({ ...at, siteId: must(sites.get("Lab")) })).toEqual([{ arrivedAt: null, leftAt: null }]);
  });

  it("is the last one, today's, and one's own or a lead's", async () => {
    const events = await eventsNow();
    await expect(takeBack(mo, { ...mine, eventId: must(events[0]).id }, later(62))).rejects.toMatchObject({
      code: "not-now",
    });
    await expect(back(62, kim)).rejects.toMatchObject({ code: "not-yours" });
    await expect(back(2 * 24 * 60)).rejects.toMatchObject({ code: "other-day" });
    // Two taps at once take back one step, not two.
    const last = must(events.at(-1)).id;
    const both = await Promise.allSettled([1, 2].map(() => takeBack(lead, { ...mine, eventId: last }, later(63))));
    expect(both.map((one) => one.status).sort()).toEqual(["fulfilled", "rejected"]);
    expect(whereOne(await eventsNow())).toBe(sites.get("Works"));
  });
});

describe("the evening of a day", () => {
  it("tells what is done, what is not and where it went, what is unsigned, used, and the hours", async () => {
    await put("ice-cleaner", van, 5000);
    const [ice, printer, stainer, freezer] = await Promise.all([
      dutyOf("S-1", "flake-ice-maker-clean-sanitise"),
      dutyOf("S-2", "card-printer-fan"),
      dutyOf("S-4", "slide-stainer-weekly"),
      dutyOf("S-5", "soft-serve-freezer-opening"),
    ]);
    await putOnDay(mo, [ice, printer, stainer, freezer], { ...mine }, NOW);
    await planAndKeep(mo, mo.id, ON, null, later(64));
    await workAndSign(mo, "S-1", "flake-ice-maker-clean-sanitise", later(70));
    const locked = await openSheet(mo, printer, "phone", later(80));
    const outcome = { type: "outcome", outcome: "no-access", reason: "Office locked", again: "2026-06-12" } as const;
    expect((await appendEntries(mo, locked, [entryOf(mo, locked, later(81), outcome)], later(81))).refused).toEqual([]);
    await putOnDay(mo, [stainer], { on: "2026-06-11", personId: mo.id }, later(82));
    const open = await openSheet(mo, freezer, "phone", later(83));
    const evening = await eveningOf(mo.id, ON, later(600));
    expect(evening.done).toMatchObject([{ machineName: "Ice", siteName: "Works" }]);
    expect(evening.ended).toMatchObject([
      { machineName: "Printer", outcome: "no-access", outcomeReason: "Office locked" },
    ]);
    expect(must(must(evening.ended[0]).duty).plannedOn).not.toBe(ON);
    expect(evening.unsigned).toMatchObject([{ sheetId: open }]);
    expect(evening.notDone).toMatchObject([{ dutyId: stainer, plannedOn: "2026-06-11", plannedForName: "Mo" }]);
    const cleaner = must(evening.used.find((one) => one.itemId === "ice-cleaner"));
    expect(cleaner.used).toBeGreaterThan(0);
    expect(cleaner.left).toBe(5000 - cleaner.used);
    expect(cleaner).toMatchObject({ placeId: van, placeName: "Van Mo" });
    expect(evening.hours).toMatchObject({
      from: 8 * 60 + 2,
      to: null,
      sites: [{ siteId: sites.get("Works"), to: null }],
    });
    expect(evening.hours.handsOn).toBeGreaterThan(0);
  });

  it("of a day on which nothing happened is empty, and nobody's is not found", async () => {
    const evening = await eveningOf(kim.id, ON, later(600));
    expect(evening).toMatchObject({ done: [], ended: [], unsigned: [], notDone: [], used: [], hours: { from: null } });
    await expect(eveningOf("0190a000-0000-7000-8000-000000000001", ON, NOW)).rejects.toMatchObject({ status: 404 });
  });
});
