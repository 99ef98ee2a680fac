import { addDays, dayFigures, must } from "@core";
import { type BreakRule, getDb } from "@db";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { v7 as uuidv7 } from "uuid";

import { minutesOf } from "~/kit/days/day-time";
import { firmDay } from "~/kit/days/firm-day.server";
import { searches } from "~/kit/server/searches";
import { changeChance } from "~/round/chance.server";
import { notBefore, SERVER_STEPS } from "~/round/day/day.server";
import { buildDay } from "~/round/day/day-problem.server";
import { findDay, freshDay } from "~/round/day/day-row.server";
import { putOnDay } from "~/round/day/put-on-day.server";
import { spreadsOf } from "~/round/day/spreads";
import { closeDatabase } from "~/testing/database";
import { beginRound, kim, lead, mo, site } from "~/testing/round";

import { uniform } from "../../../core/random";
import { draws } from "../../../core/testing/draws";
import { proposeWeek } from "./propose-week.server";
import { changeWorker } from "./week.server";

beforeAll(beginRound);
afterAll(closeDatabase);

const HOURS = ["06:30", "07:00", "07:30", "08:00"] as const;
const ENDS = ["13:00", "15:00", "16:00", "17:30"] as const;
const MIDDAY = { minutes: 30, from: 180, by: 300 };
const BREAKS: BreakRule[][] = [[], [MIDDAY], [MIDDAY, { minutes: 15, from: 360, by: 450 }]];

/** What may stand in a proposal, told apart from how it is made: the day as its own page plans it. */
async function asItsPageHasIt(personId: string, on: string, duties: string[], now: Date) {
  const [person] = await getDb().models.Person.findAll({ where: { id: personId }, raw: true });
  const row = (await findDay(personId, on)) ?? freshDay(personId, on, must(person));
  const { problem, duties: known } = await buildDay(notBefore(row, await firmDay(now), now), [], null, duties);
  const spread = spreadsOf(known);
  const { plan, risk } = searches.planDay(problem, SERVER_STEPS, spread);
  return { plan, figures: dayFigures(problem, plan, { startAt: problem.startAt, risk }), end: row.endMinute };
}

it("proposes weeks whose every day holds when its own page plans it, with the same figures", async () => {
  const seen = { days: 0, left: 0, today: 0 };
  for (let week = 0; week < draws(5, 300); week++) {
    const random = uniform(xoroshiro128plus(week * 7919 + 1));
    const whole = (from: number, to: number): number => from + Math.floor(random() * (to - from + 1));
    const one = <Item>(list: readonly Item[]): Item => must(list[whole(0, list.length - 1)]);
    const from = addDays("2026-06-15", whole(0, 30));
    const now = new Date(`${from}T${String(whole(4, 16)).padStart(2, "0")}:${one(["00", "12", "47"])}:00Z`);
    const chance = one([0.5, 0.8, 0.9]);
    await changeChance(lead, chance, now);
    for (const person of [mo, kim])
      await changeWorker(
        lead,
        person.id,
        {
          dayFrom: one(HOURS),
          dayTo: one(ENDS),
          breaks: one(BREAKS),
          families: [],
          territory: random() < 0.2 ? [must(site.get("Yard"))] : [],
        },
        now,
      );
    const all = await getDb().select<{ id: string }>("SELECT id FROM duties WHERE active = 1 AND who <> 'operator'");
    for (const { id } of all)
      await getDb().models.Duty.update(
        { plannedOn: null, plannedFor: null, pinned: false, dueOn: addDays(from, whole(-20, 12)) },
        { where: { id } },
      );
    await getDb().models.SiteClosure.destroy({ where: {} });
    const shut = addDays(from, whole(0, 6));
    const shutSite = one([...site.values()]);
    await getDb().models.SiteClosure.create({
      id: uuidv7(),
      siteId: shutSite,
      fromOn: shut,
      toOn: shut,
      reason: "",
      byPerson: lead.id,
      loggedAt: now,
    });
    if (random() < 0.5)
      await putOnDay(lead, [one(all).id], { on: addDays(from, whole(0, 4)), personId: one([mo, kim]).id }, now);

    const proposal = await proposeWeek(from, now);
    const given = proposal.days.flatMap((day) => day.stops.flatMap((stop) => stop.duties.map((duty) => duty.id)));
    expect(new Set(given).size).toBe(given.length);
    expect(given.length + proposal.left.length).toBe(proposal.considered);
    seen.left += proposal.left.length;
    for (const day of proposal.days) {
      seen.days++;
      const duties = day.stops.flatMap((stop) => stop.duties.map((duty) => duty.id));
      if (day.on === shut) expect(day.stops.map((stop) => stop.site)).not.toContain(shutSite);
      const { plan, figures, end } = await asItsPageHasIt(day.person, day.on, duties, now);
      expect([week, day.on, figures]).toEqual([week, day.on, day.figures]);
      expect([week, plan.lateMinutes, plan.overtime]).toEqual([week, 0, 0]);
      expect(figures.backAt).toBeLessThanOrEqual(end);
      expect(figures.holds).toBeGreaterThanOrEqual(chance);
      if (day.day > 0) continue;
      // Nothing in hours that have passed: the firm's clock is an hour or two behind or ahead, never a day.
      seen.today++;
      const begins = Math.min(...plan.stops.map((stop) => stop.arrive));
      expect(begins).toBeGreaterThanOrEqual(minutesOf(now.toISOString().slice(11, 16)) - 120);
    }
  }
  expect(seen.days).toBeGreaterThan(draws(5, 300));
  expect(seen.today).toBeGreaterThan(0);
}, 300_000);
