import { checkVisit, must, suggestChanges, visitJobs } from "@core";
import { getDb } from "@db";

import { firmDay } from "~/kit/days/firm-day.server";
import { proposeWeek } from "~/round/week/propose-week.server";
import { changeWorker, putWeek, undoWeek, weekView } from "~/round/week/week.server";
import { appendEntries } from "~/sheet/log/append-entries.server";
import { openSheet } from "~/sheet/log/sheets.server";
import { closeDatabase, dutyOf } from "~/testing/database";
import { beginRound, kim, later, lead, mo, NOW, ON, site } from "~/testing/round";
import { entryOf, workAndSign } from "~/testing/sheets";

import { changeDay, fixOrder, getDayView, planAndKeep, proposeAndPut } from "./day.server";
import { dayCalendar, instantOf } from "./day-calendar.server";
import { addEmergency, handOver, logDay } from "./day-log.server";
import { pinToDay, putOnDay } from "./put-on-day.server";
import { todayOf } from "./today.server";

beforeAll(beginRound);
afterAll(closeDatabase);

const put = async (tag: string, procedure: string, who = mo): Promise<string> => {
  const dutyId = await dutyOf(tag, procedure);
  await putOnDay(who, [dutyId], { on: ON, personId: who.id }, NOW);
  return dutyId;
};

describe("a day", () => {
  it("is planned from what is on it, by the rules, and kept with its risk", async () => {
    await put("D-1", "conveyor-oven-weekly");
    await put("D-2", "slide-stainer-chambers");
    await put("D-3", "flake-ice-maker-clean-sanitise");
    const plan = await planAndKeep(mo, mo.id, ON, null, NOW);
    expect(plan.stops).toHaveLength(1);
    const { problem, day, stale, duties } = await getDayView(mo.id, ON, NOW);
    expect(stale).toBe(false);
    expect(duties).toHaveLength(3);
    expect(day).toMatchObject({
      status: "open",
      startMinute: 420,
      endMinute: 960,
      plan: { endAt: plan.endAt },
      risk: { samples: 1000 },
    });
    const [stop] = plan.stops;
    const { begin, schedule } = must(stop);
    const works = must(problem.sites[0]);
    // The sink is one, and both the oven's parts and the stainer's chambers soak in it.
    expect(works.resources).toEqual([
      { id: "hose", capacity: 1 },
      { id: "sink", capacity: 1 },
    ]);
    const visit = {
      technicians: 1,
      resources: works.resources,
      jobs: works.jobs.flatMap(({ id, phases, bench = [] }) => visitJobs({ id, release: begin }, { phases, bench })),
    };
    expect(
      checkVisit(visit, { ...schedule, status: "feasible", makespan: schedule.makespan + begin, lowerBound: 0 }),
    ).toEqual([]);
    expect(schedule.makespan).toBeLessThan(must(stop).oneByOne * 0.8);
  });

  it("goes stale when its work changes, not by what is contained in other work", async () => {
    const daily = await put("D-1", "conveyor-oven-daily");
    const view = await getDayView(mo.id, ON, NOW);
    expect(view.duties.find((duty) => duty.dutyId === daily)).toMatchObject({
      containedIn: expect.stringContaining("eekly"),
    });
    expect(view.stale).toBe(false);
    const weekly = await put("D-2", "slide-stainer-weekly");
    expect((await getDayView(mo.id, ON, NOW)).stale).toBe(true);
    await putOnDay(mo, [daily, weekly], { on: null, personId: null }, NOW);
    expect((await getDayView(mo.id, ON, NOW)).stale).toBe(false);
  });

  it("that cannot be says why and what would help", async () => {
    const school = await put("D-4", "flake-ice-maker-clean-sanitise");
    const plan = await planAndKeep(mo, mo.id, ON, null, NOW);
    expect(plan.lateMinutes).toBeGreaterThan(0);
    expect(plan.conflicts.join(" ")).toContain(school);
    const { problem } = await getDayView(mo.id, ON, NOW);
    expect(suggestChanges(problem, plan).map((change) => change.kind)).toContain("leave-out");
    await putOnDay(mo, [school], { on: null, personId: null }, NOW);
    await planAndKeep(mo, mo.id, ON, null, NOW);
  });

  it("keeps what is pinned to it against moving, proposals and suggestions, until it is unpinned", async () => {
    const school = await put("D-4", "flake-ice-maker-clean-sanitise");
    await pinToDay(mo, [school], true, { on: ON, personId: mo.id }, NOW);
    await expect(putOnDay(mo, [school], { on: "2026-06-11", personId: mo.id }, NOW)).rejects.toMatchObject({
      status: 409,
      message: expect.stringContaining(ON),
    });
    await expect(putOnDay(mo, [school], { on: null, personId: null }, NOW)).rejects.toMatchObject({ status: 409 });
    const plan = await planAndKeep(mo, mo.id, ON, null, NOW);
    const { problem, duties } = await getDayView(mo.id, ON, NOW);
    expect(duties.find((duty) => duty.dutyId === school)).toMatchObject({ pinned: true });
    expect(
      suggestChanges(problem, plan).filter((change) => change.kind === "leave-out" && change.job === school),
    ).toEqual([]);
    // A colleague may take it over on the same day, which a lead decides.
    await expect(putOnDay(mo, [school], { on: ON, personId: kim.id }, NOW)).rejects.toMatchObject({ status: 403 });
    await expect(putOnDay(kim, [school], { on: ON, personId: kim.id }, NOW)).rejects.toMatchObject({ status: 403 });
    await putOnDay(lead, [school], { on: ON, personId: kim.id }, NOW);
    // Nobody pins what is on another's day by now.
    await pinToDay(mo, [school], false, { on: ON, personId: mo.id }, NOW);
    await putOnDay(lead, [school], { on: ON, personId: mo.id }, NOW);
    await expect(putOnDay(mo, [school], { on: null, personId: null }, NOW)).rejects.toMatchObject({ code: "pinned" });
    await pinToDay(mo, [school], false, { on: ON, personId: mo.id }, NOW);
    await putOnDay(mo, [school], { on: null, personId: null }, NOW);
    await pinToDay(mo, [school], true, { on: ON, personId: mo.id }, NOW);
    // What is on no day cannot be pinned.
    expect(await getDb().select("SELECT pinned FROM duties WHERE id = :school", { school })).toEqual([
      { pinned: false },
    ]);
    await planAndKeep(mo, mo.id, ON, null, NOW);
  });

  it("keeps an order chosen by hand until it is set free", async () => {
    await put("D-5", "ride-on-sweeper-daily");
    const free = (await planAndKeep(mo, mo.id, ON, null, NOW)).stops.map((stop) => stop.site);
    const other = [...free].reverse();
    await fixOrder(mo, mo.id, ON, other, NOW);
    expect((await planAndKeep(mo, mo.id, ON, free, NOW)).stops.map((stop) => stop.site)).toEqual(other);
    await fixOrder(mo, mo.id, ON, null, NOW);
    expect((await planAndKeep(mo, mo.id, ON, other, NOW)).stops.map((stop) => stop.site)).toEqual(other);
  });

  it("takes other hours and people, and refuses hours that are none", async () => {
    await changeDay(mo, mo.id, ON, { startMinute: 400, endMinute: 900, technicians: 2 }, NOW);
    const two = await planAndKeep(mo, mo.id, ON, null, NOW);
    expect((await getDayView(mo.id, ON, NOW)).day).toMatchObject({ startMinute: 400, technicians: 2 });
    await changeDay(mo, mo.id, ON, { startMinute: 400, endMinute: 900, technicians: 1 }, NOW);
    expect((await planAndKeep(mo, mo.id, ON, null, NOW)).endAt).toBeGreaterThanOrEqual(two.endAt);
    await expect(
      changeDay(mo, mo.id, ON, { startMinute: 900, endMinute: 400, technicians: 1 }, NOW),
    ).rejects.toMatchObject({ status: 422 });
  });

  it("becomes a calendar file at the firm's time", async () => {
    const text = dayCalendar(await getDayView(mo.id, ON, NOW), "https://hound.example");
    expect(text.match(/BEGIN:VEVENT/g)).toHaveLength(2);
    expect(text).toContain("SUMMARY:Works");
    // Lisbon is an hour ahead of UTC in June; the clocks go back on 25 October.
    expect(instantOf("2026-06-10", 480, "Europe/Lisbon").toISOString()).toBe("2026-06-10T07:00:00.000Z");
    expect(instantOf("2026-10-26", 480, "Europe/Lisbon").toISOString()).toBe("2026-10-26T08:00:00.000Z");
  });

  it("goes by what happens: started, arrived, a soak running, an emergency, the rest planned again", async () => {
    await expect(
      logDay(mo, { personId: mo.id, on: ON, type: "arrived", siteId: must(site.get("Works")) }, NOW),
    ).rejects.toMatchObject({
      code: "not-now",
    });
    await expect(logDay(kim, { personId: mo.id, on: ON, type: "started", siteId: null }, NOW)).rejects.toMatchObject({
      status: 403,
    });
    await expect(
      logDay(mo, { personId: mo.id, on: "2026-06-11", type: "started", siteId: null }, NOW),
    ).rejects.toMatchObject({
      code: "other-day",
    });
    await logDay(mo, { personId: mo.id, on: ON, type: "started", siteId: null }, NOW);
    await expect(logDay(mo, { personId: mo.id, on: ON, type: "started", siteId: null }, NOW)).rejects.toMatchObject({
      code: "not-now",
    });
    await logDay(mo, { personId: mo.id, on: ON, type: "arrived", siteId: must(site.get("Works")) }, later(10));

    const dutyId = await dutyOf("D-2", "slide-stainer-chambers");
    const sheetId = await openSheet(mo, dutyId, "phone", later(12));
    const at = (minute: number, type: "step-done" | "timer-started" | "safety-confirmed", step: string) =>
      entryOf(mo, sheetId, later(minute), { type, step, round: 1 });
    await appendEntries(
      mo,
      sheetId,
      [
        at(12, "safety-confirmed", "gate-powered-in-1"),
        entryOf(mo, sheetId, later(12), {
          type: "reading",
          step: "runs",
          round: 1,
          point: 0,
          value: 40,
          unit: "runs",
        } as never),
        at(12, "safety-confirmed", "gate-still-in-1"),
        at(12, "step-done", "all-slides-unloaded"),
        at(12, "timer-started", "gate-cool-in-1"),
        at(17, "safety-confirmed", "gate-cool-in-1"),
        at(17, "step-done", "chambers-out"),
        at(17, "step-done", "bleach"),
        at(18, "step-done", "all-chambers-under-the-bleach"),
        at(18, "timer-started", "chlorine-soak"),
      ],
      later(18),
    );
    const rest = await planAndKeep(mo, mo.id, ON, null, later(25));
    const here = must(rest.stops[0]);
    expect(here).toMatchObject({ site: site.get("Works"), arrive: 8 * 60 + 25, late: 0 });
    // 08:18 is when the chlorine went in: out again after 15 and before 20 minutes.
    // The chambers go their own way, beside the machine.
    const soak = here.schedule.phases.filter(({ job }) => job.startsWith(`${dutyId}/`));
    expect(soak[0]).toMatchObject({ start: 8 * 60 + 18 });
    expect(must(soak[1]).start).toBeGreaterThanOrEqual(8 * 60 + 33);
    expect(must(soak[1]).start).toBeLessThanOrEqual(8 * 60 + 38);
    expect((await getDayView(mo.id, ON, later(26))).actual).toEqual([
      expect.objectContaining({
        dutyId,
        to: null,
        waits: [
          [8 * 60 + 12, 8 * 60 + 17],
          [8 * 60 + 18, null],
        ],
      }),
    ]);

    await expect(
      addEmergency(mo, mo.id, ON, { tag: "NONE", title: "Leak", minutes: 20 }, later(27)),
    ).rejects.toMatchObject({ status: 422 });
    const call = await addEmergency(
      mo,
      mo.id,
      ON,
      { tag: "D-4", title: "Leak under the ice maker", minutes: 20 },
      later(27),
    );
    const replanned = await planAndKeep(mo, mo.id, ON, null, later(27));
    expect(replanned.stops.flatMap((stop) => stop.schedule.phases.map((phase) => phase.job))).toContain(call);
    expect(await todayOf(mo.id, await firmDay(later(28)), later(28))).toMatchObject({
      status: "started",
      stops: expect.arrayContaining([expect.objectContaining({ state: "next", name: expect.any(String) })]),
    });

    await expect(logDay(mo, { personId: mo.id, on: ON, type: "ended", siteId: null }, later(30))).rejects.toMatchObject(
      {
        code: "not-now",
      },
    );
    await expect(
      logDay(mo, { personId: mo.id, on: ON, type: "left", siteId: must(site.get("Yard")) }, later(30)),
    ).rejects.toMatchObject({
      code: "not-now",
    });
    const leaving = { personId: mo.id, on: ON, type: "left", siteId: must(site.get("Works")) } as const;
    await expect(logDay(mo, leaving, later(60))).rejects.toMatchObject({
      code: "still-open",
      message: expect.stringMatching(/Stainer.*the clock of “.*” runs.*of \d+ steps settled/),
    });
    await logDay(mo, { ...leaving, sure: true }, later(60));
    await expect(
      logDay(mo, { personId: mo.id, on: ON, type: "skipped", siteId: must(site.get("School")) }, later(61)),
    ).rejects.toMatchObject({
      code: "reason",
    });
    await logDay(
      mo,
      { personId: mo.id, on: ON, type: "skipped", siteId: must(site.get("School")), reason: "Nobody there" },
      later(61),
    );
    const view = await getDayView(mo.id, ON, later(62));
    expect(view.duties.some((duty) => duty.dutyId === call)).toBe(false);
    expect(view.events.map((event) => event.type)).toEqual([
      "started",
      "arrived",
      "replanned",
      "replanned",
      "left",
      "skipped",
    ]);
    expect(must(view.events.at(-1)).body).toEqual({ reason: "Nobody there" });
  });

  it("is handed over with what is left, and ends", async () => {
    const count = (await getDayView(mo.id, ON, later(63))).duties.length;
    expect(count).toBeGreaterThan(0);
    await expect(handOver(kim, mo.id, ON, kim.id, later(63))).rejects.toMatchObject({ status: 403 });
    await expect(handOver(mo, mo.id, ON, mo.id, later(63))).rejects.toMatchObject({ status: 422 });
    expect(await handOver(mo, mo.id, ON, kim.id, later(63))).toBe(count);
    expect((await getDayView(kim.id, ON, later(64))).duties).toHaveLength(count);
    const ended = await getDayView(mo.id, ON, later(64));
    expect(ended.day.status).toBe("ended");
    // The plan that was driven stays.
    expect(await planAndKeep(mo, mo.id, ON, null, later(65))).toEqual(ended.day.plan);
  });

  it("is one row, whoever asks first", async () => {
    await Promise.all(Array.from({ length: 6 }, () => planAndKeep(lead, lead.id, ON, null, NOW)));
    const [row] = await getDb().select<{ total: number; sequence: number }>(
      "SELECT COUNT(*) AS total, MAX(sequence) AS sequence FROM days WHERE person_id = :id",
      { id: lead.id },
    );
    expect(row).toMatchObject({ total: 1, sequence: 6 });
  });
});

it("a round is proposed for the hours there are: pressing work, allowed work, nobody else's", async () => {
  const { chosen } = must(await proposeAndPut(lead, lead, "2026-06-12", new Date("2026-06-12T06:00:00Z")));
  expect(chosen.length).toBeGreaterThan(0);
  const plan = await planAndKeep(lead, lead.id, "2026-06-12", null, new Date("2026-06-12T06:00:00Z"));
  expect(plan).toMatchObject({ lateMinutes: 0, overtime: 0 });
  const mine = await getDb().select<{ id: string; who: string }>(
    "SELECT id, who FROM duties WHERE planned_for = :id AND planned_on = '2026-06-12'",
    {
      id: lead.id,
    },
  );
  expect(mine.map((row) => row.id).sort()).toEqual([...chosen].sort());
  expect(mine.every((row) => row.who !== "operator")).toBe(true);
  const { chosen: again } = must(await proposeAndPut(mo, mo, "2026-06-12", new Date("2026-06-12T06:00:00Z")));
  expect(again.filter((id) => chosen.includes(id))).toEqual([]);
});

it("minutes are learned from signed sheets", async () => {
  for (let i = 0; i < 3; i++)
    await workAndSign(
      kim,
      "D-5",
      "ride-on-sweeper-daily",
      new Date(Date.parse("2026-06-14T08:00:00Z") + i * 86_400_000),
    );
  const rows = await getDb().select<{ minutes: number }>(
    "SELECT hands_minutes AS minutes FROM sheet_minutes WHERE procedure_id = 'ride-on-sweeper-daily' ORDER BY minutes",
  );
  expect(rows).toHaveLength(3);
  await putOnDay(kim, [await dutyOf("D-5", "ride-on-sweeper-daily")], { on: "2026-06-20", personId: kim.id }, NOW);
  const { duties } = await getDayView(kim.id, "2026-06-20", NOW);
  expect(must(duties[0]).learned).toMatchObject({
    basis: "person-site",
    n: 3,
    minutes: Math.round(must(rows[1]).minutes),
  });
});

describe("the week", () => {
  const from = "2026-07-06";
  const monday = new Date("2026-07-06T06:00:00Z");

  it("gives everybody what they may do, where, in their hours, and nothing twice", async () => {
    await changeWorker(
      lead,
      mo.id,
      { dayFrom: "07:00", dayTo: "15:00", breaks: [], families: ["conveyor-oven"], territory: [] },
      monday,
    );
    await changeWorker(
      lead,
      kim.id,
      { dayFrom: "08:00", dayTo: "16:00", breaks: [], families: [], territory: [must(site.get("Yard"))] },
      monday,
    );
    await expect(
      changeWorker(lead, kim.id, { dayFrom: "16:00", dayTo: "08:00", breaks: [], families: [], territory: [] }, monday),
    ).rejects.toMatchObject({ status: 422 });
    const { open } = await weekView(from, monday);
    const week = await proposeWeek(from, monday);
    const given = week.days.flatMap((day) => day.stops.flatMap((stop) => stop.duties.map((duty) => duty.id)));
    expect(new Set(given).size).toBe(given.length);
    expect(given.length + week.left.length).toBe(week.considered);
    expect(week.considered).toBeLessThanOrEqual(open);
    const rows = await getDb().select<{ id: string; family: string; siteId: string }>(
      "SELECT id, family, site_id AS siteId FROM duties WHERE id IN (:given)",
      {
        given,
      },
    );
    const byId = new Map(rows.map((row) => [row.id, row]));
    for (const day of week.days) {
      expect(day.figures.backAt).toBeLessThanOrEqual(day.person === mo.id ? 15 * 60 : 16 * 60);
      expect(day.figures.holds).toBeGreaterThanOrEqual(0.8);
      expect(day.day).toBeLessThan(5);
      for (const { id } of day.stops.flatMap((stop) => stop.duties)) {
        if (day.person === mo.id) expect(must(byId.get(id)).family).toBe("conveyor-oven");
        else expect(must(byId.get(id)).siteId).toBe(site.get("Yard"));
      }
    }
    expect(week.days.some((day) => day.person === mo.id)).toBe(true);

    // One of them is planned by somebody in between: it stays theirs.
    await putOnDay(lead, [must(given[0])], { on: "2026-07-08", personId: lead.id }, monday);
    const assignments = week.days.map(({ person, day, stops }) => ({
      person,
      day,
      duties: stops.flatMap((stop) => stop.duties.map((duty) => duty.id)),
    }));
    const done = await putWeek(lead, from, assignments, monday);
    expect(done).toMatchObject({ put: given.length - 1, meanwhile: 1 });
    const after = await weekView(from, monday);
    expect(after.planned.reduce((sum, cell) => sum + cell.duties, 0)).toBe(given.length - 1);

    // In one press it is as it was.
    await undoWeek(lead, done, monday);
    expect((await weekView(from, monday)).planned).toEqual([]);
    expect((await weekView(from, monday)).open).toBe(open - 1);
  });
});
