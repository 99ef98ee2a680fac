import { AHEAD_CELLS, must, projectDue } from "@core";
import { getDb } from "@db";
import sharp from "sharp";

import { addDuty, changeDuty, dutyForEdit } from "~/duties/duties.server";
import { OWN_DUTY } from "~/duties/general-procedures";
import { repeatsAfter } from "~/duties/repeats.server";
import type { Actor } from "~/kit/actor";
import { findLink, makeLink } from "~/kit/server/links.server";
import { readPhoto } from "~/kit/server/photos.server";
import {
  type BulkChange,
  changeMachine,
  changeMachines,
  exportMachines,
  getMachine,
  listMachines,
} from "~/machines/machines.server";
import { expectations, logMeterReading, meterQuestion, replaceMeter } from "~/machines/meters.server";
import { importReadings } from "~/machines/register/meter-csv.server";
import { closeReport, openReports, recentTicks, reportsOf } from "~/machines/reports.server";
import { machineOfTag, tagSheet, tagSvg, tagUrl } from "~/machines/tags.server";
import { machineTrail } from "~/machines/trail.server";
import { operatorView, reportProblem, tickDuties } from "~/outside/operator.server";
import { putOnDay } from "~/round/day/put-on-day.server";
import { findAnything } from "~/shell/find.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines, publishShipped } from "~/testing/database";

import { type AheadFilter, aheadPage } from "./ahead.server";
import { aheadCsv } from "./ahead-export.server";
import { dropView, listViews, saveView } from "./saved-views.server";
import { workload } from "./workload.server";

const NOW = new Date("2026-06-10T10:00:00Z");
const later = (days: number): Date => new Date(NOW.getTime() + days * 86_400_000);
const ALL: AheadFilter = { q: null, siteId: null, family: null, who: null, personId: null, after: null };
const NOTHING: BulkChange = { area: null, siteId: null, addOption: null, dropOption: null };
let lead: Actor;
const idOf = async (tag: string): Promise<string> => must(await machineOfTag(tag));

beforeAll(async () => {
  await freshDatabase();
  await publishShipped();
  lead = await addActor("Lea", "lead");
  await importLines(
    lead,
    [
      "Aqua,Pier,,Europe/Lisbon,320,,Kitchen,R-1,Ice one,flake-ice-maker,water-filter,2026-01-05",
      "Aqua,Pier,,Europe/Lisbon,320,,Kitchen,R-2,Sweeper two,ride-on-sweeper,,2026-06-08",
      "Ferry,Quay,,Europe/Lisbon,,,Deck,R-3,Sweeper three,ride-on-sweeper,,2026-06-10",
      "Ferry,Quay,,Europe/Lisbon,,,Deck,R-4,Printer,wide-format-printer,,2026-06-10",
    ],
    NOW,
  );
});
afterAll(closeDatabase);

describe("ahead", () => {
  it("puts each duty's next time and its repeats into the cells, the most pressing site first", async () => {
    const { sites, totalSites, takes } = await aheadPage(ALL, NOW);
    expect(totalSites).toBe(2);
    expect(sites.map((site) => site.name)).toEqual(["Pier", "Quay"]);
    const sweeper = must(must(sites[0]).duties.find((duty) => duty.machineTag === "R-2"));
    expect(sweeper).toMatchObject({ state: "overdue", dueOn: "2026-06-09", cell: 0, handsOn: 30 });
    // A daily duty, done today, comes again on each of the next days.
    const week = AHEAD_CELLS.map((cell, i) => [cell.span, must(must(sites[0]).repeats[i]).count] as const).filter(
      ([span]) => span === "week",
    );
    expect(week.map(([, count]) => count)).toEqual([1, 1, 1, 1, 1, 1]);
    expect(must(sites[0]).repeats.reduce((sum, one) => sum + one.count, 0)).toBeGreaterThan(365);
    expect(must(takes["flake-ice-maker-clean-sanitise"]).length).toBeGreaterThan(0);
  });
  it("shows a duty on the day it is put on", async () => {
    const dutyId = await dutyOf("R-3", "ride-on-sweeper-daily");
    await putOnDay(lead, [dutyId], { on: "2026-06-12", personId: lead.id }, NOW);
    const { sites } = await aheadPage({ ...ALL, personId: lead.id }, NOW);
    expect(
      sites.map((site) =>
        site.duties.map((duty) => [duty.dutyId, duty.plannedOn, must(AHEAD_CELLS[duty.cell]).fromDay]),
      ),
    ).toEqual([[[dutyId, "2026-06-12", 2]]]);
  });
  it("filters by beginning, family and who, in a fixed number of queries", async () => {
    expect((await aheadPage({ ...ALL, q: "Fer" }, NOW)).sites.map((site) => site.name)).toEqual(["Quay"]);
    expect((await aheadPage({ ...ALL, q: "100%" }, NOW)).sites).toEqual([]);
    const printers = await aheadPage({ ...ALL, family: "wide-format-printer" }, NOW);
    expect(printers.sites.flatMap((site) => site.duties.map((duty) => duty.machineTag))).toEqual(["R-4"]);
    expect((await aheadPage({ ...ALL, who: "operator" }, NOW)).sites).toEqual([]);
    getDb().takeQueryCount();
    await aheadPage(ALL, NOW);
    expect(getDb().takeQueryCount()).toBeLessThanOrEqual(6);
  });
  it("goes on from page to page with every site once, whatever the filter", async () => {
    await importLines(
      lead,
      Array.from(
        { length: 47 },
        (_, n) =>
          `Chain,Shop ${n},,Europe/Lisbon,,,,C-${n},Sweeper,ride-on-sweeper,,2026-0${1 + (n % 6)}-0${1 + (n % 4)}`,
      ),
      NOW,
    );
    for (const filter of [
      ALL,
      { ...ALL, family: "ride-on-sweeper" },
      { ...ALL, q: "Chain" },
      { ...ALL, who: "technician" as const },
    ]) {
      const seen: string[] = [];
      const firsts: string[] = [];
      for (let after: string | null = null; ;) {
        const page: Awaited<ReturnType<typeof aheadPage>> = await aheadPage({ ...filter, after }, NOW);
        seen.push(...page.sites.map((site) => site.name));
        firsts.push(...page.sites.map((site) => must(must(site.duties[0]).dueOn)));
        if (page.next === null) break;
        after = page.next;
      }
      expect(new Set(seen).size).toBe(seen.length);
      expect(seen.length).toBe(filter.q ? 47 : 49);
      expect(firsts).toEqual([...firsts].sort());
    }
    await getDb().run("DELETE FROM duties WHERE machine_id IN (SELECT id FROM machines WHERE tag LIKE 'C-%')");
    await getDb().run("DELETE FROM machines WHERE tag LIKE 'C-%'");
  });
  it("repeats as the engine projects", () => {
    const plan = {
      id: "p",
      startOn: "2026-01-31",
      rules: { triggers: [{ kind: "calendar" as const, every: 1, unit: "month" as const, basis: "grid" as const }] },
    };
    const input = {
      plan: { ...plan, triggers: plan.rules.triggers },
      completions: [],
      meters: {},
      readings: {},
      events: [],
      today: "2026-02-01",
    };
    const [first, ...rest] = projectDue(input, "2026-12-31").map((one) => one.on);
    expect(repeatsAfter(plan, must(first), "2026-02-01", "2026-12-31", {})).toEqual(rest);
  });
  it("comes as CSV too, formulas guarded", async () => {
    await changeMachine(
      lead,
      await idOf("R-4"),
      {
        settings: {
          name: "=Printer",
          area: "",
          position: "",
          maker: "",
          model: "",
          serial: "",
          options: [],
          documents: [],
          freeHours: "",
          readyBy: "",
          notes: "",
        },
      },
      NOW,
    );
    const csv = await aheadCsv(ALL);
    expect(csv.split("\r\n")[0]).toBe(
      "customer,site,machine,tag,duty,who,due_on,forecast,planned_on,planned_for,minutes",
    );
    expect(csv).toContain(",'=Printer,R-4,");
  });
  it("levels a year of work without making anything late", async () => {
    const load = await workload(ALL, NOW);
    expect(load.before.reduce((a, b) => a + b)).toBe(load.after.reduce((a, b) => a + b));
    expect(Math.max(...load.after.slice(1))).toBeLessThanOrEqual(Math.max(...load.before.slice(1)));
    expect(Math.max(...load.after.slice(1))).toBeGreaterThanOrEqual(load.bound);
    expect(load.after[0]).toBe(load.before[0]);
  });
  it("keeps filters under a name, each person's own", async () => {
    const other = await addActor("Ada");
    await saveView(lead, "ahead", "Ferry", "q=Fer", NOW);
    await saveView(lead, "ahead", "Ferry", "q=Ferry", NOW);
    const [view] = await listViews(lead, "ahead");
    expect(view).toMatchObject({ name: "Ferry", query: "q=Ferry" });
    await dropView(other, must(view).id);
    expect(await listViews(lead, "ahead")).toHaveLength(1);
    await dropView(lead, must(view).id);
    expect(await listViews(lead, "ahead")).toEqual([]);
  });
});

describe("meters", () => {
  it("are expected in a range; a slip is asked about, a replaced meter is an event", async () => {
    const machineId = await idOf("R-2");
    await logMeterReading(lead, machineId, { meter: "running-hours", value: 1200 }, later(-11));
    await logMeterReading(lead, machineId, { meter: "running-hours", value: 1233 }, NOW);
    expect((await expectations(machineId, ["running-hours"], later(3)))["running-hours"]).toMatchObject({
      last: 1233,
      perDay: 3,
      high: 1260,
    });
    expect(await meterQuestion(machineId, "running-hours", 12340, later(3))).toContain("up to 1260 was expected");
    expect(await meterQuestion(machineId, "running-hours", 1250, later(3))).toBeNull();
    await expect(
      replaceMeter(lead, machineId, { meter: "running-hours", lastValue: 1200, startsAt: 0, note: "" }, later(3)),
    ).rejects.toMatchObject({
      code: "lastValue",
    });
    await expect(
      replaceMeter(lead, machineId, { meter: "running-hours", lastValue: 1240, startsAt: 1300, note: "" }, later(3)),
    ).rejects.toMatchObject({
      code: "startsAt",
    });
    await replaceMeter(
      lead,
      machineId,
      { meter: "running-hours", lastValue: 1240, startsAt: 2, note: "New hour meter" },
      later(3),
    );
    const rows = await getDb().select<{ value: number; replaced: number }>(
      "SELECT value, replaced FROM meter_readings WHERE machine_id = :machineId ORDER BY read_at",
      { machineId },
    );
    expect(rows).toEqual([
      { value: 1200, replaced: false },
      { value: 1233, replaced: false },
      { value: 1240, replaced: false },
      { value: 2, replaced: true },
    ]);
  });

  it("come from a file, good rows only when asked, each row once", async () => {
    const file = [
      "tag;meter;value;read_at;note",
      "r-3;running-hours;12,5;2026-06-01;",
      "R-9;running-hours;1;2026-06-01;",
      "R-3;Hours;-1;2026-13-01;",
      "R-3;running-hours;20;2026-06-09T10:00:00+01:00;'=a",
    ].join("\r\n");
    const refused = await importReadings(lead, file, {}, NOW);
    expect(refused).toMatchObject({ good: 2, added: null });
    expect(refused.faults.map((fault) => [fault.line, fault.column])).toEqual([
      [3, "tag"],
      [4, "meter"],
      [4, "value"],
      [4, "read_at"],
    ]);
    expect(await importReadings(lead, file, { takeGood: true }, NOW)).toMatchObject({ good: 2, added: 2 });
    expect(await importReadings(lead, file, { takeGood: true }, NOW)).toMatchObject({ good: 2, added: 0 });
    const rows = await getDb().select(
      "SELECT value, read_on AS `on`, note FROM meter_readings WHERE machine_id = :id ORDER BY read_at",
      {
        id: await idOf("R-3"),
      },
    );
    expect(rows).toEqual([
      { value: 12.5, on: "2026-06-01", note: "" },
      { value: 20, on: "2026-06-09", note: "=a" },
    ]);
  });
});

describe("an operator's link", () => {
  it("shows one machine's operator duties, takes ticks once a day, and moves the due day", async () => {
    const machineId = await idOf("R-1");
    const dutyId = await addDuty(lead, machineId, { procedureId: OWN_DUTY, title: "Wipe down" }, NOW);
    const { settings } = await dutyForEdit(dutyId, NOW);
    await changeDuty(
      lead,
      dutyId,
      {
        reason: "daily",
        settings: {
          ...settings,
          who: "operator",
          startOn: "2026-06-09",
          rules: { triggers: [{ kind: "calendar", every: 1, unit: "day", basis: "completion" }] },
        },
      },
      NOW,
    );
    const link = must(await findLink(["operator"], await makeLink(lead, "operator", machineId, NOW)));
    const view = await operatorView(link, NOW);
    expect(view.machine).toMatchObject({ name: "Ice one", siteName: "Pier" });
    expect(view.duties.map((duty) => [duty.title, duty.dueOn, duty.doneToday])).toEqual([
      ["Wipe down", "2026-06-10", null],
    ]);
    const technicians = await dutyOf("R-1", "flake-ice-maker-clean-sanitise");
    expect(await tickDuties(link, { dutyIds: [dutyId, technicians], name: "Kai" }, NOW)).toBe(1);
    expect(await tickDuties(link, { dutyIds: [dutyId], name: "Kai" }, NOW)).toBe(0);
    const after = await operatorView(link, NOW);
    expect(after.duties[0]).toMatchObject({ dueOn: "2026-06-11", doneToday: { name: "Kai" } });
    expect(await recentTicks(machineId)).toEqual([{ title: "Wipe down", doneOn: "2026-06-10", name: "Kai" }]);
  });

  it("reports a problem with a picture that carries nothing but the picture", async () => {
    const machineId = await idOf("R-1");
    const link = must(await findLink(["operator"], await makeLink(lead, "operator", machineId, NOW)));
    const picture = await sharp({ create: { width: 2400, height: 1200, channels: 3, background: "#888" } })
      .withExif({ IFD0: { ImageDescription: "secret place" } })
      .jpeg()
      .toBuffer();
    await reportProblem(link, { name: "Kai", text: "Drips", stopped: true, photo: picture }, NOW);
    const [report] = await openReports();
    expect(report).toMatchObject({ text: "Drips", stopped: true, machineName: "Ice one" });
    const { bytes, mime } = await readPhoto(must(must(report).photoId));
    expect(mime).toBe("image/jpeg");
    const meta = await sharp(bytes).metadata();
    expect([meta.width, meta.exif]).toEqual([1600, undefined]);
    await expect(
      reportProblem(link, { name: "Kai", text: "x", stopped: false, photo: Buffer.from("<svg onload=alert(1)>") }, NOW),
    ).rejects.toMatchObject({
      status: 422,
    });
    await closeReport(lead, machineId, must(report).id, "New seal", NOW);
    await closeReport(lead, machineId, must(report).id, "again", NOW);
    expect(await openReports()).toEqual([]);
    expect((await reportsOf(machineId))[0]).toMatchObject({ closedNote: "New seal", closedByName: "Lea" });
  });
});

describe("the register", () => {
  it("finds machines, sites, parts and places, and a tag's machine", async () => {
    const kinds = async (text: string) =>
      (await findAnything(text, "technician")).map((one) => `${one.kind}: ${one.title}`);
    expect(await kinds("Sweeper th")).toContain("Machine: Sweeper three");
    expect(await kinds("Pie")).toContain("Site: Pier");
    expect(await kinds("bearing")).toContain("Part: Auger bearing");
    expect(await kinds("Ahea")).toEqual(["Place: Ahead"]);
    expect(await kinds("people")).not.toContain("Place: People");
    expect(await machineOfTag("r-1")).toBe(await idOf("R-1"));
    expect(await machineOfTag("R-99")).toBeNull();
  });
  it("changes many machines alike, all or none, and their duties move with them", async () => {
    const ids = [await idOf("R-1"), await idOf("R-2")];
    const { siteId } = (await getMachine(await idOf("R-3"))).machine;
    await expect(changeMachines(lead, ids, NOTHING, NOW)).rejects.toMatchObject({ status: 422 });
    await expect(
      changeMachines(lead, ids, { ...NOTHING, siteId: "00000000-0000-7000-8000-000000000000" }, NOW),
    ).rejects.toMatchObject({ status: 404 });
    expect(
      await changeMachines(
        lead,
        ids,
        { ...NOTHING, area: "Hall 2", siteId, addOption: "alarm", dropOption: "water-filter" },
        NOW,
      ),
    ).toBe(2);
    expect((await getMachine(must(ids[0]))).machine).toMatchObject({ area: "Hall 2", siteId, options: ["alarm"] });
    const plans = await getDb().select<{ siteId: string }>(
      "SELECT DISTINCT site_id AS siteId FROM duties WHERE machine_id IN (:ids)",
      { ids },
    );
    expect(plans).toEqual([{ siteId }]);
    expect((await listMachines({ q: null, siteIds: [siteId] })).rows).toHaveLength(4);
  });
  it("refuses a serial number that another machine has", async () => {
    const facts = {
      name: "A",
      area: "",
      position: "",
      maker: "M",
      model: "X",
      serial: "77",
      options: [],
      documents: [],
      freeHours: "",
      readyBy: "",
      addedBy: null,
      toCheck: false,
      retiredOn: null,
      retired: null,
      notes: "",
    };
    await changeMachine(lead, await idOf("R-1"), { settings: facts }, NOW);
    await expect(changeMachine(lead, await idOf("R-2"), { settings: facts }, NOW)).rejects.toMatchObject({
      code: "serial",
      message: expect.stringContaining("R-1"),
    });
  });
  it("goes out as JSON and CSV with the same content", async () => {
    const json = JSON.parse(await exportMachines("json")) as { tag: string }[];
    const csv = await exportMachines();
    expect(json.map((one) => one.tag)).toEqual(["R-1", "R-2", "R-3", "R-4"]);
    expect(csv.trim().split("\r\n")).toHaveLength(json.length + 1);
  });
  it("prints tags that lead to the machine", async () => {
    expect(tagUrl("https://hound.example", "R-1")).toBe("https://hound.example/t/R-1");
    expect(await tagSvg("https://hound.example", "R-1")).toMatch(/^<svg/);
    expect((await tagSheet("https://hound.example", { siteId: null })).subarray(0, 5).toString()).toBe("%PDF-");
  });
  it("tells a machine's whole story", async () => {
    const trail = await machineTrail(await idOf("R-1"));
    expect(trail.items.map((one) => one.kind)).toEqual(expect.arrayContaining(["operator", "fault", "change"]));
    expect(trail.items.map((one) => one.at)).toEqual(trail.items.map((one) => one.at).sort((a, b) => a - b));
    const meters = await machineTrail(await idOf("R-2"));
    expect(meters.items.find((one) => one.kind === "meter")).toMatchObject({ title: "Meter replaced: running hours" });
    expect(must(meters.series.find((one) => one.name === "running hours")).points).toHaveLength(4);
  });
});
