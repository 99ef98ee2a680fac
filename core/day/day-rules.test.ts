/** The rules of a day in hand-worked cases: minutes of the day, 480 is eight o'clock. */
import { must } from "../must";
import {
  changeInWords,
  clockTime,
  type DayJob,
  type DayPlan,
  type DayProblem,
  dayRisk,
  type DaySite,
  leastEnd,
  planDay,
  proposeDay,
} from "./index";
import { compareDays } from "./order-sites";
import { keepJobs, leaveOut } from "./suggest-changes";

const hands = (minutes: number) => ({ kind: "hands" as const, minutes });
const wait = (minutes: number, maxMinutes?: number) => ({
  kind: "wait" as const,
  minutes,
  ...(maxMinutes === undefined ? {} : { maxMinutes }),
});
const job = (id: string, phases: DayJob["phases"], more: Partial<DayJob> = {}): DayJob => ({ id, phases, ...more });
const site = (id: string, jobs: DayJob[], more: Partial<DaySite> = {}): DaySite => ({
  id,
  arriving: 5,
  leaving: 10,
  resources: [],
  jobs,
  ...more,
});
/** Everything `way` minutes from everything. */
const day = (sites: DaySite[], more: Partial<DayProblem> = {}, way = 20): DayProblem => ({
  startAt: 480,
  endBy: 960,
  technicians: 1,
  sites,
  travel: [0, ...sites].map((_, a) => [0, ...sites].map((__, b) => (a === b ? 0 : way))),
  ...more,
});

describe("how late a day is", () => {
  const late = (one: Partial<DayJob>, place: Partial<DaySite> = {}): number =>
    planDay(day([site("a", [job("x", [hands(60)], one)], place)])).lateMinutes;

  it("is nothing when the work ends as the site closes, the machine's hours end, or it has to be ready", () => {
    // Arrive 500, begin 505, end 565.
    for (const at of [565, 566]) {
      expect(late({ readyBy: at })).toBe(0);
      expect(late({ windows: [[480, at]] })).toBe(0);
      expect(late({}, { access: [[480, at]] })).toBe(0);
    }
  });

  it("is counted from the first of them that passes", () => {
    expect(late({ readyBy: 555 })).toBe(10);
    expect(late({ windows: [[480, 560]] })).toBe(5);
    expect(late({}, { access: [[480, 545]] })).toBe(20);
    expect(late({ readyBy: 564, windows: [[480, 560]] }, { access: [[480, 550]] })).toBe(15);
  });

  it("goes by the last of several hours, and is a minute at least where they only do not fit", () => {
    const split: [number, number][] = [
      [480, 530],
      [600, 640],
    ];
    expect(late({ windows: split })).toBe(1);
    expect(
      late(
        {},
        {
          access: [
            [480, 520],
            [540, 560],
          ],
        },
      ),
    ).toBe(5);
  });

  it("adds up over sites, and its sentences name the times", () => {
    const sites = [
      site("a", [job("x", [hands(60)], { readyBy: 555 })]),
      site("b", [job("y", [hands(30)], { readyBy: 600 })]),
    ];
    const plan = planDay(day(sites, { order: ["a", "b"] }));
    // a: 505–565, leave 575; b: arrive 595, begin 600, end 630.
    expect(plan).toMatchObject({ lateMinutes: 10 + 30, endAt: 660 });
    expect(plan.stops.map((stop) => [stop.site, stop.late])).toEqual([
      ["a", 10],
      ["b", 30],
    ]);
    expect(plan.conflicts).toEqual([
      "x can end at 09:25 at the earliest, after its deadline 09:15.",
      "y can end at 10:30 at the earliest, after its deadline 10:00.",
    ]);
  });

  it("comes before the end of the day, and that before the way", () => {
    const plan = (lateMinutes: number, endAt: number, travelMinutes: number) =>
      ({ lateMinutes, endAt, travelMinutes }) as DayPlan;
    expect(compareDays(plan(0, 900, 99), plan(1, 600, 10))).toBeLessThan(0);
    expect(compareDays(plan(0, 600, 99), plan(0, 601, 10))).toBeLessThan(0);
    expect(compareDays(plan(0, 600, 10), plan(0, 600, 11))).toBeLessThan(0);
    expect(compareDays(plan(0, 600, 10), plan(0, 600, 10))).toBe(0);
  });
});

describe("a stop", () => {
  it("waits at the door, and works on where one stands without a way and without arriving", () => {
    const shut = site("a", [job("x", [hands(30)])], { access: [[540, 700]] });
    const plan = planDay(day([shut]));
    expect(plan.stops[0]).toMatchObject({ arrive: 500, begin: 545, leave: 585 });
    expect(plan.endAt).toBe(605);
    const there = planDay(day([shut], { first: "a", startAt: 560 }));
    expect(there.stops[0]).toMatchObject({ arrive: 560, begin: 560, leave: 600 });
    expect(there.travelMinutes).toBe(20);
  });

  it("says what the same work takes one machine after the other", () => {
    const plan = planDay(day([site("a", [job("x", [hands(5), wait(30), hands(5)]), job("y", [hands(25)])])]));
    const stop = must(plan.stops[0]);
    expect([stop.oneByOne, stop.schedule.makespan]).toEqual([65, 40]);
  });

  it("of nothing is a day of nothing", () => {
    expect(planDay(day([]))).toEqual({
      stops: [],
      travelMinutes: 0,
      lateMinutes: 0,
      endAt: 480,
      overtime: 0,
      conflicts: [],
    });
    expect(leastEnd(day([]))).toBe(480);
  });
});

describe("a malformed day", () => {
  const two = [site("a", [job("x", [hands(5)])]), site("b", [job("y", [hands(5)])])];
  it.each<[Partial<DayProblem>, string, RegExp]>([
    [{ startAt: -1 }, "startAt", /startAt/],
    [{ endBy: NaN }, "endBy", /endBy/],
    [{ order: ["a", "c"] }, "order", /no site c on this day/],
    [{ first: "c" }, "order", /no site c on this day/],
    [{ order: ["a", "a"] }, "order", /names every site once/],
    [{ order: ["a"] }, "order", /names every site once/],
  ])("%j is refused", (more, path, words) => {
    let caught: unknown;
    try {
      planDay(day(two, more));
    } catch (error) {
      caught = error;
    }
    expect(caught).toMatchObject({ path, message: expect.stringMatching(words) as string });
  });
});

describe("an end that nothing can be before", () => {
  it("is the work, the cheapest ways and the doors, all in turn", () => {
    const sites = [site("a", [job("x", [hands(60)])]), site("b", [job("y", [hands(30)])])];
    // 20 + 5 + 60 + 10 + 20 + 5 + 30 + 10 + 20
    expect(leastEnd(day(sites))).toBe(480 + 180);
    expect(planDay(day(sites)).endAt).toBe(480 + 180);
  });

  it("is one site that opens late, and the way home from it", () => {
    const sites = [
      site("a", [job("x", [hands(60)])], {
        access: [
          [300, 400],
          [700, 900],
        ],
      }),
    ];
    expect(leastEnd(day(sites))).toBe(700 + 5 + 60 + 10 + 20);
  });

  it("knows that where one stands costs no way and no arriving, whatever its doors say", () => {
    const sites = [site("a", [job("x", [hands(60)])], { access: [[700, 900]] })];
    expect(leastEnd(day(sites, { first: "a" }))).toBe(480 + 60 + 10 + 20);
  });

  it("takes waits between the hands, but not one that goes on when all have left; begun work by its hands alone", () => {
    const soaking = (phases: DayJob["phases"], more: Partial<DaySite> = {}) =>
      leastEnd(day([site("a", [job("x", phases)], more)])) - 480 - 20 - 5 - 10 - 20;
    expect(soaking([hands(5), wait(30), hands(5)])).toBe(40);
    expect(soaking([hands(5), wait(30), hands(5), wait(600)])).toBe(40);
    expect(soaking([hands(5), wait(30), hands(5)], { fixed: [{ job: "x", index: 0, start: 470 }] as never })).toBe(10);
  });

  it("shares hands among people", () => {
    const sites = [site("a", [job("x", [hands(60)]), job("y", [hands(60)])])];
    expect(leastEnd(day(sites, { technicians: 2 }))).toBe(480 + 20 + 5 + 60 + 10 + 20);
    expect(leastEnd(day(sites, { technicians: 1 }))).toBe(480 + 20 + 5 + 120 + 10 + 20);
  });
});

describe("a day with some of its duties", () => {
  const sites = [
    site("a", [job("x", [hands(5)]), job("same", [hands(5)])]),
    site("b", [job("same", [hands(5)])], { fixed: [{ job: "same", index: 0, start: 1 }] as never }),
    site("c", [job("z", [hands(5)])]),
  ];
  const whole: DayProblem = {
    ...day(sites, { first: "b", order: ["b", "a", "c"] }),
    travel: [
      [0, 1, 2, 3],
      [10, 11, 12, 13],
      [20, 21, 22, 23],
      [30, 31, 32, 33],
    ],
    timetables: [
      { from: 0, to: 3, departures: [500], minutes: 9 },
      { from: 2, to: 3, departures: [510], minutes: 9 },
      { from: 3, to: 0, departures: [520], minutes: 9 },
    ] as never,
  };

  it("loses sites without work, with their ways, ferries and places in the order", () => {
    const left = leaveOut(whole, "b", "same");
    expect(left.sites.map((one) => one.id)).toEqual(["a", "c"]);
    expect(left.travel).toEqual([
      [0, 1, 3],
      [10, 11, 13],
      [30, 31, 33],
    ]);
    expect(left.timetables?.map(({ from, to }) => [from, to])).toEqual([
      [0, 2],
      [2, 0],
    ]);
    expect(left.order).toEqual(["a", "c"]);
    expect(left).not.toHaveProperty("first");
  });

  it("keeps a duty of the same name at another site, and what has begun there", () => {
    const left = leaveOut(whole, "a", "same");
    expect(left.sites.map((one) => one.jobs.map(({ id }) => id))).toEqual([["x"], ["same"], ["z"]]);
    expect(left.first).toBe("b");
    expect(left.sites[1]?.fixed).toHaveLength(1);
    expect(left.timetables).toHaveLength(3);
    expect(keepJobs(whole, () => true)).toMatchObject({ first: "b", order: ["b", "a", "c"] });
    // The day it was made of is as it was.
    expect(whole.sites[0]?.jobs).toHaveLength(2);
  });
});

describe("changes in words", () => {
  const plan = { endAt: 965 } as DayPlan;
  const name = { job: (id: string) => `“${id}”`, site: (id: string) => id.toUpperCase() };
  it.each<[Parameters<typeof changeInWords>[0], string]>([
    [{ kind: "leave-out", job: "x", site: "a", plan }, "Leave out “x” at A: back at 16:05."],
    [{ kind: "start-earlier", startAt: 405, plan }, "Start at 06:45: back at 16:05."],
    [{ kind: "stay-longer", endBy: 1020, plan }, "Be back at 17:00 instead."],
    [{ kind: "another-technician", technicians: 2, plan }, "Go with 2 technicians: back at 16:05."],
  ])("%j", (change, words) => {
    expect(changeInWords(change, name)).toBe(words);
  });

  it("tell times of the day, and of the night after it", () => {
    expect([0, 5, 719, 1439].map(clockTime)).toEqual(["00:00", "00:05", "11:59", "23:59"]);
  });
});

describe("the risk of a day", () => {
  it("lets slack on the way swallow what a longer stop before it takes", () => {
    // The second site opens at noon: a first job of an hour has two hours of slack.
    const sites = [site("a", [job("x", [hands(60)])]), site("b", [job("y", [hands(30)])], { access: [[720, 800]] })];
    const problem = day(sites, { order: ["a", "b"] });
    const plan = planDay(problem);
    const risk = dayRisk(problem, plan, (id) => (id === "x" ? 0.2 : 0));
    // Begin 725, end 755, leave 765, back 785: whatever x took.
    expect(risk).toMatchObject({ overtime: 0, endBy90: 785 });
    expect(risk.closing.map((one) => one.chance)).toEqual([0, 0]);
    // Without the door it moves the end.
    const open = day([must(sites[0]), site("b", [job("y", [hands(30)])])], { order: ["a", "b"] });
    expect(dayRisk(open, planDay(open), (id) => (id === "x" ? 0.2 : 0)).endBy90).toBeGreaterThan(
      planDay(open).endAt + 5,
    );
  });

  it("sees a longest wait exceeded when the hands are held up elsewhere, and never without one", () => {
    const soak = (most?: number) => [job("x", [hands(5), wait(30, most), hands(5)]), job("y", [hands(28)])];
    const chance = (most?: number) => {
      const problem = day([site("a", soak(most))]);
      return must(dayRisk(problem, planDay(problem), (id) => (id === "y" ? 0.3 : 0)).soaks[0]).chance;
    };
    // y has 30 of its 28 minutes: it is over 31 in three days of eight, P(ln f > ln(31 / 28)) = 0.37.
    expect(chance(31)).toBeGreaterThan(0.28);
    expect(chance(31)).toBeLessThan(0.46);
    expect(chance(300)).toBe(0);
    expect(chance()).toBe(0);
  });

  it("counts what is over after its hours, by how much on average", () => {
    const problem = day([site("a", [job("x", [hands(60)], { readyBy: 565 })])]);
    const risk = dayRisk(problem, planDay(problem), () => 0.2);
    expect(must(risk.closing[0]).chance).toBeGreaterThan(0.4);
    expect(must(risk.closing[0]).chance).toBeLessThan(0.6);
    // The mean of 60 (f − 1) above zero for a lognormal f of 0.2 is 5.8 minutes; from 400 draws.
    expect(must(risk.closing[0]).late).toBeGreaterThan(4);
    expect(must(risk.closing[0]).late).toBeLessThan(8);
    expect(risk.soaks).toEqual([{ site: "a", chance: 0 }]);
  });
});

describe("a proposal", () => {
  it("fills the day to its last minute, and not beyond", () => {
    // 20 + 5 + 60 + 10 + 20.
    const problem = day([site("a", [job("x", [hands(60)], { value: 1 })])]);
    expect(proposeDay({ ...problem, endBy: 595 }).jobs).toEqual(["x"]);
    expect(proposeDay({ ...problem, endBy: 594 }).jobs).toEqual([]);
  });
});
