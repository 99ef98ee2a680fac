import { CoreError } from "../errors";
import { must } from "../must";
import { chemicalClash } from "./chemicals";
import { compareProcedures } from "./compare-procedures";
import { expandNested } from "./expand-nested";
import { foldRun } from "./fold-run";
import { missingSteps, nextSteps } from "./next-steps";
import type { Procedure, Step } from "./procedure";
import { TestLog } from "./testing/runs";
import { earlier, shipped } from "./testing/shipped";

const plain = { options: [] };
const withSteps = (steps: Step[], more: Partial<Procedure> = {}): Procedure => ({
  ...shipped("own-duty"),
  steps,
  ...more,
});
const next = (procedure: Procedure, log: TestLog) =>
  nextSteps(procedure, foldRun(procedure, log.events), plain).map((one) => one.step);

describe("a cool-down gate", () => {
  const gate = (coolDown: { belowC?: number; minutes?: number }) =>
    withSteps([
      { id: "cool", kind: "safety", title: "Cool", checks: ["x"], coolDown },
      { id: "go", kind: "do", title: "Go" },
    ]);

  it("opens below its temperature, not at it, by the latest reading", () => {
    const procedure = gate({ belowC: 40 });
    const log = new TestLog();
    log.safe("cool");
    expect(next(procedure, log)).toEqual(["cool"]);
    log.read("cool", 40, "°C");
    log.safe("cool");
    expect(next(procedure, log)).toEqual(["cool"]);
    log.read("cool", 39.5, "°C");
    log.safe("cool");
    expect(next(procedure, log)).toEqual(["go"]);
  });
  it("opens after its time, counted from its clock", () => {
    const procedure = gate({ minutes: 30 });
    const log = new TestLog();
    log.safe("cool");
    log.add({ type: "timer-started", step: "cool", round: 1 });
    log.add({ type: "safety-confirmed", step: "cool", round: 1 }, { after: 29 });
    expect(next(procedure, log)).toEqual(["cool"]);
    log.add({ type: "safety-confirmed", step: "cool", round: 1 }, { after: 1 });
    expect(next(procedure, log)).toEqual(["go"]);
    expect(must(foldRun(procedure, log.events).steps.cool).timer).toMatchObject({ minutes: 30, verdict: "in" });
  });
  it("takes whichever comes first", () => {
    const procedure = gate({ belowC: 40, minutes: 30 });
    const log = new TestLog();
    log.add({ type: "timer-started", step: "cool", round: 1 });
    log.read("cool", 35, "°C");
    log.safe("cool");
    expect(next(procedure, log)).toEqual(["go"]);
  });
});

describe("choices", () => {
  const procedure = withSteps([
    {
      id: "school",
      kind: "choose",
      title: "School",
      question: "?",
      schools: [
        { id: "burn", name: "Burn", why: "clean" },
        { id: "acid", name: "Acid", why: "cold" },
      ],
    },
    { id: "furnace", kind: "do", title: "Furnace", when: [{ step: "school", is: "burn" }] },
    { id: "bath", kind: "do", title: "Bath", when: [{ step: "school", is: "acid" }] },
  ]);
  it("open their own branch", () => {
    const log = new TestLog();
    log.done("school", "acid");
    expect(next(procedure, log)).toEqual(["bath"]);
  });
  it("take no other answer, and keep it readable", () => {
    const log = new TestLog();
    const wrong = log.done("school", "prayer");
    expect(next(procedure, log)).toEqual(["school"]);
    expect(foldRun(procedure, log.events).unknown).toEqual([wrong]);
  });
});

describe("several readings judged together", () => {
  const measure = (judge: "mean" | "spread", limits: object): Procedure =>
    withSteps([
      { id: "m", kind: "measure", title: "M", reading: "r", unit: "s", trials: 3, judge, limits, retest: true },
    ]);
  const log3 = (...values: number[]): TestLog => {
    const log = new TestLog();
    values.forEach((value, point) => log.read("m", value, "s", point));
    return log;
  };
  it("go by their mean, though one alone is out", () => {
    expect(foldRun(measure("mean", { min: 57, max: 63 }), log3(56, 60, 62).events).steps.m).toMatchObject({
      answer: "in",
      status: "done",
    });
    expect(foldRun(measure("mean", { min: 57, max: 63 }), log3(62, 64, 66).events).steps.m).toMatchObject({
      answer: "high",
      status: "open",
    });
  });
  it("go by their spread", () => {
    expect(must(foldRun(measure("spread", { max: 0.05 }), log3(1.27, 1.25, 1.26).events).steps.m).answer).toBe("in");
    expect(must(foldRun(measure("spread", { max: 0.05 }), log3(1.27, 1.2, 1.26).events).steps.m).answer).toBe("high");
  });
  it("wait for the last of them", () =>
    expect(must(foldRun(measure("mean", { max: 63 }), log3(60, 61).events).steps.m).status).toBe("open"));
  it("are as found first and as left from the retest on", () => {
    const log = log3(62, 64, 66);
    log.read("m", 60, "s", 0);
    expect(
      must(foldRun(measure("mean", { min: 57, max: 63 }), log.events).steps.m).readings.map((one) => one.stage),
    ).toEqual(["as-found", "as-found", "as-found", "as-left"]);
  });
});

it("a reading keeps its instrument, and that its calibration was over", () => {
  const procedure = withSteps([
    { id: "m", kind: "measure", title: "M", reading: "r", unit: "mm", instrument: "caliper" },
  ]);
  const log = new TestLog();
  log.add({
    type: "reading",
    step: "m",
    round: 1,
    value: 1,
    unit: "mm",
    instrument: "i-1",
    calibrationDue: "2026-11-24",
  });
  log.add({
    type: "reading",
    step: "m",
    round: 1,
    value: 2,
    unit: "mm",
    instrument: "i-1",
    calibrationDue: "2026-11-23",
    stage: "as-found",
  });
  // The day it is due on still counts; the log is of the 24th.
  expect(
    must(foldRun(procedure, log.events).steps.m).readings.map((one) => [
      one.instrument,
      one.instrumentExpired,
      one.stage,
    ]),
  ).toEqual([
    ["i-1", false, "as-found"],
    ["i-1", true, "as-found"],
  ]);
});

it("a piece is settled turned or new, all slots of the step", () => {
  const procedure = withSteps([{ id: "t", kind: "turn", title: "T", item: "blade", slots: ["a", "b"] }]);
  const log = new TestLog();
  log.add({ type: "part-turned", step: "t", round: 1, item: "blade", slot: "a", usesLeft: 3 });
  expect(missingSteps(procedure, foldRun(procedure, log.events), plain)).toHaveLength(1);
  log.fit("t", "blade", "b");
  const state = foldRun(procedure, log.events);
  expect(missingSteps(procedure, state, plain)).toEqual([]);
  expect(state.parts.map((part) => part.turnedUsesLeft)).toEqual([3, null]);
});

it("a solution settles its step and is used up, water apart", () => {
  const procedure = withSteps([
    {
      id: "mix",
      kind: "mix",
      title: "Mix",
      recipe: { by: "additive", item: "additive", additiveMl: 75, tankMl: 3000 },
    },
  ]);
  const log = new TestLog();
  log.add({
    type: "mixed",
    step: "mix",
    round: 1,
    amounts: [
      { item: "additive", ml: 75 },
      { item: "water", ml: 2925 },
    ],
    finalMl: 3000,
    batch: "B7",
  });
  const state = foldRun(procedure, log.events);
  expect(must(state.steps.mix).status).toBe("done");
  expect(state.consumables).toMatchObject([{ item: "additive", qty: 75, unit: "mL", lot: "B7" }]);
});

it("pictures and the hand-over stand in the state", () => {
  const log = new TestLog();
  log.add({ type: "photo", photo: "p-1", caption: "crack" });
  log.add({ type: "handed-over", to: "bo" });
  expect(foldRun(shipped("own-duty"), log.events)).toMatchObject({
    photos: [{ photo: "p-1", caption: "crack" }],
    handedTo: "bo",
  });
});

describe("chemicals on the machine", () => {
  const ice = earlier("flake-ice-maker-clean-sanitise");
  const cleaned = (rinse: (log: TestLog) => void): TestLog => {
    const log = new TestLog();
    log.add({ type: "started", planId: "p", procedureId: ice.id, procedureVersion: 2 });
    log.done("fill-cleaner");
    rinse(log);
    return log;
  };
  const clash = (log: TestLog) => chemicalClash(ice, foldRun(ice, log.events), plain, { step: "sanitiser", round: 1 });

  it("block chlorine after acid when the rinse was skipped", () => {
    const found = clash(
      cleaned((log) => log.add({ type: "step-skipped", step: "rinse", round: 1, reason: "no time" })),
    );
    expect(found).toMatchObject({
      after: "fill-cleaner",
      present: "acid",
      brings: "hypochlorite",
      hazard: expect.stringMatching(/chlorine gas/i) as string,
    });
  });
  it("let it pass after the rinse", () => expect(clash(cleaned((log) => log.count("rinse", 3)))).toBeNull());
  it("block it again when acid came after the rinse", () => {
    const log = cleaned((one) => one.count("rinse", 3));
    log.done("fill-cleaner", undefined, 2);
    expect(clash(log)).not.toBeNull();
  });
  it("say nothing of a step without chemicals", () =>
    expect(chemicalClash(ice, foldRun(ice, []), plain, { step: "unlock", round: 1 })).toBeNull());
});

describe("nested procedures", () => {
  const daily = withSteps(
    [
      { id: "look", kind: "inspect", title: "Look", asItShouldBe: "ok", ifNot: "no" },
      { id: "wipe", kind: "do", title: "Wipe", when: [{ step: "look", is: "ok" }], uses: [{ item: "soap", qty: 5 }] },
    ],
    { id: "daily", materials: [{ item: "soap", name: "Soap", qty: 5, unit: "mL" }] },
  );
  const weekly = withSteps(
    [
      { id: "soak", kind: "wait", title: "Soak", minMinutes: 5, meanwhile: ["part"] },
      {
        id: "part",
        kind: "nested",
        title: "Daily part",
        procedure: "daily",
        version: 1,
        when: [{ option: "lid", fitted: true }],
      },
    ],
    {
      id: "weekly",
      materials: [{ item: "soap", name: "Soap", qty: 10, unit: "mL" }],
      options: [{ id: "lid", name: "Lid" }],
    },
  );
  const find = (id: string): Procedure | undefined => ({ daily, weekly })[id];

  it("stand in their place under names of their own, conditions and all", () => {
    const whole = expandNested(weekly, find);
    expect(whole.steps.map((step) => step.id)).toEqual(["soak", "part-look", "part-wipe"]);
    expect(must(whole.steps[2]).when).toEqual([
      { option: "lid", fitted: true },
      { step: "part-look", is: "ok" },
    ]);
    expect(whole.steps[0]).toMatchObject({ meanwhile: ["part-look", "part-wipe"] });
    expect(must(whole.steps[1]).area).toBe("Daily part");
    // The same material twice is needed twice.
    expect(whole.materials).toEqual([{ item: "soap", name: "Soap", qty: 15, unit: "mL" }]);
  });
  it("leave a procedure without any as it is", () => expect(expandNested(daily, find)).toBe(daily));
  it("are refused in a circle, and when they do not exist", () => {
    const circle = {
      ...daily,
      steps: [{ id: "w", kind: "nested", title: "W", procedure: "weekly", version: 1 } as Step],
    };
    expect(() => expandNested(weekly, (id) => (id === "daily" ? circle : weekly))).toThrow(CoreError);
    expect(() => expandNested(weekly, () => undefined)).toThrow(/does not exist/);
  });
});

describe("two versions", () => {
  const before = earlier("flake-ice-maker-monthly");
  const swapped = [...before.steps];
  [swapped[3], swapped[4]] = [must(swapped[4]), must(swapped[3])];
  it("alike differ in nothing", () =>
    expect(compareProcedures(before, { ...before, version: 9 })).toEqual({ fields: [], steps: [] }));
  it("show fields, and steps added, removed, changed and moved", () => {
    const steps = before.steps
      .filter((step) => step.id !== "bin")
      .map((step) => (step.id === "look" ? { ...step, title: "Look well" } : step));
    const after = { ...before, title: "Monthly", steps: [...steps, { id: "new", kind: "do", title: "New" } as Step] };
    const change = compareProcedures(before, after);
    expect(change.fields).toEqual([{ field: "title", before: before.title, after: "Monthly" }]);
    expect(change.steps.map((one) => `${one.kind} ${one.step}`)).toEqual(["changed look", "added new", "removed bin"]);
    expect(must(change.steps[0]).fields).toEqual([{ field: "title", before: "Wires, oil, drips", after: "Look well" }]);
  });
  it("call only the step moved that was moved", () => {
    const moved = [must(before.steps[5]), ...before.steps.filter((_, i) => i !== 5)];
    expect(compareProcedures(before, { ...before, steps: moved }).steps).toMatchObject([
      { kind: "moved", step: must(before.steps[5]).id },
    ]);
    expect(compareProcedures(before, { ...before, steps: swapped }).steps).toHaveLength(1);
  });
});
