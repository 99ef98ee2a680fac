import { must } from "../must";
import { draws } from "../testing/draws";
import {
  dayFigures,
  type DayPlan,
  type DayProblem,
  dayRisk,
  planDay,
  proposeDay,
  suggestChanges,
  whyLeft,
} from "./index";
import { drawnDay } from "./testing/drawn-days";
import { drawnFactors, livedDay } from "./testing/lived-day";

/** Scatter by duty: from hardly any to a third. */
const spread = (job: string): number => 0.1 + 0.06 * ((job.charCodeAt(0) + job.charCodeAt(job.length - 1)) % 5);

/** A drawn day on which most doors stand open, with an end somewhere about its own. */
function livable(seed: number): DayProblem {
  const day = drawnDay(seed, { sites: [2, 5], jobs: 9 });
  const sites = day.sites.map(({ access, ...site }, i) =>
    (seed + i) % 4 === 0 && access ? { ...site, access } : site,
  );
  const free = sites.map((site, i) => ({
    ...site,
    jobs: site.jobs.map(({ windows: _windows, readyBy, ...job }, k) =>
      (seed + i + k) % 5 === 0 && readyBy !== undefined ? { ...job, readyBy: readyBy + 120 } : job,
    ),
  }));
  const ferry = seed % 3 === 0 ? [{ from: 1, to: 0, departures: [540, 600, 640, 700, 760, 850], minutes: 20 }] : [];
  const from = day.startAt + 30 + (seed % 50);
  const breaks = seed % 2 === 0 ? [{ minutes: 15 + (seed % 3) * 10, from, by: from + (seed % 5) * 20 }] : [];
  const problem = { ...day, sites: free, timetables: ferry, breaks };
  return {
    ...problem,
    endBy: planDay({ ...problem, endBy: 3000 }, { nodeLimit: 100 }).endAt + ((seed * 37) % 90) - 15,
  };
}

/** Share of so many lived days on which everything was in time. */
function livedShare(problem: DayProblem, plan: DayPlan, seed: number, days: number): number {
  const draw = drawnFactors(seed);
  let held = 0;
  for (let i = 0; i < days; i++) {
    const factors = new Map(problem.sites.flatMap((site) => site.jobs.map((job) => [job.id, draw(spread(job.id))])));
    if (livedDay(problem, plan, (duty) => must(factors.get(duty)))) held++;
  }
  return held / days;
}

it("shows the chance with which days are lived in time, told by people's own course of them", () => {
  const shown: number[] = [];
  const lived: number[] = [];
  for (let seed = 0; seed < draws(30, 1000); seed++) {
    const problem = livable(seed);
    const plan = planDay(problem, { nodeLimit: 100 });
    const { holds } = dayRisk(problem, plan, spread);
    if (holds < 0.02 || holds > 0.98) continue;
    shown.push(holds);
    lived.push(livedShare(problem, plan, seed, 120));
    // One day alone: 120 lived and 1,000 drawn days are within some ten points.
    expect([seed, Math.abs(must(shown.at(-1)) - must(lived.at(-1))) < 0.15]).toEqual([seed, true]);
  }
  const mean = (list: readonly number[]): number => list.reduce((sum, one) => sum + one, 0) / list.length;
  expect(shown.length).toBeGreaterThan(10);
  expect(Math.abs(mean(shown) - mean(lived))).toBeLessThan(0.03);
  // In each tenth of the chance shown that has days enough to tell.
  for (let tenth = 0; tenth < 10; tenth++) {
    const days = shown.flatMap((share, i) => (Math.min(9, Math.floor(share * 10)) === tenth ? [i] : []));
    if (days.length < 20) continue;
    const apart = mean(days.map((i) => must(shown[i]))) - mean(days.map((i) => must(lived[i])));
    expect([tenth, Math.abs(apart) < 0.05]).toEqual([tenth, true]);
  }
});

describe("a proposed day", () => {
  it("holds as often as is wanted, and is lived so", () => {
    const lived: number[] = [];
    for (let seed = 0; seed < draws(10, 300); seed++) {
      const problem = livable(seed);
      const day = proposeDay(problem, { chance: 0.8, spread, nodeLimit: 100 });
      if (day.jobs.length === 0) continue;
      expect([seed, dayRisk(day.problem, day.plan, spread).holds >= 0.8]).toEqual([seed, true]);
      // Planned by whoever looks at the day it is the same one.
      expect(planDay(day.problem, { nodeLimit: 100 })).toEqual(day.plan);
      lived.push(livedShare(day.problem, day.plan, seed, 80));
    }
    expect(lived.length).toBeGreaterThan(5);
    expect(Math.min(...lived)).toBeGreaterThan(0.62);
    expect(lived.reduce((sum, one) => sum + one, 0) / lived.length).toBeGreaterThan(0.8);
  });

  it("has less on it the surer it has to be, and as much as before when it has not", () => {
    const problem = livable(4);
    const worths = [0, 0.5, 0.8, 0.95].map((chance) => {
      const { jobs } = proposeDay(problem, { chance, spread, nodeLimit: 100 });
      return problem.sites
        .flatMap((site) => site.jobs)
        .reduce((sum, job) => sum + (jobs.includes(job.id) ? must(job.value) : 0), 0);
    });
    expect([...worths].sort((a, b) => b - a)).toEqual(worths);
    expect(proposeDay(problem, { chance: 0, spread, nodeLimit: 100 }).jobs).toEqual(
      proposeDay(problem, { nodeLimit: 100 }).jobs,
    );
  });

  it("takes a duty worth more in the place of one that the estimate took first", () => {
    const job = (id: string, minutes: number, value: number) => ({
      id,
      value,
      phases: [{ kind: "hands" as const, minutes }],
    });
    // Eleven that no day has room for: too many for every choice to be looked at.
    const never = Array.from({ length: 11 }, (_, i) => job(`never ${i}`, 900, 1));
    const problem: DayProblem = {
      startAt: 480,
      endBy: 480 + 110,
      technicians: 1,
      sites: [
        {
          id: "a",
          arriving: 5,
          leaving: 5,
          resources: [],
          jobs: [job("quick", 40, 60), job("worth", 80, 100), ...never],
        },
      ],
      travel: [
        [0, 5],
        [5, 0],
      ],
    };
    expect(proposeDay(problem).jobs).toEqual(["worth"]);
    const left = whyLeft(problem, proposeDay(problem));
    expect(left.find((one) => one.job === "quick")).toEqual({
      site: "a",
      job: "quick",
      because: "room",
      endAt: 480 + 20 + 120,
      holds: null,
    });
    const unsure = { ...problem, endBy: 480 + 145 };
    const options = { chance: 0.9, spread: () => 0.3 };
    const day = proposeDay(unsure, options);
    expect(day.jobs).toEqual(["worth"]);
    const [chance] = whyLeft(unsure, day, options);
    expect(chance).toMatchObject({ job: "quick", because: "chance", endAt: 480 + 20 + 120 });
    expect(must(chance?.holds)).toBeGreaterThan(0.5);
    expect(must(chance?.holds)).toBeLessThan(0.9);
    const shut = { ...problem, sites: problem.sites.map((site) => ({ ...site, access: [] })) };
    expect(new Set(whyLeft(shut, proposeDay(shut)).map((one) => one.because))).toEqual(new Set(["closed"]));
  });

  it("refuses a chance that is none", () => {
    expect(() => proposeDay(livable(1), { chance: 1.2 })).toThrow(/between 0 and 1/);
  });
});

it("a day on which nobody is let in, or whose machine is never free, holds on none", () => {
  const job = { id: "x", phases: [{ kind: "hands" as const, minutes: 20 }] };
  const site = { id: "a", arriving: 5, leaving: 5, resources: [], jobs: [job] };
  const day = (more: object, own: object = {}): DayProblem => ({
    startAt: 480,
    endBy: 960,
    technicians: 1,
    sites: [{ ...site, ...more, jobs: [{ ...job, ...own }] }],
    travel: [
      [0, 5],
      [5, 0],
    ],
  });
  const holds = (problem: DayProblem): number => dayRisk(problem, planDay(problem), () => 0.2).holds;
  expect(holds(day({}))).toBe(1);
  expect(holds(day({ access: [] }))).toBe(0);
  expect(holds(day({}, { windows: [] }))).toBe(0);
  // A quarter of an hour at a time is never enough for twenty minutes, though the last of them is in the evening.
  const short = day(
    {},
    {
      windows: [
        [500, 515],
        [900, 915],
      ],
    },
  );
  expect(holds(short)).toBe(0);
  expect(must(dayRisk(short, planDay(short), () => 0.2).closing[0]).chance).toBeCloseTo(1, 9);
  expect(Number.isFinite(planDay(day({}, { windows: [] })).lateMinutes)).toBe(true);
});

it("a day that is tight says by how little it would hold as often as is wanted", () => {
  const job = (id: string, minutes: number, value: number) => ({
    id,
    value,
    phases: [{ kind: "hands" as const, minutes }],
  });
  const tight: DayProblem = {
    startAt: 480,
    // Two minutes after its end.
    endBy: 480 + 112,
    technicians: 1,
    sites: [{ id: "a", arriving: 5, leaving: 5, resources: [], jobs: [job("long", 60, 9), job("short", 30, 1)] }],
    travel: [
      [0, 5],
      [5, 0],
    ],
  };
  const plan = planDay(tight);
  expect(suggestChanges(tight, plan)).toEqual([]);
  const wanted = { chance: 0.8, spread: () => 0.25 };
  const holds = (problem: DayProblem): number => dayRisk(problem, planDay(problem), wanted.spread).holds;
  expect(holds(tight)).toBeLessThan(0.7);
  const changes = suggestChanges(tight, plan, wanted);
  // Under way what is behind stands in the plan, and in the day no more.
  const behind = { ...must(plan.stops[0]), site: "behind", schedule: { ...must(plan.stops[0]).schedule, phases: [] } };
  expect(suggestChanges(tight, { ...plan, stops: [behind, ...plan.stops] }, wanted)).toEqual(
    changes.map((change) =>
      change.kind === "stay-longer" ? { ...change, plan: expect.objectContaining({ overtime: 0 }) as DayPlan } : change,
    ),
  );
  expect(changes.map((change) => change.kind)).toEqual([
    "stay-longer",
    "leave-out",
    "start-earlier",
    "another-technician",
  ]);
  for (const change of changes) {
    if (change.kind === "stay-longer") {
      expect(holds({ ...tight, endBy: change.endBy })).toBeGreaterThanOrEqual(0.8);
      // 60 and 30 minutes that scatter by a quarter: four days in five are over some quarter of an hour later.
      expect(change.endBy - plan.endAt).toBeLessThanOrEqual(25);
    }
    if (change.kind === "start-earlier")
      expect(holds({ ...tight, startAt: change.startAt })).toBeGreaterThanOrEqual(0.8);
    if (change.kind === "leave-out") expect(change.job).toBe("short");
  }
});

it("figures of a day add up from its start to its end", () => {
  for (let seed = 0; seed < 30; seed++) {
    const problem = livable(seed);
    const plan = planDay(problem, { nodeLimit: 60 });
    const figures = dayFigures(problem, plan, { startAt: problem.startAt, risk: { holds: 1 } });
    expect(problem.startAt + figures.onSite + figures.way + figures.waiting + must(figures.breaks)).toBeCloseTo(
      figures.backAt,
      9,
    );
    expect(figures.onSite + must(figures.breaks)).toBeGreaterThanOrEqual(figures.packed);
    expect(figures.duties).toBe(problem.sites.flatMap((site) => site.jobs).length);
    // Nobody waits where neither doors nor ferries are.
    if (!problem.timetables?.length && problem.sites.every((site) => !site.access))
      expect(figures.waiting).toBeCloseTo(0, 9);
  }
});
