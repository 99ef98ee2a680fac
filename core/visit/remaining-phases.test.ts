import { foldRun } from "../sheet/fold-run";
import { placeGates } from "../sheet/place-gates";
import type { Procedure } from "../sheet/procedure";
import { base2 } from "../sheet/testing/lint-cases-2";
import { TestLog } from "../sheet/testing/runs";
import { doing, GATE, sample } from "../sheet/testing/sample";
import { procedurePhases, remainingPhases } from "./index";

/** Ten minutes of hands in four steps, a soak of 15 to 20 minutes, six minutes in two, a wait that must not end a plan. */
const PLAIN = sample([], {
  minutes: { handsOn: 16, waiting: 20 },
  steps: [
    doing("a", { minutes: 2 }),
    doing("b", { minutes: 2 }),
    doing("c", { minutes: 2 }),
    doing("d", { minutes: 4 }),
    doing("soak", { kind: "wait", minMinutes: 15, maxMinutes: 20, minutes: 0, needs: ["sink"] }),
    doing("e", { minutes: 3 }),
    doing("f", { minutes: 3 }),
  ],
});

function left(procedure: Procedure, work: (log: TestLog) => void) {
  const log = new TestLog();
  work(log);
  const planned = procedurePhases(procedure, { options: [] });
  return remainingPhases(procedure, planned, foldRun(procedure, log.events));
}

const SOAK = { kind: "wait", minutes: 15, maxMinutes: 20, uses: ["sink"] };

it("is everything on a sheet that has just been opened", () => {
  expect(left(PLAIN, () => undefined)).toEqual({
    phases: [{ kind: "hands", minutes: 10 }, SOAK, { kind: "hands", minutes: 6 }],
    waitingSince: null,
  });
});

it("is a phase's share by its open steps, a minute at least, and none when all are settled", () => {
  expect(left(PLAIN, (log) => log.done("a")).phases[0]).toEqual({ kind: "hands", minutes: 8 });
  expect(left(PLAIN, (log) => ["a", "b", "c"].forEach((id) => log.done(id))).phases[0]).toEqual({
    kind: "hands",
    minutes: 3,
  });
  const settled = (log: TestLog): void => {
    ["a", "b"].forEach((id) => log.done(id));
    log.add({ type: "step-skipped", step: "c", round: 1, reason: "no time" });
    log.add({ type: "step-not-applicable", step: "d", round: 1, reason: "no lid" });
  };
  expect(left(PLAIN, settled).phases).toEqual([SOAK, { kind: "hands", minutes: 6 }]);
  const short = sample([], {
    minutes: { handsOn: 1, waiting: 0 },
    steps: [doing("a", { minutes: 1 }), doing("b", { minutes: 9 })],
  });
  expect(left(short, (log) => log.done("a")).phases).toEqual([{ kind: "hands", minutes: 1 }]);
});

it("begins with a clock that runs, from when it was started, in whole minutes that keep within its bounds", () => {
  const uneven = {
    ...PLAIN,
    steps: PLAIN.steps.map((step) => (step.kind === "wait" ? { ...step, minMinutes: 14.2, maxMinutes: 19.9 } : step)),
  };
  let started = "";
  const running = left(uneven, (log) => {
    ["a", "b", "c", "d"].forEach((id) => log.done(id));
    started = log.add({ type: "timer-started", step: "soak", round: 1 }).at;
  });
  expect(running).toEqual({
    phases: [
      { kind: "wait", minutes: 15, maxMinutes: 19, uses: ["sink"] },
      { kind: "hands", minutes: 6 },
    ],
    waitingSince: started,
  });
});

it("keeps hands that are open before a clock that was started early, and plans the clock only once", () => {
  const { phases } = left(PLAIN, (log) => log.add({ type: "timer-started", step: "soak", round: 1 }));
  expect(phases).toEqual([SOAK, { kind: "hands", minutes: 10 }, { kind: "hands", minutes: 6 }]);
});

it("has no longest time for a wait after which nothing comes", () => {
  const { phases } = left(PLAIN, (log) => {
    ["a", "b", "c", "d", "e", "f"].forEach((id) => log.done(id));
    log.add({ type: "timer-started", step: "soak", round: 1 });
  });
  expect(phases).toEqual([{ kind: "wait", minutes: 15, uses: ["sink"] }]);
  expect(left(PLAIN, (log) => ["e", "f"].forEach((id) => log.done(id))).phases.at(-1)).toEqual({
    kind: "wait",
    minutes: 15,
    uses: ["sink"],
  });
});

it("is nothing when all is settled", () => {
  const all = (log: TestLog): void => {
    ["a", "b", "c", "d"].forEach((id) => log.done(id));
    log.soak("soak", 16);
    ["e", "f"].forEach((id) => log.done(id));
  };
  expect(left(PLAIN, all)).toEqual({ phases: [], waitingSince: null });
});

it("counts a cool-down by time as such a clock, one by temperature as hands", () => {
  const cooling = (coolDown: object) =>
    sample([], {
      minutes: { handsOn: 4, waiting: 30 },
      steps: [{ ...GATE, coolDown, minutes: 2 }, doing("a", { minutes: 2 })],
    });
  const start = (log: TestLog): void => void log.add({ type: "timer-started", step: "gate", round: 1 });
  expect(left(cooling({ minutes: 30 }), start).phases[0]).toEqual({ kind: "wait", minutes: 30 });
  expect(left(cooling({ belowC: 50 }), () => undefined).phases).toEqual([{ kind: "hands", minutes: 4 }]);
});

it("goes by the last pass of a block that is repeated", () => {
  const block = sample([], {
    minutes: { handsOn: 4, waiting: 0 },
    steps: [
      doing("wash", { minutes: 3 }),
      doing("again", { kind: "repeat", from: "wash", question: "?", clean: "y", again: "n", minutes: 1 }),
    ],
  });
  expect(left(block, (log) => log.done("wash")).phases).toEqual([{ kind: "hands", minutes: 2 }]);
  const second = (log: TestLog): void => {
    log.done("wash");
    log.done("again", "again");
  };
  expect(left(block, second).phases).toEqual([{ kind: "hands", minutes: 4 }]);
  const washed = (log: TestLog): void => {
    second(log);
    log.done("wash", undefined, 2);
  };
  expect(left(block, washed).phases).toEqual([{ kind: "hands", minutes: 2 }]);
  const clean = (log: TestLog): void => {
    washed(log);
    log.done("again", "clean", 2);
  };
  expect(left(block, clean).phases).toEqual([]);
});

it("has neither a way nor a refit left of parts that were left on", () => {
  const procedure = placeGates(base2());
  const planned = procedurePhases(procedure, { options: [] }, 10);
  const log = new TestLog();
  log.safe("gate-isolated-in-1");
  log.add({ type: "step-not-applicable", step: "off", round: 1, reason: "None on this one" });
  const rest = remainingPhases(procedure, planned, foldRun(procedure, log.events));
  expect(rest.bench).toBeUndefined();
  // The refit shared its phase with the way out and power: of its three steps two are left, and the proof.
  const [shared, proof] = planned.phases.slice(-2).map((phase) => phase.minutes);
  expect(planned.steps.at(-2)).toHaveLength(3);
  expect(rest.phases.map((phase) => phase.minutes)).toEqual([Math.round(((shared ?? 0) * 2) / 3), proof]);
});
