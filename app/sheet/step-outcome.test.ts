import { foldRun, must, type Procedure, type RunEventBody, sheetSteps, type Step } from "@core";

import { TestLog } from "../../core/sheet/testing/runs";
import { doing, sample } from "../../core/sheet/testing/sample";
import { shipped } from "../../core/sheet/testing/shipped";
import { outcomeOf } from "./step-outcome";

const outcome = (procedureId: string, step: string, log: TestLog): string => {
  const procedure = shipped(procedureId);
  return outcomeOf(
    must(
      sheetSteps(procedure, foldRun(procedure, log.events), { options: ["side-brooms"] }).find(
        (one) => one.step === step,
      ),
    ),
  );
};

it.each([
  [12, "! cut short: 12 min"],
  [17, "17 min"],
  [25, "! over the maximum: 25 min"],
])("a soak of %d minutes: %s", (minutes, words) => {
  const log = new TestLog();
  log.soak("chlorine-soak", minutes);
  expect(outcome("slide-stainer-chambers", "chlorine-soak", log)).toBe(words);
});

it("never rounds a soak that is cut short up to its minimum", () => {
  const log = new TestLog();
  log.soak("chlorine-soak", 14.99);
  expect(outcome("slide-stainer-chambers", "chlorine-soak", log)).toBe("! cut short: 14.9 min");
});

it("gives the latest reading of each point in order, and marks what is out", () => {
  const log = new TestLog();
  log.read("main-bristle", 2.4, "in", 2);
  log.read("main-bristle", 1.9, "in", 0);
  log.read("main-bristle", 2.1, "in", 1);
  log.read("main-bristle", 2.2, "in", 0);
  expect(outcome("ride-on-sweeper-daily", "main-bristle", log)).toBe("Left 2.2 · Middle 2.1 · Right 2.4 in");
  log.read("main-bristle", 1.5, "in", 1);
  expect(outcome("ride-on-sweeper-daily", "main-bristle", log)).toBe("Left 2.2 · Middle 1.5 ! · Right 2.4 in");
});

it("says why something was left, skipped or does not apply", () => {
  const log = new TestLog();
  log.read("polish-mark", 2, "in");
  log.add({ type: "step-done", step: "polish-mark", round: 1, reason: "Knob seized" });
  log.add({ type: "step-skipped", step: "gauge", round: 1, reason: "Locked" });
  log.add({ type: "step-not-applicable", step: "string", round: 1, reason: "No hopper" });
  expect(outcome("ride-on-sweeper-daily", "polish-mark", log)).toBe("2 ! in, left so: Knob seized");
  expect(outcome("ride-on-sweeper-daily", "gauge", log)).toBe("Skipped: Locked");
  expect(outcome("ride-on-sweeper-daily", "string", log)).toBe("Not applicable: No hopper");
});

it("counts parts and repetitions that are not all there yet", () => {
  const log = new TestLog();
  log.read("side-bristle", 1, "in", 0);
  log.read("side-bristle", 1, "in", 1);
  log.fit("side-new", "side-broom", "side-left");
  expect(outcome("ride-on-sweeper-daily", "side-new", log)).toBe("1 of 2 new");
  const rinse = new TestLog();
  rinse.count("rinse-eight", 3);
  expect(outcome("slide-stainer-chambers", "rinse-eight", rinse)).toBe("3 of 8");
});

describe("in a few words, what a step of each kind came to", () => {
  const parts = [{ item: "blade", name: "Blade", slots: ["l", "r"].map((id) => ({ id, name: id })) }];
  const meters = [{ id: "hours", name: "Hours", unit: "h" }];
  const words = (step: Step, ...bodies: RunEventBody[]): string => {
    const procedure: Procedure = sample([step], { parts: parts, meters });
    const log = new TestLog();
    for (const body of bodies) log.add(body);
    const state = foldRun(procedure, log.events);
    return outcomeOf(must(sheetSteps(procedure, state, { options: [] }).find((one) => one.step === step.id)));
  };
  const at = (id = "it") => ({ step: id, round: 1 });
  const done = (answer?: string): RunEventBody => ({ type: "step-done", ...at(), ...(answer && { answer }) });
  const reading = (value: number, more: object = {}): RunEventBody => ({
    type: "reading",
    ...at(),
    value,
    unit: "mm",
    ...more,
  });

  it("nothing while nothing was logged, nor of work that is simply done", () => {
    expect(words(doing("it"))).toBe("");
    expect(words(doing("it"), done())).toBe("");
  });

  it("an inspection: as it should be or not", () => {
    const inspect = doing("it", { kind: "inspect", asItShouldBe: "Clean", ifNot: "Dirty" });
    expect(words(inspect, done("ok"))).toBe("as it should be");
    expect(words(inspect, done("not-ok"))).toBe("! not as it should be");
  });

  it("a gate: what opened it, a temperature or its time", () => {
    const gate = doing("it", { kind: "safety", checks: ["Cold"], coolDown: { belowC: 35, minutes: 60 } });
    const heat = (value: number): RunEventBody => reading(value, { unit: "°C" });
    const confirmed: RunEventBody = { type: "safety-confirmed", ...at() };
    expect(words(gate, heat(60), heat(34), confirmed)).toBe("34 °C, below 35 °C");
    const log = new TestLog();
    log.add({ type: "timer-started", ...at() });
    log.add(heat(41));
    log.add(confirmed, { after: 60 });
    const procedure = sample([gate]);
    const [one] = sheetSteps(procedure, foldRun(procedure, log.events), { options: [] }).filter(
      ({ step }) => step === "it",
    );
    expect(outcomeOf(must(one))).toBe("after 61 min, at least 60 min");
  });

  it("a proof, and a block that was clean or is done again", () => {
    expect(words(doing("it", { kind: "prove", expect: "Runs" }), done("ok"))).toBe("as expected");
    const repeat = doing("it", {
      kind: "repeat",
      from: "gate",
      question: "Clean?",
      clean: "It is",
      again: "Once more",
    });
    expect(words(repeat, done("clean"))).toBe("It is");
  });

  it("a choice or a branch by its name", () => {
    const schools = [
      { id: "hot", name: "With hot water" },
      { id: "cold", name: "Cold" },
    ];
    expect(words(doing("it", { kind: "choose", question: "?", schools }), done("hot"))).toBe("With hot water");
    const branches = [
      { id: "yes", name: "Worn" },
      { id: "no", name: "Good" },
    ];
    expect(words(doing("it", { kind: "decide", question: "?", branches }), done("no"))).toBe("Good");
  });

  it("a solution: how much of what in how much, how strong, of which batch", () => {
    const mix = doing("it", {
      kind: "mix",
      recipe: { by: "dilution", stock: "bleach", target: { ppm: 200 }, finalMl: 5000 },
    });
    const mixed = (more: object): RunEventBody => ({
      type: "mixed",
      ...at(),
      amounts: [
        { item: "water", ml: 4979.96 },
        { item: "bleach", ml: 20.04 },
      ],
      finalMl: 5000,
      ...more,
    });
    expect(words(mix, mixed({ stockPercent: 5 }))).toBe("20 mL in 5000 mL, stock 5 %");
    expect(words(mix, mixed({ batch: "B-7" }))).toBe("20 mL in 5000 mL, batch B-7");
    expect(words(mix, mixed({ amounts: [{ item: "water", ml: 100.26 }], finalMl: 100.26 }))).toBe("100.3 mL");
  });

  it("a cool-down by the latest temperature", () => {
    const gate = doing("it", { kind: "safety", checks: ["Off"], coolDown: { belowC: 50 } });
    expect(words(gate, reading(70, { unit: "°C" }), reading(45, { unit: "°C" }))).toBe("45 °C, below 50 °C");
  });

  it("readings by their mean or spread, marked where that is out", () => {
    const measure = (judge: string, limits: object) =>
      doing("it", { kind: "measure", reading: "gap", unit: "mm", trials: 3, judge, limits });
    const three = [1, 2, 2].map((value, point) => reading(value, { point }));
    expect(words(measure("mean", { max: 2 }), ...three)).toBe("1 · 2 · 2 mm, mean 1.667, ! 1 apart");
    expect(words(measure("mean", { min: 1, max: 3 }), ...three)).toBe("1 · 2 · 2 mm, mean 1.667");
    expect(words(measure("mean", { max: 1 }), ...three)).toMatch(/, mean 1\.667 !, ! 1 apart$/);
    expect(words(measure("mean", { min: 1.7 }), ...three)).toMatch(/, mean 1\.667 !, ! 1 apart$/);
    expect(words(measure("spread", { max: 5 }), ...three)).toMatch(/, spread 1$/);
    expect(words(measure("each", { max: 5 }), ...three)).toBe("1 · 2 · 2 mm");
  });

  it("pieces: how many of a step's slots, turned or new", () => {
    const fitted = (slot: string): RunEventBody => ({ type: "part-fitted", ...at(), item: "blade", slot, qty: 1 });
    const turned = (slot: string): RunEventBody => ({
      type: "part-turned",
      ...at(),
      item: "blade",
      slot,
      usesLeft: 1,
    });
    const step = (kind: string) => doing("it", { kind, item: "blade", slots: ["l", "r"] });
    expect(words(step("replace"), fitted("l"))).toBe("1 of 2 new");
    expect(words(step("replace"), fitted("l"), fitted("r"))).toBe("2 of 2 new");
    expect(words(step("turn"), turned("l"))).toBe("");
    expect(words(step("turn"), turned("l"), fitted("r"))).toBe("turned or renewed");
  });
});
