import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { must } from "../must";
import { uniform } from "../random";
import { assignWeek } from "./assign-week";
import type { WeekDuty, WeekPlan, WeekProblem } from "./types";

const duty = (id: string, site: string, more: Partial<WeekDuty> = {}): WeekDuty => ({
  id,
  site,
  hands: 60,
  longest: 60,
  value: 100,
  due: 4,
  people: null,
  ...more,
});
const week = (more: Partial<WeekProblem> = {}): WeekProblem => ({
  days: 2,
  people: [
    { id: "ann", minutes: [300, 300], sites: null },
    { id: "ben", minutes: [300, 0], sites: null },
  ],
  sites: ["x", "y"].map((id) => ({ id, overhead: 10, open: [600, 600] })),
  duties: [],
  travel: [
    [0, 20, 30],
    [20, 0, 15],
    [30, 15, 0],
  ],
  ...more,
});

/** Every rule of a plan, checked from outside. */
function faults(problem: WeekProblem, plan: WeekPlan): string[] {
  const found: string[] = [];
  const done = plan.routes.flatMap((route) => route.stops.flatMap((stop) => stop.duties));
  if (
    new Set([...done, ...plan.left]).size !== problem.duties.length ||
    done.length + plan.left.length !== problem.duties.length
  )
    found.push("a duty is lost or doubled");
  for (const route of plan.routes) {
    const person = must(problem.people.find((one) => one.id === route.person));
    if (route.minutes > must(person.minutes[route.day])) found.push(`${route.person} works longer than there`);
    for (const stop of route.stops) {
      const site = must(problem.sites.find((one) => one.id === stop.site));
      if (person.sites && !person.sites.includes(stop.site)) found.push("another territory");
      const own = stop.duties.map((id) => must(problem.duties.find((one) => one.id === id)));
      if (own.some((one) => one.site !== stop.site || (one.people && !one.people.includes(route.person))))
        found.push("not theirs to do");
      if (
        Math.max(
          own.reduce((sum, one) => sum + one.hands, 0),
          ...own.map((one) => one.longest),
        ) > must(site.open[route.day])
      )
        found.push("longer than the site is open");
    }
  }
  return found;
}

it("does what lies together in one go", () => {
  const problem = week({ duties: [duty("a", "x"), duty("b", "x"), duty("c", "y")] });
  const plan = assignWeek(problem, { nodeLimit: 300 });
  expect(faults(problem, plan)).toEqual([]);
  expect(plan).toMatchObject({ left: [], cost: 20 + 15 + 30 + 20 });
  expect(plan.routes).toHaveLength(1);
});

it("gives work to who may do it, where, and when the site is open", () => {
  const problem = week({
    people: [
      { id: "ann", minutes: [300, 300], sites: ["y"] },
      { id: "ben", minutes: [300, 300], sites: null },
    ],
    sites: [
      { id: "x", overhead: 10, open: [0, 600] },
      { id: "y", overhead: 10, open: [600, 600] },
    ],
    duties: [duty("a", "x"), duty("b", "y", { people: ["ann"] }), duty("c", "x", { people: ["nobody"] })],
  });
  const plan = assignWeek(problem, { nodeLimit: 300 });
  expect(faults(problem, plan)).toEqual([]);
  expect(plan.left).toEqual(["c"]);
  expect(plan.routes.find((route) => route.stops.some((stop) => stop.site === "x"))).toMatchObject({
    person: "ben",
    day: 1,
  });
});

it("leaves what is worth least when the hours are short, and does late work first", () => {
  const problem = week({
    people: [{ id: "ann", minutes: [170, 170], sites: null }],
    duties: [
      duty("late", "x", { due: -3, value: 400 }),
      duty("soon", "x", { due: 0, value: 200 }),
      duty("next", "y", { value: 100 }),
      duty("small", "y", { value: 1 }),
      duty("other", "x", { value: 90 }),
    ],
  });
  const plan = assignWeek(problem, { nodeLimit: 2000 });
  expect(faults(problem, plan)).toEqual([]);
  expect(plan.left).toContain("small");
  const first = must(plan.routes.find((route) => route.day === 0));
  expect(first.stops.flatMap((stop) => stop.duties).sort()).toEqual(["late", "soon"]);
});

it("keeps every rule and its bound on random weeks, and is the same for the same seed", () => {
  for (let seed = 0; seed < 40; seed++) {
    const random = uniform(xoroshiro128plus(seed));
    const whole = (most: number): number => Math.floor(random() * (most + 1));
    const sites = Array.from({ length: 1 + whole(8) }, (_, i) => ({
      id: `s${i}`,
      overhead: whole(15),
      open: [whole(500), whole(500), 480],
    }));
    const at = [0, ...sites].map(() => [whole(60), whole(60)] as const);
    const problem: WeekProblem = {
      days: 3,
      people: Array.from({ length: 1 + whole(3) }, (_, i) => ({
        id: `p${i}`,
        minutes: [whole(500), whole(500), 400],
        sites: whole(3) === 0 ? sites.filter(() => whole(1) === 0).map((site) => site.id) : null,
      })),
      sites,
      duties: Array.from({ length: whole(40) }, (_, i) =>
        duty(`d${i}`, must(sites[whole(sites.length - 1)]).id, {
          hands: 5 + whole(60),
          longest: 5 + whole(120),
          value: 1 + whole(300),
          due: whole(6) - 3,
          people: whole(3) === 0 ? ["p0"] : null,
        }),
      ),
      travel: at.map((a) => at.map((b) => Math.round(Math.hypot(a[0] - b[0], a[1] - b[1])))),
    };
    const plan = assignWeek(problem, { nodeLimit: 60, seed });
    expect({ seed, faults: faults(problem, plan) }).toEqual({ seed, faults: [] });
    expect(plan.cost).toBeGreaterThanOrEqual(plan.bound - 1e-6);
    expect(assignWeek(problem, { nodeLimit: 60, seed })).toEqual(plan);
  }
});

it("refuses a week that is malformed", () => {
  expect(() => assignWeek(week({ travel: [[0]] }))).toThrow(expect.objectContaining({ path: "travel" }) as Error);
  expect(() => assignWeek(week({ duties: [duty("a", "nowhere")] }))).toThrow(/no site nowhere/);
  expect(() => assignWeek(week({ people: [{ id: "ann", minutes: [1], sites: null }] }))).toThrow(/each of the 2 days/);
});

describe("late work", () => {
  const one = (due: number): WeekProblem =>
    week({
      people: [{ id: "ann", minutes: [300, 300], sites: null }],
      duties: [duty("now", "x", { due }), duty("then", "y", { due: 4, value: 100 })],
      sites: ["x", "y"].map((id) => ({ id, overhead: 10, open: [600, 600] })),
    });

  it("comes on the first day, whatever else would save a way", () => {
    const plan = assignWeek(one(-3), { nodeLimit: 200 });
    const first = plan.routes.find((route) => route.stops.some((stop) => stop.duties.includes("now")));
    expect(first?.day).toBe(0);
    expect(plan.left).toEqual([]);
  });

  it("costs more the later it is done: with room on one day only, the later one is chosen for what is not due", () => {
    const problem = week({
      people: [{ id: "ann", minutes: [140, 140], sites: null }],
      duties: [duty("late", "x", { due: -5 }), duty("early", "y", { due: 1 })],
    });
    const plan = assignWeek(problem, { nodeLimit: 500 });
    const dayOf = (id: string) =>
      plan.routes.find((route) => route.stops.some((stop) => stop.duties.includes(id)))?.day;
    expect([dayOf("late"), dayOf("early")]).toEqual([0, 1]);
  });

  it("is no dearer for having been late longer: a day later is a day later", () => {
    const cost = (due: number): number => {
      const problem = week({
        people: [{ id: "ann", minutes: [0, 300], sites: null }],
        duties: [duty("d", "x", { due })],
      });
      return assignWeek(problem, { nodeLimit: 50 }).cost;
    };
    expect(cost(-20)).toBe(cost(0));
    expect(cost(0)).toBeGreaterThan(cost(1));
  });
});
