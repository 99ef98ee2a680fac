import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import type { CoreError } from "../errors";
import { uniform } from "../random";
import { draws } from "../testing/draws";
import { checkVisit, packVisit, type Phase, type PhaseRef, type VisitProblem, type VisitSchedule } from "./index";
import { bruteForce } from "./testing/brute-force";
import { randomVisit } from "./testing/random-visits";

type Job = VisitProblem["jobs"][number];
const ref = (job: string, index: number): PhaseRef => ({ job, index });
const hands = (minutes: number, ...after: PhaseRef[]): Phase => ({
  kind: "hands",
  minutes,
  ...(after.length > 0 ? { after } : {}),
});
const wait = (minutes: number, maxMinutes?: number): Phase => ({
  kind: "wait",
  minutes,
  ...(maxMinutes === undefined ? {} : { maxMinutes }),
});
const job = (id: string, phases: Phase[], more: Partial<Job> = {}): Job => ({ id, phases, ...more });
const visit = (technicians: number, ...jobs: Job[]): VisitProblem => ({ technicians, jobs });
const at = (schedule: VisitSchedule, id: string, index: number) =>
  schedule.phases.find((one) => one.job === id && one.index === index)!;

function pack(problem: VisitProblem): VisitSchedule {
  const schedule = packVisit(problem, { nodeLimit: 20_000 });
  expect(checkVisit(problem, schedule)).toEqual([]);
  return schedule;
}

/** Off at 5, then 20 on the machine; the part takes 2, soaks 15, takes 3, and goes back on in 4. */
const MACHINE = job("machine", [hands(5), hands(20), hands(4, ref("part", 2))]);
const PART = job("part", [hands(2), wait(15), hands(3)], { after: [ref("machine", 0)] });

describe("work that comes after other work", () => {
  it("lets a part soak beside the machine's own work, and has it back before it is fitted", () => {
    const schedule = pack(visit(1, MACHINE, PART));
    expect(schedule).toMatchObject({ status: "optimal", makespan: 34 });
    expect(at(schedule, "part", 0).start).toBe(5);
    expect(at(schedule, "machine", 2).start).toBeGreaterThanOrEqual(at(schedule, "part", 2).end);
    // With two the bench needs nobody of the machine's: 5 + 2 + 15 + 3 are over when 5 + 20 are.
    expect(pack(visit(2, MACHINE, PART)).makespan).toBe(29);
  });

  it("holds for the first phase what is said of the job, with what is said of the phase itself", () => {
    const schedule = pack(
      visit(3, job("a", [hands(7)]), job("b", [hands(9)]), job("c", [hands(1, ref("b", 0))], { after: [ref("a", 0)] })),
    );
    expect(at(schedule, "c", 0).start).toBe(9);
  });

  it("begins a first wait with the last of what it comes after, and not later", () => {
    const soak = job("soak", [wait(10, 10), hands(1)], { after: [ref("a", 0), ref("b", 0)], release: 3 });
    const schedule = pack(visit(2, job("a", [hands(4)]), job("b", [hands(6)]), soak));
    expect(at(schedule, "soak", 0)).toMatchObject({ start: 6, end: 16 });
    // Its release is later than both.
    expect(at(pack(visit(2, job("a", [hands(1)]), job("b", [hands(2)]), soak)), "soak", 0).start).toBe(3);
  });

  it("has work end later so that the first wait behind it finds its sink free", () => {
    const problem: VisitProblem = {
      ...visit(
        2,
        job("takes it", [{ kind: "hands", minutes: 12, uses: ["sink"] }]),
        job("off", [hands(3)]),
        job("soaks", [{ kind: "wait", minutes: 5, maxMinutes: 5, uses: ["sink"] }, hands(1)], {
          after: [ref("off", 0)],
        }),
      ),
      resources: [{ id: "sink", capacity: 1 }],
    };
    const schedule = pack(problem);
    expect(at(schedule, "soaks", 0).start).toBe(at(schedule, "off", 0).end);
    // The soak first, then the other, or the other way round with `off` put off until 9: 8 + 12.
    expect(schedule).toMatchObject({ status: "optimal", makespan: 18 });
  });

  it("takes a wait that nothing follows as over after its minutes, and counts what comes after that", () => {
    const dry = job("dry", [hands(2), wait(30)]);
    expect(pack(visit(1, dry)).makespan).toBe(2);
    expect(pack(visit(1, dry, job("fit", [hands(4, ref("dry", 1))]))).makespan).toBe(36);
  });

  it("takes a wait in the middle as over when its job goes on", () => {
    const schedule = pack(visit(2, job("a", [hands(1), wait(5), hands(3)]), job("b", [hands(2, ref("a", 1))])));
    expect(at(schedule, "b", 0).start).toBe(6);
  });

  it("says of work that waits for each other's waits that it cannot be done", () => {
    const { status, conflicts } = pack(
      visit(1, job("a", [hands(1), wait(5), hands(3, ref("b", 0))]), job("b", [hands(2, ref("a", 1))])),
    );
    expect(status).toBe("infeasible");
    expect(conflicts).toEqual([
      "a and b cannot all be done in the order that is asked for: what one comes after ends too late in another.",
      "a: phase 2 only after phase 0 of b.",
      "b: phase 0 only after phase 1 of a.",
    ]);
  });

  it("names begun work that cannot have begun before what it comes after had ended", () => {
    const problem = {
      ...visit(2, job("a", [hands(10)]), job("b", [hands(5, ref("a", 0))])),
      fixed: [
        { job: "a", index: 0, start: -4 },
        { job: "b", index: 0, start: 2 },
      ],
    };
    expect(pack(problem)).toMatchObject({
      status: "infeasible",
      conflicts: ["b: phase 0 is said to have begun at 2, but phase 0 of a, which it comes after, lasts until 6."],
    });
    expect(pack({ ...problem, fixed: [problem.fixed[0]!] }).makespan).toBe(11);
    expect(pack({ ...problem, fixed: [problem.fixed[1]!] }).status).toBe("infeasible");
  });

  it.each<[string, Job[], string, RegExp]>([
    ["a job that is none", [job("a", [hands(1, ref("x", 0))])], "jobs[0].phases[0].after[0].job", /no job x/],
    ["a phase that is none", [job("a", [hands(1)], { after: [ref("a", 1)] })], "jobs[0].after[0].index", /no phase 1/],
    ["itself", [job("a", [hands(1, ref("a", 0))])], "jobs[0].phases[0].after", /after itself/],
    ["its own later work", [job("a", [hands(1), hands(1)], { after: [ref("a", 1)] })], "jobs[0].after", /circle/],
    [
      "each other",
      [job("a", [hands(1), hands(1, ref("b", 1))]), job("b", [hands(1, ref("a", 1)), hands(1)])],
      "jobs[1].phases[0].after",
      /Phase 0 of b, then phase 1 of b, then phase 1 of a go in a circle/,
    ],
    ["for a wait", [job("a", [hands(1), { ...wait(1), after: [] } as Phase])], "jobs[0].phases[1].after", /a wait/],
    ["no list", [job("a", [hands(1)], { after: "b" as never })], "jobs[0].after", /list/],
    ["a part of a phase", [job("a", [hands(1)], { after: [ref("a", 0.5)] })], "jobs[0].after[0].index", /whole/],
  ])("refuses what comes after %s", (_, jobs, path, message) => {
    const attempt = (): unknown => packVisit(visit(1, ...jobs));
    expect(attempt).toThrow(message);
    expect(attempt).toThrow(expect.objectContaining({ path, name: "CoreError" } satisfies Partial<CoreError>) as Error);
  });

  it("takes what is absent as absent, on a wait too", () => {
    const open = { ...wait(5), after: undefined } as unknown as Phase;
    expect(pack(visit(1, job("a", [hands(1), open, hands(1)]))).makespan).toBe(7);
  });

  it("finds a phase put before what it comes after, and a first wait that begins too early or too late", () => {
    const problem = visit(2, job("a", [hands(4)]), job("b", [hands(2, ref("a", 0))]), {
      ...job("c", [wait(5), hands(1)]),
      after: [ref("a", 0)],
    });
    const good = pack(problem);
    const moved = (id: string, index: number, by: number): string[] =>
      checkVisit(problem, {
        ...good,
        phases: good.phases.map((one) =>
          one.job === id && one.index === index ? { ...one, start: one.start + by, end: one.end + by } : one,
        ),
      });
    expect(moved("b", 0, -1)).toContain("b, phase 0, starts at 3, before phase 0 of a ends at 4.");
    expect(moved("c", 0, -1).join(" ")).toMatch(/waits from 3, but what comes before it ends at 4/);
    expect(moved("c", 0, 1).join(" ")).toMatch(/waits from 5, but what comes before it ends at 4/);
  });
});

const DRAWS = draws(24, 1500);

it(`agrees with trying everything on ${DRAWS} small visits whose work waits for other work`, () => {
  const seen = { optimal: 0, infeasible: 0 };
  for (let seed = 1; seed <= DRAWS; seed++) {
    const problem = randomVisit(uniform(xoroshiro128plus(seed)), true, true);
    const schedule = packVisit(problem, { nodeLimit: 20_000 });
    expect({ seed, faults: checkVisit(problem, schedule) }).toEqual({ seed, faults: [] });
    // Nothing shorter; where nothing is possible at all, nothing within the first minutes.
    const shorter = bruteForce(problem, schedule.status === "optimal" ? schedule.makespan - 1 : 11);
    const better = schedule.status === "infeasible" ? shorter : shorter !== null && shorter < schedule.makespan;
    expect({ seed, better: better === null ? false : better }).toEqual({ seed, better: false });
    seen[schedule.status as keyof typeof seen]++;
  }
  expect(seen.optimal + seen.infeasible).toBe(DRAWS);
  expect(Math.min(seen.optimal, seen.infeasible)).toBeGreaterThan(DRAWS / 10);
});
