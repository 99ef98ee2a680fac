import { must } from "../must";
import { draws } from "../testing/draws";
import { packVisit } from "../visit/pack-visit";
import { DayDriver } from "./drive-day";
import { type DayBreak, type DayPlan, type DayProblem, planDay } from "./index";
import { leastEnd } from "./least-end";
import { readDayProblem } from "./read-day";
import { drawnDay } from "./testing/drawn-days";
import { visitAt } from "./visit-at";
import { DayWorker } from "./work-day";

const hands = (minutes: number) => ({ kind: "hands" as const, minutes });
const wait = (minutes: number) => ({ kind: "wait" as const, minutes });

/** One site, five minutes away, where arriving and leaving take five. */
const oneSite = (
  jobs: DayProblem["sites"][number]["jobs"],
  breaks: DayBreak[],
  more: Partial<DayProblem> = {},
): DayProblem => ({
  startAt: 480,
  endBy: 1080,
  technicians: 1,
  sites: [{ id: "a", arriving: 5, leaving: 5, resources: [], jobs }],
  travel: [
    [0, 5],
    [5, 0],
  ],
  breaks,
  ...more,
});

const taken = (plan: DayPlan) => must(plan.breaks).map(({ site, from, to }) => [site, from, to]);

it("takes a break in a soak that is long enough, and the day is no longer", () => {
  const job = { id: "x", phases: [hands(60), wait(40), hands(60)] };
  const plan = planDay(oneSite([job], [{ minutes: 30, from: 500, by: 600 }]));
  expect(plan.endAt).toBe(480 + 10 + 160 + 10);
  expect(taken(plan)).toEqual([["a", 550, 580]]);
  expect(must(plan.stops[0]).schedule.phases.map((phase) => phase.job)).toEqual(["x", "x", "x"]);
});

it("a day that is over by then needs none; one minute longer it does", () => {
  const rule = [{ minutes: 30, from: 540, by: 600 }];
  expect(planDay(oneSite([{ id: "x", phases: [hands(100)] }], rule)).endAt).toBe(600);
  const longer = planDay(oneSite([{ id: "x", phases: [hands(101)] }], rule));
  expect(longer.endAt).toBe(631);
});

it("one whose time has passed does not stop work that has begun: it is taken as soon as a soak lets go", () => {
  const soak = { kind: "wait" as const, minutes: 15, maxMinutes: 16 };
  const known = oneSite(
    [
      { id: "x", phases: [soak, hands(6), wait(60), hands(4)] },
      { id: "y", phases: [hands(5)] },
    ],
    [{ minutes: 30, from: 400, by: 470 }],
    { first: "a" },
  );
  const fixed = [{ job: "x", index: 0, start: 478 }];
  const plan = planDay({ ...known, sites: known.sites.map((site) => ({ ...site, fixed })) });
  expect(plan.conflicts).toEqual([]);
  expect(must(plan.stops[0]).schedule.phases.length).toBeGreaterThan(0);
  // The soak is over at 493 at the earliest: half an hour of rest before it would be too long.
  const [rest] = must(plan.breaks);
  expect(must(rest)).toMatchObject({ site: "a" });
  expect(must(rest).from).toBeGreaterThanOrEqual(499);
  expect(plan.endAt).toBe(493 + 6 + 60 + 4 + 5 + 5);
});

it("is taken before one sets off when the next place is reached too late for it", () => {
  const site = (id: string) => ({
    id,
    arriving: 5,
    leaving: 5,
    resources: [],
    jobs: [{ id: `job ${id}`, phases: [hands(50)] }],
  });
  const day: DayProblem = {
    ...oneSite([], [{ minutes: 20, from: 530, by: 560 }]),
    sites: [site("a"), site("b")],
    travel: [
      [0, 5, 60],
      [5, 0, 60],
      [60, 60, 0],
    ],
    order: ["a", "b"],
  };
  const plan = planDay(day);
  // At a until 545; b is not reached before 610.
  expect(taken(plan)).toEqual([[null, 545, 565]]);
  expect(must(plan.stops[1]).arrive).toBe(625);
});

it("costs nothing while a door is shut or a ferry is waited for", () => {
  const job = { id: "x", phases: [hands(50)] };
  const rule = [{ minutes: 30, from: 480, by: 560 }];
  const behindDoor = oneSite([job], rule);
  const [site] = behindDoor.sites;
  const doors = { ...behindDoor, sites: [{ ...must(site), access: [[540, 900] as [number, number]] }] };
  expect(planDay(doors).endAt).toBe(540 + 5 + 50 + 5 + 5);
  expect(taken(planDay(doors))).toEqual([[null, 480, 510]]);
  const ferry = { ...oneSite([job], rule), timetables: [{ from: 0, to: 1, departures: [475, 515], minutes: 20 }] };
  expect(planDay(ferry).endAt).toBe(planDay({ ...ferry, breaks: [] }).endAt);
});

it("two who go together take it together, without anybody's hands in it", () => {
  const jobs = [1, 2, 3].map((n) => ({ id: `job ${n}`, phases: [hands(40), wait(20), hands(30)] }));
  const plan = planDay(oneSite(jobs, [{ minutes: 30, from: 520, by: 560 }], { technicians: 2 }));
  const [rest] = must(plan.breaks);
  for (const phase of must(plan.stops[0]).schedule.phases)
    if (phase.technician !== undefined) expect(phase.end <= must(rest).from || phase.start >= must(rest).to).toBe(true);
});

/** The shortest visit with a break at any minute, each packed to the end; the break belongs to nobody's search. */
function bestBreak(problem: DayProblem, { minutes, from, by }: DayBreak): number {
  const site = must(problem.sites[0]);
  const begin = problem.startAt + must(must(problem.travel[0])[1]) + site.arriving;
  let best = Infinity;
  for (let at = Math.max(begin, from); at <= by; at++) {
    const there: [number, number][] = [
      [0, at - begin],
      [at - begin + minutes, 5000],
    ];
    const visit = visitAt(problem, site, begin, true);
    const packed = packVisit({ ...visit, technicianHours: [there.filter(([a, b]) => b > a)] });
    if (packed.phases.length > 0) best = Math.min(best, begin + packed.makespan);
  }
  return best + site.leaving + must(must(problem.travel[1])[0]);
}

it("lies where a visit is shortest: no minute for it is better", () => {
  let inside = 0;
  for (let seed = 0; seed < draws(15, 300); seed++) {
    const drawn = drawnDay(seed, { sites: [1, 1], jobs: 4 });
    const sites = drawn.sites.map(({ access: _access, ...site }) => ({
      ...site,
      jobs: site.jobs.map(({ windows: _windows, readyBy: _readyBy, ...job }) => job),
    }));
    const from = 495 + (seed % 20);
    const rule = { minutes: 15, from, by: from + 15 };
    const problem = { ...drawn, sites, technicians: 1, breaks: [rule] };
    // Where the visit is over before the break has to begin it is another question.
    if (planDay({ ...problem, breaks: [] }).endAt - drawn.travel.length - 60 <= rule.by) continue;
    const plan = planDay(problem, { nodeLimit: 400 });
    if (must(plan.breaks)[0]?.site !== "s0") continue;
    inside++;
    expect([seed, plan.endAt]).toEqual([seed, bestBreak(problem, rule)]);
  }
  expect(inside).toBeGreaterThan(4);
}, 300_000);

it("begins in its time, in order, with no hands in it, however days are drawn; worked as planned the day ends as planned", () => {
  let seen = 0;
  for (let seed = 0; seed < draws(60, 1000); seed++) {
    const drawn = drawnDay(seed, { sites: [1, 5], jobs: 10 });
    const from = 500 + (seed % 7) * 15;
    const breaks = [
      { minutes: 15, from, by: from + 45 },
      { minutes: 30, from: from + 60, by: from + 150 },
    ].slice(0, 1 + (seed % 2));
    const problem = readDayProblem({ ...drawn, breaks });
    const plan = planDay(problem, { nodeLimit: 60 });
    const rests = must(plan.breaks);
    expect(rests.map((one) => one.index)).toEqual(rests.map((_, i) => i));
    // What is left out was not needed.
    const next = breaks[rests.length];
    if (next) expect([seed, plan.endAt <= next.by]).toEqual([seed, true]);
    rests.forEach((one, i) => {
      seen++;
      const rule = must(breaks[i]);
      expect([seed, one.to - one.from, one.from >= rule.from, one.from <= rule.by]).toEqual([
        seed,
        rule.minutes,
        true,
        true,
      ]);
      for (const stop of plan.stops) {
        if (one.site === null) expect([seed, one.to <= stop.arrive || one.from >= stop.leave]).toEqual([seed, true]);
        for (const phase of stop.schedule.phases)
          if (phase.technician !== undefined)
            expect([seed, phase.end <= one.from || phase.start >= one.to]).toEqual([seed, true]);
      }
    });
    const worker = new DayWorker(problem, plan);
    const { endAt } = worker.work(new Float64Array(worker.duties.length).fill(1));
    // Several who do not wait for each other's break may be over a little sooner, and one whose break's span is told to the
    // quarter hour.
    expect([seed, endAt <= plan.endAt]).toEqual([seed, true]);
    if (problem.technicians === 1) expect([seed, plan.endAt - endAt < 15 * rests.length + 1]).toEqual([seed, true]);
    expect(plan.endAt).toBeGreaterThanOrEqual(leastEnd(problem));
  }
  expect(seen).toBeGreaterThan(40);
});

it("refuses breaks that are none, naming the field", () => {
  const day = (breaks: unknown) => () => planDay(oneSite([], breaks as DayBreak[]));
  expect(day([{ minutes: 0, from: 1, by: 2 }])).toThrow(/breaks\[0\].minutes/);
  expect(day([{ minutes: 30, from: 600, by: 500 }])).toThrow(/by 500/);
  expect(day([{ minutes: 30, from: Number.NaN, by: 500 }])).toThrow(/breaks\[0\].from/);
  expect(day(Array.from({ length: 4 }, () => ({ minutes: 5, from: 500, by: 600 })))).toThrow(/at most 3/);
  expect(
    day([
      { minutes: 5, from: 700, by: 800 },
      { minutes: 5, from: 500, by: 600 },
    ]),
  ).toThrow(/order/);
  expect(() => planDay(oneSite([], null as unknown as DayBreak[]))).not.toThrow();
  expect(new DayDriver(oneSite([], []), 1).drive([]).breaks).toBeUndefined();
});
