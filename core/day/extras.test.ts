import { must } from "../must";
import { draws } from "../testing/draws";
import { dayExtras, type DayProblem, dayRisk, planDay } from "./index";
import { keepJobs } from "./suggest-changes";
import { drawnDay } from "./testing/drawn-days";

const hands = (minutes: number) => ({ kind: "hands" as const, minutes });
const wait = (minutes: number) => ({ kind: "wait" as const, minutes });

const day: DayProblem = {
  startAt: 480,
  endBy: 700,
  technicians: 1,
  sites: [
    {
      id: "a",
      arriving: 5,
      leaving: 5,
      resources: [],
      jobs: [
        { id: "soaks", phases: [hands(10), wait(60), hands(10)] },
        { id: "in the soak", phases: [hands(30)] },
        { id: "longer", phases: [hands(75)] },
        { id: "too long", phases: [hands(300)] },
      ],
    },
    { id: "elsewhere", arriving: 5, leaving: 5, resources: [], jobs: [{ id: "other", phases: [hands(5)] }] },
  ],
  travel: [
    [0, 5, 5],
    [5, 0, 5],
    [5, 5, 0],
  ],
};

it("names what finds room where one is anyway: first what a soak has room for", () => {
  const alone = keepJobs(day, (job) => job === "soaks");
  const extras = dayExtras(day, ["soaks"], planDay(alone), { chance: 0.8, spread: () => 0.2 });
  expect(extras.map(({ job, minutes }) => [job, minutes])).toEqual([
    ["in the soak", 0],
    ["longer", 15],
  ]);
  // A day that is tight has room for nothing that makes it less sure.
  const tight = { ...day, endBy: planDay(alone).endAt + 12 };
  const sure = dayExtras(tight, ["soaks"], planDay(alone), { chance: 0.9, spread: () => 0.3 });
  expect(sure.map((one) => one.job)).toEqual(["in the soak"]);
  expect(() => dayExtras(day, ["soaks"], planDay(alone), { chance: 2 })).toThrow(/between 0 and 1/);
});

it("tells the end and the chance that the day has with it, planned in its order", () => {
  let seen = 0;
  for (let seed = 0; seed < draws(12, 300); seed++) {
    const problem = drawnDay(seed, { sites: [1, 3], jobs: 6 });
    const all = problem.sites.flatMap((site) => site.jobs.map((job) => job.id));
    const on = all.filter((_, i) => i % 2 === 0);
    const own = keepJobs(problem, (job) => on.includes(job));
    const plan = planDay(own, { nodeLimit: 60 });
    const spread = () => 0.2;
    for (const extra of dayExtras(problem, on, plan, { chance: 0.5, spread })) {
      seen++;
      const order = plan.stops.map((stop) => stop.site);
      const with_ = { ...keepJobs(problem, (job) => on.includes(job) || job === extra.job), order };
      const planned = planDay({ ...with_, order: order.filter((id) => with_.sites.some((site) => site.id === id)) });
      expect([seed, planned.endAt, planned.lateMinutes, planned.overtime]).toEqual([seed, extra.endAt, 0, 0]);
      expect(dayRisk(with_, planned, spread).holds).toBe(extra.holds);
      expect(extra.holds).toBeGreaterThanOrEqual(0.5);
      expect(must(problem.sites.find((site) => site.id === extra.site)).jobs.map((job) => job.id)).toContain(extra.job);
    }
  }
  expect(seen).toBeGreaterThan(3);
});
