import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

import { uniform } from "../random";
import { foldRun, lintProcedure, nextSteps, placeGates } from "../sheet/index";
import { stepKey } from "../sheet/run-state";
import { drawnProcedure } from "../sheet/testing/drawn-procedures";
import { TestLog } from "../sheet/testing/runs";
import { draws } from "../testing/draws";
import { checkVisit, packVisit, procedurePhases, remainingPhases, visitJobs, type VisitProblem } from "./index";

const DRAWS = draws(60, 3000);
const MACHINES = [{ options: [] }, { options: ["extra"] }];
const RESOURCES = [{ id: "sink", capacity: 1 }];

it(`packs what any procedure with states and paths comes to, each step once, as it stands on its sheet (${DRAWS} drawn)`, () => {
  let ways = 0;
  for (let seed = 1; seed <= DRAWS; seed++) {
    const procedure = placeGates(drawnProcedure(uniform(xoroshiro128plus(seed))));
    for (const machine of MACHINES) {
      const planned = procedurePhases(procedure, machine, 40);
      const problem: VisitProblem = { technicians: 2, resources: RESOURCES, jobs: visitJobs({ id: "m" }, planned) };
      const schedule = packVisit(problem, { nodeLimit: 300 });
      expect({ seed, faults: checkVisit(problem, schedule) }).toEqual({ seed, faults: [] });
      expect({ seed, status: schedule.status }).not.toMatchObject({ status: "infeasible" });
      const work = [planned.steps, ...planned.bench.map((one) => one.steps)].flat();
      const hands = work.flatMap((steps, i) => (all(planned)[i]?.kind === "hands" ? steps : []));
      expect({ seed, twice: hands.filter((id, i) => hands.indexOf(id) !== i) }).toEqual({ seed, twice: [] });
      ways += planned.bench.length;
      workHalf(seed, problem, { procedure, machine, planned });
    }
  }
  expect(ways).toBeGreaterThan(DRAWS);
});

const all = (planned: ReturnType<typeof procedurePhases>) =>
  [planned.phases, ...planned.bench.map((one) => one.phases)].flat();

/** What is left of a sheet worked for a while can be packed as well, with the clocks that run. */
function workHalf(
  seed: number,
  problem: VisitProblem,
  sheet: {
    procedure: ReturnType<typeof drawnProcedure>;
    machine: { options: string[] };
    planned: ReturnType<typeof procedurePhases>;
  },
): void {
  const { procedure, machine, planned } = sheet;
  const log = new TestLog();
  for (let taps = 0; taps < 12; taps++) {
    const state = foldRun(procedure, log.events);
    const left = remainingPhases(procedure, planned, state);
    const going = [{ path: "", waitingSince: left.waitingSince }, ...(left.bench ?? [])];
    const fixed = going.flatMap(({ path, waitingSince }) =>
      waitingSince ? [{ job: path === "" ? "m" : `m/${path}`, index: 0, start: -1 }] : [],
    );
    const rest: VisitProblem = { ...problem, jobs: visitJobs({ id: "m" }, left), fixed };
    const schedule = packVisit(rest, { nodeLimit: 100 });
    expect({ seed, taps, faults: checkVisit(rest, schedule) }).toEqual({ seed, taps, faults: [] });
    expect({ seed, taps, conflicts: schedule.conflicts }).toEqual({ seed, taps, conflicts: undefined });
    const next = nextSteps(procedure, state, machine);
    const ref = next[(seed + taps) % Math.max(1, next.length)];
    const step = procedure.steps.find((one) => one.id === ref?.step);
    if (!ref || !step) return;
    const running = state.steps[stepKey(ref.step, ref.round)]?.status === "running";
    if (step.kind === "wait") log.add({ type: running ? "timer-stopped" : "timer-started", ...ref });
    else if (step.kind === "safety") {
      if (step.coolDown) log.add({ type: "timer-started", ...ref });
      log.add({ type: "safety-confirmed", ...ref }, { after: 60 });
    } else {
      const answer = step.kind === "repeat" ? "clean" : step.kind === "decide" ? "no" : undefined;
      log.add({ type: "step-done", ...ref, ...(answer ? { answer } : {}) });
    }
  }
}

it("draws procedures that the linter has little against: what it finds are choices and times", () => {
  const found = new Set<string>();
  for (let seed = 1; seed <= 40; seed++)
    for (const one of lintProcedure(drawnProcedure(uniform(xoroshiro128plus(seed))))) found.add(one.rule);
  expect([...found].filter((rule) => !["choice", "time", "proof-last", "path-ends", "typical"].includes(rule))).toEqual(
    [],
  );
});
