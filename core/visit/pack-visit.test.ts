import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import type { CoreError } from "../errors";
import { must } from "../must";
import { uniform } from "../random";
import { draws } from "../testing/draws";
import { checkVisit, packVisit, type Phase, type VisitProblem } from "./index";
import { bruteForce } from "./testing/brute-force";
import { JOB_SHOPS, jobShop } from "./testing/job-shops";
import { randomVisit } from "./testing/random-visits";

const hands = (minutes: number, ...uses: string[]): Phase => ({
  kind: "hands",
  minutes,
  ...(uses.length > 0 ? { uses } : {}),
});
const wait = (minutes: number, maxMinutes?: number, ...uses: string[]): Phase => ({
  kind: "wait",
  minutes,
  ...(maxMinutes === undefined ? {} : { maxMinutes }),
  ...(uses.length > 0 ? { uses } : {}),
});
const job = (id: string, phases: Phase[], more: Partial<VisitProblem["jobs"][number]> = {}) => ({
  id,
  phases,
  ...more,
});
const alone = (...jobs: VisitProblem["jobs"]): VisitProblem => ({ technicians: 1, jobs });
const at = (schedule: ReturnType<typeof packVisit>, id: string, index: number) =>
  schedule.phases.find((one) => one.job === id && one.index === index)!;

/** Packs, and holds the answer against the verifier. */
function pack(problem: VisitProblem, options: Parameters<typeof packVisit>[1] = { nodeLimit: 20_000 }) {
  const schedule = packVisit(problem, options);
  expect(checkVisit(problem, schedule)).toEqual([]);
  return schedule;
}

describe("packing", () => {
  it("works on one machine while another soaks", () => {
    const schedule = pack(
      alone(job("a", [hands(5), wait(20, 25), hands(5)]), job("b", [hands(10), wait(5), hands(5)])),
    );
    expect(schedule).toMatchObject({ status: "optimal", makespan: 30, lowerBound: 30 });
  });

  it("keeps a longest wait by beginning the soak later", () => {
    const schedule = pack(
      alone(job("soak", [hands(2), wait(10, 10), hands(2)]), job("long", [hands(30)], { deadline: 31 })),
    );
    const [first, last] = [at(schedule, "soak", 0), at(schedule, "soak", 2)];
    expect(last.start - first.end).toBe(10);
    expect(schedule.makespan).toBe(44);
  });

  it("lets a first wait run from the beginning, or from the release, and a last wait count for the deadline only", () => {
    const schedule = pack(
      alone(
        job("cool", [wait(30), hands(5)]),
        job("late", [wait(5), hands(1)], { release: 12 }),
        job("dry", [hands(4), wait(60)]),
      ),
    );
    expect(at(schedule, "cool", 0)).toMatchObject({ start: 0 });
    expect(at(schedule, "late", 0)).toMatchObject({ start: 12 });
    expect(schedule.makespan).toBe(35);
    expect(pack(alone(job("dry", [hands(4), wait(60)], { deadline: 63 }))).status).toBe("infeasible");
    expect(pack(alone(job("dry", [hands(4), wait(60)], { deadline: 64 }))).makespan).toBe(4);
  });

  it("shares a sink, for the whole of a soak", () => {
    const one = (id: string) => job(id, [hands(3, "sink"), wait(10, 12, "sink"), hands(2, "sink")]);
    const problem = { technicians: 2, jobs: [one("a"), one("b")], resources: [{ id: "sink", capacity: 1 }] };
    expect(pack(problem).makespan).toBe(30);
    expect(pack({ ...problem, resources: [{ id: "sink", capacity: 2 }] }).makespan).toBe(15);
  });

  it("works inside windows and technicians' hours, and gives work to who may do it", () => {
    expect(
      pack(
        alone(
          job("a", [hands(10)], {
            windows: [
              [0, 8],
              [20, 30],
            ],
          }),
        ),
      ).makespan,
    ).toBe(30);
    const schedule = pack({
      technicians: 2,
      jobs: [job("a", [hands(10)]), job("b", [hands(10)])],
      technicianHours: [[[15, 60]], [[0, 12]]],
    });
    expect(schedule.makespan).toBe(25);
    expect(schedule.phases.map((one) => one.technician).sort()).toEqual([0, 1]);
  });

  it("goes on from work already begun, soaks with their longest time included", () => {
    const problem: VisitProblem = {
      ...alone(job("soak", [hands(3), wait(15, 20), hands(4)]), job("other", [hands(12)])),
      fixed: begunAt(-10, -7),
    };
    const schedule = pack(problem);
    expect(at(schedule, "soak", 0)).toMatchObject({ start: -10, end: -7 });
    expect(at(schedule, "soak", 2).start).toBeLessThanOrEqual(13);
    expect(schedule.makespan).toBe(16);
    // That it waits since the work before it ended need not be said.
    expect(pack({ ...problem, fixed: begunAt(-10) })).toEqual(schedule);
    expect(pack({ ...problem, fixed: begunAt(-33, -30) })).toMatchObject({ status: "infeasible" });
  });

  it("lets things of no length hold nothing", () => {
    const problem = {
      ...alone(job("a", [hands(5, "sink")]), job("b", [hands(0, "sink"), wait(0, 30, "sink"), hands(5)])),
      resources: [{ id: "sink", capacity: 1 }],
    };
    expect(pack(problem).makespan).toBe(10);
  });

  it("then brings the jobs' ends forward", () => {
    const schedule = pack(alone(job("long", [hands(20)]), job("short", [hands(5)]), job("middle", [hands(10)])));
    expect(schedule.phases.map((one) => one.end).sort((a, b) => a - b)).toEqual([5, 15, 35]);
  });

  it("has nothing to do on an empty visit", () => {
    expect(pack(alone())).toMatchObject({ status: "optimal", makespan: 0, lowerBound: 0, phases: [] });
    expect(pack(alone(job("a", [])))).toMatchObject({ status: "optimal", makespan: 0 });
  });
});

/** The first phases of the job "soak", begun at these minutes. */
const begunAt = (...starts: number[]) => starts.map((start, index) => ({ job: "soak", index, start }));

describe("work that has begun", () => {
  it("stands where it began, outside windows, hours and before the release as well", () => {
    const problem: VisitProblem = {
      ...alone(job("soak", [hands(4), wait(5), hands(3)], { release: 9, windows: [[30, 60]] })),
      technicianHours: [[[20, 90]]],
      fixed: begunAt(2),
    };
    // The rest keeps to its windows; the release is over.
    expect(pack(problem).phases.map((one) => one.start)).toEqual([2, 6, 30]);
    const { windows: _, ...anyTime } = must(problem.jobs[0]);
    expect(pack({ ...problem, jobs: [anyTime], technicianHours: [[[0, 90]]] }).makespan).toBe(14);
    for (const release of [4, 5, 40])
      expect(pack({ ...alone(job("soak", [wait(3), hands(2)], { release })), fixed: begunAt(1) }).makespan).toBe(6);
  });

  it("is never moved: what contradicts itself cannot be done, and the phases are named", () => {
    const cases: [VisitProblem["jobs"][number]["phases"], number[], RegExp][] = [
      [[hands(6), hands(3)], [3, 5], /phase 1 is said to have begun at 5, but phase 0 began at 3 and takes 6 minutes/],
      [[hands(6), wait(1), hands(3)], [3, 6], /phase 1 is said to have begun at 6, but phase 0 .* until 9/],
      [[hands(6), wait(1), hands(3)], [3, 10], /phase 1 is said to have begun at 10, but phase 0 .* until 9/],
      [
        [hands(2), wait(5, 9), hands(3)],
        [0, 2, 6],
        /phase 2 .* at 6, but the wait before it, phase 1, takes at least 5/,
      ],
      [
        [hands(2), wait(5, 9), hands(3)],
        [0, 2, 12],
        /phase 2 .* at 12, but the wait before it, phase 1, lasts at most 9/,
      ],
    ];
    for (const [phases, starts, words] of cases) {
      const schedule = pack({ ...alone(job("soak", phases)), fixed: begunAt(...starts) });
      expect(schedule).toMatchObject({ status: "infeasible", phases: [], makespan: 0 });
      expect(schedule.conflicts?.join(" ")).toMatch(words);
    }
    expect(
      pack({ ...alone(job("soak", [wait(3), hands(3)])), fixed: [{ job: "soak", index: 1, start: 2 }] }),
    ).toMatchObject({ status: "infeasible", phases: [] });
    const late = pack({ ...alone(job("soak", [hands(9)], { deadline: 8 })), fixed: begunAt(0) });
    expect(late.conflicts?.join(" ")).toMatch(/phase 0 .* takes until 9, after the deadline 8/);
    const twice: VisitProblem = {
      ...alone(job("soak", [hands(9)]), job("b", [hands(5)])),
      fixed: [...begunAt(0), { job: "b", index: 0, start: 8 }],
    };
    expect(pack(twice).conflicts?.join(" ")).toMatch(/soak: phase 0 begun at 0.* b: phase 0 begun at 8/);
  });

  it("takes its actual minutes: six planned that were done in three leave the rest free to go on", () => {
    const problem: VisitProblem = {
      ...alone(job("soak", [hands(3), wait(1), hands(3)])),
      fixed: begunAt(3, 6),
    };
    expect(pack(problem).phases.map((one) => one.start)).toEqual([3, 6, 7]);
  });
});

describe("large visits", () => {
  it("of two hundred like machines that soak waste no minute", () => {
    const jobs = Array.from({ length: 200 }, (_, i) => job(`m${i}`, [hands(5), wait(30), hands(5)]));
    expect(pack(alone(...jobs), { nodeLimit: 1900 })).toMatchObject({ status: "optimal", makespan: 2000 });
  });

  it("keep every rule, whatever is begun, shared, or held for no longer than so", () => {
    for (let seed = 0; seed < draws(3, 60); seed++) {
      const random = uniform(xoroshiro128plus(seed + 31));
      const whole = (from: number, to: number): number => from + Math.floor(random() * (to - from + 1));
      const shared = (): string[] => (random() < 0.3 ? [random() < 0.5 ? "sink" : "hose"] : []);
      const jobs = Array.from({ length: 40 }, (_, i) => {
        const least = whole(3, 30);
        return job(`m${i}`, [
          hands(whole(2, 9), ...shared()),
          wait(least, random() < 0.5 ? least + whole(0, 9) : undefined, ...shared()),
          hands(whole(1, 5)),
          ...(random() < 0.5 ? [hands(whole(1, 5), ...shared()), wait(whole(1, 9))] : []),
        ]);
      });
      const problem: VisitProblem = {
        technicians: 1 + (seed % 2),
        jobs,
        resources: [
          { id: "sink", capacity: 1 },
          { id: "hose", capacity: 2 },
        ],
        ...(seed % 3 === 0 ? { fixed: [{ job: "m7", index: 0, start: -4 }] } : {}),
      };
      const schedule = pack(problem, { nodeLimit: 1500, seed });
      expect(["optimal", "feasible"]).toContain(schedule.status);
      expect(schedule.makespan).toBeLessThan(schedule.lowerBound * 1.15);
      expect(pack(problem, { nodeLimit: 1500, seed })).toEqual(schedule);
    }
  }, 120_000);
});

describe("limits", () => {
  it.each([
    ["timeLimitMs", NaN],
    ["timeLimitMs", Infinity],
    ["timeLimitMs", -1],
    ["nodeLimit", NaN],
    ["nodeLimit", Infinity],
  ])("%s of %d is refused", (name, value) => {
    expect(() => packVisit(alone(), { [name]: value })).toThrow(
      expect.objectContaining({ name: "CoreError", path: name }) as CoreError,
    );
  });

  it("hold while it is explained why nothing is possible", () => {
    // Forty machines, and twenty minutes less than they take: told within the limit, by a clock that only looks move.
    const jobs = Array.from({ length: 40 }, (_, i) => job(`m${i}`, [hands(10), wait(i), hands(5)]));
    const problem: VisitProblem = { ...alone(...jobs), technicianHours: [[[0, 580]]] };
    let looks = 0;
    const schedule = packVisit(problem, { timeLimitMs: 200, now: () => 10 * looks++ });
    expect(looks).toBeLessThan(30);
    expect(schedule.status).toBe("infeasible");
    expect(schedule.conflicts?.[0]).toMatch(/^m0, m1.* cannot all be done by one technician: they take \d+ minutes/);
  });
});

describe("what cannot be done", () => {
  it("names the job and the deadline that collide", () => {
    const schedule = packVisit(alone(job("oven", [hands(20), wait(30), hands(10)], { deadline: 50 })));
    expect(schedule).toEqual({
      status: "infeasible",
      makespan: 0,
      lowerBound: 0,
      phases: [],
      conflicts: [expect.stringContaining("oven")],
    });
    expect(schedule.conflicts![0]).toContain("60");
  });

  it("names the jobs that collide and leaves out those that do not", () => {
    const schedule = packVisit(
      alone(job("a", [hands(30)], { deadline: 40 }), job("b", [hands(30)], { deadline: 45 }), job("c", [hands(5)])),
    );
    expect(schedule.status).toBe("infeasible");
    expect(schedule.conflicts!.join(" ")).toMatch(/a and b cannot/);
    expect(schedule.conflicts!.join(" ")).not.toMatch(/\bc\b/);
  });

  it.each<[string, VisitProblem]>([
    ["a window too short", alone(job("a", [hands(10)], { windows: [[0, 9]] }))],
    ["no window at all", alone(job("a", [hands(1)], { windows: [] }))],
    [
      "more of a thing than there is",
      { ...alone(job("a", [hands(1, "hose", "hose")])), resources: [{ id: "hose", capacity: 1 }] },
    ],
    ["hours too short", { ...alone(job("a", [hands(10)])), technicianHours: [[[0, 9]]] }],
    ["a deadline before the release", alone(job("a", [wait(1)], { release: 5, deadline: 5 }))],
  ])("proves it for %s", (_name, problem) => {
    const schedule = packVisit(problem);
    expect(schedule.status).toBe("infeasible");
    expect(schedule.conflicts!.every((sentence) => sentence.includes("a"))).toBe(true);
  });
});

describe("bad input", () => {
  const refused: [string, unknown][] = [
    ["technicians", { technicians: 0, jobs: [] }],
    ["jobs[0].phases[0].minutes", alone(job("a", [hands(-1)]))],
    ["jobs[0].phases[0].minutes", alone(job("a", [hands(NaN)]))],
    ["jobs[0].phases[0].minutes", alone(job("a", [hands(1.5)]))],
    ["jobs[0].phases[0].maxMinutes", alone(job("a", [wait(5, 4), hands(1)]))],
    ["jobs[0].phases[1].maxMinutes", alone(job("a", [hands(1), wait(5, 9)]))],
    ["jobs[1].id", alone(job("a", []), job("a", []))],
    ["jobs[0].phases[0].uses[0]", alone(job("a", [hands(1, "sink")]))],
    ["jobs[0].windows[0]", alone(job("a", [hands(1)], { windows: [[5, 4]] }))],
    ["technicianHours", { ...alone(), technicianHours: [] }],
    ["fixed[0].job", { ...alone(), fixed: [{ job: "b", index: 0, start: 0 }] }],
    [
      "fixed[0].technician",
      { ...alone(job("a", [hands(1)])), fixed: [{ job: "a", index: 0, start: 0, technician: 1 }] },
    ],
  ];
  it.each(refused)("is refused at %s", (path, problem) => {
    expect(() => packVisit(problem as VisitProblem)).toThrow(
      expect.objectContaining({ name: "CoreError", path }) as CoreError,
    );
  });
});

describe("the search", () => {
  it("gives the same schedule for the same seed and node limit", () => {
    const random = uniform(xoroshiro128plus(99));
    const problem = randomVisit(random, false);
    expect(packVisit(problem, { nodeLimit: 500, seed: 3 })).toEqual(packVisit(problem, { nodeLimit: 500, seed: 3 }));
  });

  it("stops when the caller has seen enough, with the best so far", () => {
    const seen: [number, number][] = [];
    const schedule = packVisit(jobShop("ft10"), {
      nodeLimit: 100_000,
      onProgress: (best, bound) => (seen.push([best, bound]), seen.length < 3),
    });
    expect(seen).toHaveLength(3);
    expect(schedule).toMatchObject({ status: "feasible", makespan: seen[2]![0] });
  });

  it("stops by the clock it is given", () => {
    let now = 0;
    const schedule = packVisit(jobShop("ft10"), { timeLimitMs: 50, now: () => (now += 10) });
    expect(schedule.status).toBe("feasible");
    expect(checkVisit(jobShop("ft10"), schedule)).toEqual([]);
  });
});

// Optima as published; the instances' sources stand beside them.
describe("published job shops", () => {
  it.each(["ft06", "la01"] as const)("%s: the published optimum, proven", (name) => {
    expect(pack(jobShop(name), { nodeLimit: 200_000 })).toMatchObject({
      status: "optimal",
      makespan: JOB_SHOPS[name].optimum,
    });
  });

  it("ft10: within 2 % of the published optimum", () => {
    const schedule = pack(jobShop("ft10"), { nodeLimit: 6_000 });
    expect(schedule.makespan).toBeLessThanOrEqual(JOB_SHOPS.ft10.optimum * 1.02);
    expect(schedule.lowerBound).toBeLessThanOrEqual(JOB_SHOPS.ft10.optimum);
  });
});

describe("random visits", () => {
  it("agree with trying everything, when small", () => {
    let compared = 0;
    for (let seed = 0; compared < draws(300, 6_000); seed++) {
      const problem = randomVisit(uniform(xoroshiro128plus(seed)), true);
      const given = problem.jobs.flatMap((one) => [one.release ?? 0, ...(one.windows ?? []).map(([from]) => from)]);
      const hours = (problem.technicianHours ?? []).flatMap((spans) => spans.map(([from]) => from));
      const phases = problem.jobs.flatMap((one) => one.phases);
      const work = phases.reduce((sum, phase) => sum + phase.minutes, 0);
      const latest = Math.max(0, ...given, ...hours, ...(problem.fixed ?? []).map((one) => one.start)) + work + 1;
      const free = phases.filter((phase, i) => phase.kind === "hands" || phases[i - 1]?.kind === "wait").length;
      if (latest ** free > 8_000) continue;
      compared++;
      const tried = bruteForce(problem, latest);
      const schedule = packVisit(problem, { nodeLimit: 20_000, seed });
      expect({
        seed,
        ...(tried === null ? { status: "infeasible", makespan: 0 } : { status: "optimal", makespan: tried }),
      }).toEqual({
        seed,
        status: schedule.status,
        makespan: schedule.makespan,
      });
    }
  }, 300_000);

  it("break no rule, thousands of them", () => {
    const drawn = draws(2_000, 10_000);
    const outcomes: Record<string, number> = {};
    for (let seed = 0; seed < drawn; seed++) {
      const problem = randomVisit(uniform(xoroshiro128plus(seed + 1_000_000)), seed % 4 !== 0);
      const schedule = packVisit(problem, { nodeLimit: 120, seed });
      outcomes[schedule.status] = (outcomes[schedule.status] ?? 0) + 1;
      const faults = checkVisit(problem, schedule);
      if (faults.length > 0) throw new Error(`Seed ${seed}: ${faults.join(" ")}`);
    }
    expect(outcomes.optimal).toBeGreaterThan(drawn * 0.5);
    expect(outcomes.infeasible).toBeGreaterThan(drawn * 0.05);
  }, 120_000);
});
