import { foldRun } from "./fold-run";
import { currentRounds, missingSteps, nextSteps, sheetSteps } from "./next-steps";
import type { Procedure, Step } from "./procedure";
import { TestLog } from "./testing/runs";

const base = { title: "Step", detail: "" };
const step = (more: object): Step => ({ ...base, ...more }) as unknown as Step;
const procedure = (steps: Step[]): Procedure =>
  ({
    id: "p",
    version: 1,
    steps,
    parts: [],
    materials: [],
    options: [],
    meters: [],
    tools: [],
  }) as unknown as Procedure;
const plain = { options: [] };

const TWO_WAITS = procedure([
  step({ id: "soak", kind: "wait", minMinutes: 10, meanwhile: ["wipe", "dry", "look"] }),
  step({ id: "dry", kind: "wait", minMinutes: 10, meanwhile: ["look"] }),
  step({ id: "wipe", kind: "do" }),
  step({ id: "look", kind: "do" }),
  step({ id: "rinse", kind: "do" }),
]);

const next = (log: TestLog, of = TWO_WAITS): string[] =>
  nextSteps(of, foldRun(of, log.events), plain).map((one) => one.step);

describe("what may be done now", () => {
  it("is the first open step alone while nothing runs", () => {
    expect(next(new TestLog())).toEqual(["soak"]);
  });

  it("is what a running wait allows, and the wait last", () => {
    const log = new TestLog();
    log.add({ type: "timer-started", step: "soak", round: 1 });
    expect(next(log)).toEqual(["dry", "soak"]);
  });

  it("is only what all of several waits allow", () => {
    const log = new TestLog();
    log.add({ type: "timer-started", step: "soak", round: 1 });
    log.add({ type: "timer-started", step: "dry", round: 1 });
    // The first would allow wiping; the second does not.
    expect(next(log)).toEqual(["look", "soak", "dry"]);
    log.done("look");
    expect(next(log)).toEqual(["soak", "dry"]);
    log.add({ type: "timer-stopped", step: "dry", round: 1 }, { after: 11 });
    expect(next(log)).toEqual(["wipe", "soak"]);
  });

  it("is nothing that no wait allows, and nothing once the sheet is closed", () => {
    const log = new TestLog();
    log.soak("soak", 11);
    log.soak("dry", 11);
    log.done("wipe");
    log.done("look");
    expect(next(log)).toEqual(["rinse"]);
    log.sign();
    expect(next(log)).toEqual([]);
  });
});

describe("a skipped step", () => {
  const measured = procedure([
    step({ id: "gap", kind: "measure", unit: "mm", reading: "gap", limits: { min: 1, max: 2 }, retest: true }),
    step({ id: "look", kind: "do" }),
  ]);

  it("is open again with a reading that does not pass, and done with one that does", () => {
    const log = new TestLog();
    log.add({ type: "step-skipped", step: "gap", round: 1, reason: "no gauge" });
    expect(next(log, measured)).toEqual(["look"]);
    log.read("gap", 3, "mm");
    expect(
      foldRun(measured, log.events).steps["gap#1"]?.status ?? foldRun(measured, log.events).steps["gap"]?.status,
    ).toBe("open");
    expect(next(log, measured)).toEqual(["gap"]);
    log.read("gap", 1.5, "mm");
    expect(next(log, measured)).toEqual(["look"]);
  });
});

describe("the pass of a block", () => {
  const block = procedure([
    step({ id: "before", kind: "do" }),
    step({ id: "wash", kind: "do" }),
    step({ id: "clean", kind: "repeat", from: "wash", clean: "clean", again: "again" }),
    step({ id: "after", kind: "do" }),
  ]);

  it("counts inside the block alone", () => {
    const log = new TestLog();
    log.done("before");
    log.done("wash");
    log.done("clean", "again");
    const state = foldRun(block, log.events);
    expect(currentRounds(block, state)).toEqual([1, 2, 2, 1]);
    expect(sheetSteps(block, state, plain).map((one) => [one.step, one.round, one.settled])).toEqual([
      ["before", 1, true],
      ["wash", 2, false],
      ["clean", 2, false],
      ["after", 1, false],
    ]);
    expect(missingSteps(block, state, plain).map((one) => one.step)).toEqual(["wash", "clean", "after"]);
  });
});

describe("what is missing at the signature", () => {
  it("weighs what is forgotten most", () => {
    const forgotten = procedure([
      step({ id: "safe", kind: "safety", checks: [] }),
      step({ id: "counter", kind: "reset", meter: "m", expect: 0 }),
      step({ id: "proof", kind: "prove", expect: "runs" }),
      step({ id: "wipe", kind: "do" }),
    ]);
    expect(missingSteps(forgotten, foldRun(forgotten, []), plain).map((one) => one.weight)).toEqual([
      "safety",
      "reset",
      "proof",
      "step",
    ]);
  });
});
