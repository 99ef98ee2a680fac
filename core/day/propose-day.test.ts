import { proposeDay } from "./propose-day";
import type { DayJob, DayProblem } from "./types";

const job = (id: string, minutes: number, value: number): DayJob => ({
  id,
  phases: [{ kind: "hands", minutes }],
  value,
});
const site = (id: string, jobs: DayJob[], more: object = {}) => ({
  id,
  arriving: 5,
  leaving: 5,
  resources: [],
  jobs,
  ...more,
});

/** Two sites: near ones of little worth, a far one that presses. */
function problem(more: Partial<DayProblem> = {}): DayProblem {
  return {
    startAt: 480,
    endBy: 480 + 230,
    technicians: 1,
    sites: [site("near", [job("a", 50, 150), job("b", 50, 150)]), site("far", [job("late", 60, 300)])],
    travel: [
      [0, 5, 70],
      [5, 0, 68],
      [70, 68, 0],
    ],
    ...more,
  };
}

describe("a proposed day", () => {
  it("puts what presses first, though nearer work is worth more for its minutes", () => {
    const { jobs, plan } = proposeDay(problem());
    expect(jobs).toContain("late");
    expect(jobs.length).toBeLessThan(3);
    expect(plan.overtime).toBe(0);
  });

  it("goes by worth for the minutes where nothing presses", () => {
    const sites = [site("near", [job("a", 50, 150), job("b", 50, 150)]), site("far", [job("late", 60, 299)])];
    expect(new Set(proposeDay(problem({ sites })).jobs)).toEqual(new Set(["a", "b"]));
  });

  it("takes everything that fits, and nothing at a site that is closed", () => {
    const wide = problem({ endBy: 480 + 600 });
    expect(new Set(proposeDay(wide).jobs)).toEqual(new Set(["a", "b", "late"]));
    const closed = { ...wide, sites: wide.sites.map((one) => (one.id === "far" ? { ...one, access: [] } : one)) };
    expect(new Set(proposeDay(closed).jobs)).toEqual(new Set(["a", "b"]));
  });

  it("leaves again what the estimate took and the plan has no room for", () => {
    // Open for twenty minutes only: the estimate of minutes fits, the day's plan does not.
    const sites = [site("near", [job("a", 50, 150)]), site("far", [job("late", 60, 300)], { access: [[480, 500]] })];
    const { jobs, plan } = proposeDay(problem({ sites, endBy: 480 + 400 }));
    expect(jobs).toEqual(["a"]);
    expect(plan.lateMinutes).toBe(0);
  });

  it("is empty where there is no time at all", () => {
    expect(proposeDay(problem({ endBy: 480 })).jobs).toEqual([]);
  });
});
