import { checkProcedure, expandNested, lintProcedure, placeGates } from "../sheet/index";
import { checkVisit, packVisit, procedurePhases, visitJobs } from "./index";
import { AS_ONE_LIST, OVEN } from "./testing/oven-weekly";

const BARE = { options: [] };
const whole = placeGates(expandNested(OVEN.weekly, () => OVEN.daily));

describe("a weekly oven service, written with states and paths", () => {
  it("is sound, and asks for each gate once", () => {
    expect([...checkProcedure(whole), ...lintProcedure(whole), ...lintProcedure(OVEN.daily)]).toEqual([]);
    const gates = whole.steps.flatMap((step) => (step.id.startsWith("gate") ? [step.id] : []));
    expect(gates).toEqual(["gate-isolated-in-1", "gate-cool-in-1", "gate-isolated-out-1", "gate-powered-in-1"]);
  });

  it("has the belt brushed before the conveyor comes out, and proves the daily part when there is power for all", () => {
    const ids = whole.steps.map((step) => step.id);
    expect(ids.indexOf("daily-brush")).toBeLessThan(ids.indexOf("conveyor-out"));
    expect(ids.indexOf("daily-belt-runs")).toBeGreaterThan(ids.indexOf("gate-powered-in-1"));
  });

  it("packs to a hundred minutes beyond its cool-down: three soaks side by side, none before its part is off", () => {
    const planned = procedurePhases(whole, BARE);
    const problem = {
      technicians: 1,
      jobs: visitJobs({ id: "oven" }, planned),
      resources: [{ id: "sink", capacity: 1 }],
    };
    const schedule = packVisit(problem, { nodeLimit: 3000 });
    expect(checkVisit(problem, schedule)).toEqual([]);
    expect(schedule.makespan - 60).toBeLessThanOrEqual(100);
    const at = (job: string, index: number) => {
      const phase = schedule.phases.find((one) => one.job === job && one.index === index);
      return phase ?? { start: NaN, end: NaN };
    };
    const phaseOf = (step: string) =>
      at(
        "oven",
        planned.steps.findIndex((steps) => steps.includes(step)),
      );
    for (const { path, phases } of planned.bench) {
      const opener = whole.steps.find((step) => step.opens === path)?.id ?? "";
      const refit =
        whole.steps.find((step) =>
          step.putsBack?.some(({ item }) => item === whole.steps.find((one) => one.id === opener)?.takesOff?.[0]?.item),
        )?.id ?? "";
      expect(at(`oven/${path}`, 0).start).toBeGreaterThanOrEqual(phaseOf(opener).end);
      expect(phaseOf(refit).start).toBeGreaterThanOrEqual(at(`oven/${path}`, phases.length - 1).end);
    }
    // One after the other it is hardly less than what one list came to.
    const chain = problem.jobs.flatMap((job) => job.phases).reduce((sum, phase) => sum + phase.minutes, 0);
    expect(chain).toBeGreaterThan(AS_ONE_LIST - 20);
  });
});
