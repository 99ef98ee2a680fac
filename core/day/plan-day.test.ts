import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { must } from "../must";
import { uniform } from "../random";
import { checkVisit } from "../visit/index";
import {
  changeInWords,
  clockTime,
  type DayProblem,
  dayRisk,
  type DaySite,
  leastEnd,
  planDay,
  suggestChanges,
} from "./index";

const site = (id: string, minutes: number, more: Partial<DaySite> = {}): DaySite => ({
  id,
  arriving: 5,
  leaving: 5,
  resources: [],
  jobs: [{ id: `${id} job`, phases: [{ kind: "hands", minutes }], value: minutes }],
  ...more,
});
const line = (...at: number[]): number[][] => [0, ...at].map((a) => [0, ...at].map((b) => Math.abs(a - b)));
const day = (sites: DaySite[], travel: number[][], more: Partial<DayProblem> = {}): DayProblem => ({
  startAt: 480,
  endBy: 960,
  technicians: 1,
  sites,
  travel,
  ...more,
});

it("goes round once, counts arriving and leaving, and puts the work at times of the day", () => {
  const plan = planDay(day([site("a", 30), site("b", 20)], line(10, 25)));
  expect(plan).toMatchObject({ travelMinutes: 50, lateMinutes: 0, overtime: 0, endAt: 480 + 50 + 70, conflicts: [] });
  expect(plan.stops[0]).toMatchObject({ site: "a", arrive: 490, begin: 495, leave: 530 });
  expect(must(plan.stops[0]).schedule.phases[0]).toMatchObject({ start: 495, end: 525, technician: 0 });
});

it("comes when it is let in, even the long way round", () => {
  const sites = [site("near", 30), site("school", 60, { access: [[480, 570]] }), site("far", 30)];
  const plan = planDay(day(sites, line(5, 20, 60)));
  expect(plan).toMatchObject({ lateMinutes: 0, conflicts: [] });
  // Near first would end the school's work after 9:30, after it has closed.
  expect(must(plan.stops[0]).site).toBe("school");
});

it("lets a machine's own hours decide the order of the sites", () => {
  const oven = site("café", 20);
  must(oven.jobs[0]).windows = [[540, 600]];
  const plan = planDay(day([oven, site("yard", 60)], line(10, 12)));
  expect(plan.stops.map((stop) => stop.site)).toEqual(["yard", "café"]);
  expect(plan.lateMinutes).toBe(0);
});

it("keeps an order chosen by hand, and says what it costs", () => {
  const sites = [site("a", 10), site("b", 10)];
  const free = planDay(day(sites, line(10, 20)));
  const byHand = planDay(day(sites, line(10, 20), { order: ["b", "a"] }));
  expect(byHand.stops.map((stop) => stop.site)).toEqual(["b", "a"]);
  expect(byHand.endAt).toBeGreaterThanOrEqual(free.endAt);
  expect(() => planDay(day(sites, line(10, 20), { order: ["b"] }))).toThrow(/every site once/);
});

it("goes on from where one stands, with a soak that is already running", () => {
  const here = site("here", 0, {
    jobs: [
      {
        id: "soak",
        phases: [
          { kind: "wait", minutes: 15, maxMinutes: 20 },
          { kind: "hands", minutes: 5 },
        ],
      },
      { id: "other", phases: [{ kind: "hands", minutes: 8 }] },
    ],
    fixed: [{ job: "soak", index: 0, start: 590 }],
  });
  const plan = planDay(day([here, site("next", 10)], line(15, 20), { startAt: 600, first: "here" }));
  expect(plan.stops[0]).toMatchObject({ site: "here", arrive: 600, begin: 600, late: 0 });
  const back = must(must(plan.stops[0]).schedule.phases.find((phase) => phase.job === "soak" && phase.index === 1));
  expect(back.start).toBeGreaterThanOrEqual(605);
  expect(back.start).toBeLessThanOrEqual(610);
});

it("waits for the ferry", () => {
  const plan = planDay(
    day([site("island", 60)], line(20), {
      timetables: [
        { from: 0, to: 1, departures: [510], minutes: 25 },
        { from: 1, to: 0, departures: [600, 660, 900], minutes: 25 },
      ],
    }),
  );
  expect(plan).toMatchObject({ endAt: 660 + 25, travelMinutes: 50 });
});

describe("a day that cannot be", () => {
  const sites = [site("school", 80, { access: [[480, 540]] }), site("yard", 30)];
  const problem = day(sites, line(10, 20));

  it("says what collides, with the times of the day", () => {
    const plan = planDay(problem);
    expect(plan.lateMinutes).toBeGreaterThan(0);
    expect(plan.conflicts.join(" ")).toContain("school job");
    expect(plan.conflicts.join(" ")).toContain("09:00");
  });

  it("offers the smallest change of each kind that makes it possible, and each of them does", () => {
    const changes = suggestChanges(problem, planDay(problem));
    expect(changes.map((change) => change.kind)).toEqual(["leave-out"]);
    expect(changes[0]).toMatchObject({ job: "school job", site: "school", plan: { lateMinutes: 0, overtime: 0 } });
    expect(changeInWords(must(changes[0]), { job: () => "Oven", site: () => "School" })).toMatch(
      /^Leave out Oven at School: back at 09:/,
    );
  });

  it("offers more people, an earlier start or a later end where they help", () => {
    const two: DaySite = site("school", 40, { access: [[480, 550]] });
    two.jobs.push({ id: "second", phases: [{ kind: "hands", minutes: 40 }], value: 90 });
    const crowded = day([two], line(10), { startAt: 470 });
    const changes = suggestChanges(crowded, planDay(crowded));
    expect(changes.map((change) => change.kind)).toEqual(["leave-out", "another-technician"]);
    const long = day([site("a", 300), site("b", 300)], line(10, 20));
    const later = suggestChanges(long, planDay(long));
    expect(later.map((change) => change.kind)).toEqual(["stay-longer", "leave-out", "start-earlier"]);
    expect(later.find((change) => change.kind === "leave-out")).toMatchObject({ plan: { overtime: 0 } });
    must(must(long.sites[0]).jobs[0]).pinned = true;
    must(must(long.sites[1]).jobs[0]).pinned = true;
    expect(suggestChanges(long, planDay(long)).map((change) => change.kind)).toEqual(["stay-longer", "start-earlier"]);
    expect(suggestChanges(long, { ...planDay(long), overtime: 0, lateMinutes: 0 })).toEqual([]);
  });
});

it("has an end that nothing can be before", () => {
  const sites = [site("a", 60), site("b", 45, { access: [[600, 900]] })];
  for (const technicians of [1, 2]) {
    const problem = day(sites, line(10, 25), { technicians });
    expect(leastEnd(problem)).toBeLessThanOrEqual(planDay(problem).endAt);
  }
  // One site: the bound is the day itself, with a soak that must be sat out and doors that open late.
  const one = day([site("a", 60)], line(10));
  expect(leastEnd(one)).toBe(planDay(one).endAt);
  const soaking = day(
    [
      {
        ...site("a", 0, { access: [[600, 900]] }),
        jobs: [
          {
            id: "soak",
            phases: [
              { kind: "hands", minutes: 5 },
              { kind: "wait", minutes: 40 },
              { kind: "hands", minutes: 5 },
            ],
          },
        ],
      },
    ],
    line(10),
  );
  expect(leastEnd(soaking)).toBe(600 + 5 + 50 + 5 + 10);
  expect(planDay(soaking).endAt).toBe(leastEnd(soaking));
  expect(leastEnd(day([], [[0]]))).toBe(480);
});

it("has that end on any day", () => {
  const random = uniform(xoroshiro128plus(7));
  const whole = (below: number): number => Math.floor(random() * below);
  for (let n = 0; n < 60; n++) {
    const sites = Array.from({ length: 1 + whole(4) }, (_, i) => {
      const open = 400 + whole(300);
      const jobs = Array.from({ length: 1 + whole(3) }, (_unused, k) => ({
        id: `${i} ${k}`,
        phases: [
          { kind: "hands" as const, minutes: whole(40) },
          { kind: "wait" as const, minutes: whole(30) },
          { kind: "hands" as const, minutes: whole(20) },
        ],
      }));
      return site(String(i), 0, { jobs, ...(random() < 0.5 ? { access: [[open, open + 200 + whole(300)]] } : {}) });
    });
    const size = sites.length + 1;
    const travel = Array.from({ length: size }, (_, a) =>
      Array.from({ length: size }, (_unused, b) => (a === b ? 0 : whole(60))),
    );
    const timetables = random() < 0.3 ? [{ from: 0, to: 1, departures: [500, 560, 620, 700, 800], minutes: 15 }] : [];
    const problem = day(sites, travel, { timetables, technicians: 1 + whole(2) });
    expect(leastEnd(problem)).toBeLessThanOrEqual(planDay(problem, { nodeLimit: 100 }).endAt);
  }
});

describe("the risk", () => {
  it("is none without scatter, and about even for work that just fits", () => {
    const tight = day([site("school", 60, { access: [[480, 555]] })], line(10), { endBy: 575 });
    const plan = planDay(tight);
    expect(plan.lateMinutes).toBe(0);
    expect(dayRisk(tight, plan, () => 0)).toMatchObject({ overtime: 0, closing: [{ chance: 0 }] });
    const risk = dayRisk(tight, plan, () => 0.3);
    expect(must(risk.closing[0]).chance).toBeGreaterThan(0.4);
    expect(must(risk.closing[0]).chance).toBeLessThan(0.6);
    expect(risk.endBy90).toBeGreaterThan(plan.endAt);
    expect(dayRisk(tight, plan, () => 0.3)).toEqual(risk);
  });

  // The median of a lognormal is its planned value; its 90 % quantile is exp(1.2816 σ) times that.
  it("agrees with the distribution it draws from", () => {
    const one = day([site("a", 100)], line(0));
    const plan = planDay(one);
    const { endBy90 } = dayRisk(one, plan, () => 0.25);
    expect(Math.abs(endBy90 - (plan.endAt - 100 + 100 * Math.exp(1.2816 * 0.25)))).toBeLessThan(8);
  });
});

it("packs every visit by the rules, whatever it comes to", () => {
  const shared = site("lab", 0, {
    resources: [{ id: "sink", capacity: 1 }],
    jobs: ["x", "y", "z"].map((id) => ({
      id,
      phases: [
        { kind: "hands", minutes: 5, uses: ["sink"] },
        { kind: "wait", minutes: 15, maxMinutes: 20, uses: ["sink"] },
        { kind: "hands", minutes: 5 },
      ],
    })),
  });
  const problem = day([shared], line(10));
  const plan = planDay(problem);
  const { schedule } = must(plan.stops[0]);
  const jobs = shared.jobs.map((job) => ({ ...job, release: must(plan.stops[0]).begin }));
  expect(
    checkVisit(
      { technicians: 1, jobs, resources: shared.resources },
      { ...schedule, makespan: schedule.makespan + 495, lowerBound: 0, status: "feasible" },
    ),
  ).toEqual([]);
  expect(must(plan.stops[0]).oneByOne).toBe(75);
  expect(clockTime(1501)).toBe("01:01");
});
