import { must } from "../must";
import { draws } from "../testing/draws";
import { type DayPlan, type DayProblem, planDay, proposeDay } from "./index";
import { compareDays } from "./order-sites";
import { keepJobs } from "./suggest-changes";
import { drawnDay } from "./testing/drawn-days";

const permutations = (ids: readonly string[]): string[][] =>
  ids.length === 0
    ? [[]]
    : ids.flatMap((id, i) => permutations(ids.filter((_, at) => at !== i)).map((rest) => [id, ...rest]));

/** The best day of every order, each planned by itself. */
const bruteForce = (problem: DayProblem): DayPlan =>
  permutations(problem.sites.map((site) => site.id))
    .map((order) => planDay({ ...problem, order }))
    .reduce((best, plan) => (compareDays(plan, best) < 0 ? plan : best));

const measures = ({ lateMinutes, endAt, travelMinutes }: DayPlan) => ({ lateMinutes, endAt, travelMinutes });

it("of up to seven sites no order is better than the planned one, however few nodes it may look at", () => {
  for (let seed = 0; seed < draws(6, 400); seed++) {
    const problem = drawnDay(seed, { sites: [2, seed === 3 ? 6 : 5], jobs: 12 });
    const best = measures(bruteForce(problem));
    expect({ seed, ...measures(planDay(problem, { nodeLimit: 400 })) }).toEqual({ seed, ...best });
  }
}, 300_000);

const valueOf = (problem: DayProblem): number =>
  problem.sites.reduce((sum, site) => sum + site.jobs.reduce((inner, job) => inner + must(job.value), 0), 0);

it("of up to ten duties no choice that holds is worth more than the proposed one", () => {
  let empty = 0;
  for (let seed = 0; seed < draws(5, 200); seed++) {
    const problem = drawnDay(1000 + seed, { sites: [2, 4], jobs: seed % 5 === 0 ? 7 : 5 });
    const jobs = problem.sites.flatMap((site) => site.jobs.map((job) => job.id));
    let best = 0;
    for (let choice = 1; choice < 1 << jobs.length; choice++) {
      const some = keepJobs(problem, (id) => Boolean(choice & (1 << jobs.indexOf(id))));
      if (valueOf(some) <= best) continue;
      const plan = planDay(some);
      if (plan.lateMinutes === 0 && plan.overtime === 0) best = valueOf(some);
    }
    const day = proposeDay(problem);
    expect({ seed, value: valueOf(day.problem) }).toEqual({ seed, value: best });
    expect(day.plan).toMatchObject({ lateMinutes: 0, overtime: 0 });
    if (best === 0) empty++;
  }
  expect(empty).toBeLessThan(5);
}, 300_000);

it("lets work wait for a machine that is free for a short while only, on a site that is open all day", () => {
  const plan = planDay({
    startAt: 480,
    endBy: 900,
    technicians: 1,
    sites: [
      {
        id: "s",
        arriving: 0,
        leaving: 0,
        resources: [],
        access: [[480, 900]],
        jobs: [
          { id: "long", phases: [{ kind: "hands", minutes: 60 }] },
          { id: "short", phases: [{ kind: "hands", minutes: 10 }], windows: [[530, 540]] },
        ],
      },
    ],
    travel: [
      [0, 0],
      [0, 0],
    ],
  });
  // 530 to 540, and an hour behind it: before it there are fifty minutes only.
  expect(plan).toMatchObject({ lateMinutes: 0, endAt: 600 });
});

it("proposes what holds alone, though something worth more is at a door that opens too late", () => {
  const job = (id: string, value: number) => ({ id, phases: [{ kind: "hands" as const, minutes: 20 }], value });
  const problem: DayProblem = {
    startAt: 480,
    endBy: 600,
    technicians: 1,
    sites: [
      { id: "late", arriving: 0, leaving: 0, resources: [], jobs: [job("a", 100)], access: [[590, 700]] },
      { id: "open", arriving: 0, leaving: 0, resources: [], jobs: [job("b", 10)] },
    ],
    travel: [
      [0, 5, 5],
      [5, 0, 5],
      [5, 5, 0],
    ],
  };
  expect(proposeDay(problem).jobs).toEqual(["b"]);
  // Among many it is the same.
  const many = Array.from({ length: 12 }, (_, i) => job(`m${i}`, 1));
  const [late, open] = [must(problem.sites[0]), must(problem.sites[1])];
  const crowded = proposeDay({ ...problem, sites: [late, { ...open, jobs: [...open.jobs, ...many] }] });
  expect(crowded.jobs).toContain("b");
  expect(crowded.jobs).toHaveLength(5);
  expect(crowded.plan).toMatchObject({ lateMinutes: 0, overtime: 0 });
});
