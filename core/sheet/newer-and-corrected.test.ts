import { must } from "../must";
import { foldRun } from "./fold-run";
import { nextSteps } from "./next-steps";
import { correctedEntries } from "./order-events";
import type { Procedure, Step } from "./procedure";
import type { RunEvent } from "./run-event";
import { emptyState } from "./run-state";
import { TestLog } from "./testing/runs";
import { doing, sample } from "./testing/sample";

const steps: Step[] = [
  doing("wash"),
  {
    id: "gap",
    kind: "measure",
    title: "Gap",
    reading: "gap",
    unit: "mm",
    limits: { min: 1, max: 2 },
    points: ["left", "right"],
  },
  { id: "tip", kind: "measure", title: "Tip", reading: "tip", unit: "mm", limits: { min: 1, max: 2 } },
  {
    id: "way",
    kind: "decide",
    title: "Which",
    question: "Which?",
    branches: [
      { id: "a", name: "A" },
      { id: "b", name: "B" },
    ],
  },
  {
    id: "again",
    kind: "repeat",
    title: "Clean?",
    from: "wash",
    question: "Clean?",
    clean: "Clean",
    again: "Again",
    maxRounds: 2,
  },
];
const procedure: Procedure = { ...sample(), steps };
const bare = { options: [], slots: {} };

describe("entries that this version cannot read", () => {
  it("are kept and counted, and the rest of the sheet stays as it is", () => {
    const log = new TestLog();
    log.done("wash");
    const before = foldRun(procedure, log.events);
    const newer = [
      { type: "weighed", step: "tip", grams: 7 },
      { type: "toString" },
      { type: "step-done", round: 1 },
      { type: "step-done", step: "wash", round: 0 },
      { type: "reading", step: "tip", round: 1, value: null, unit: "mm" },
      { type: "reading", step: "tip", round: 1, value: NaN, unit: "mm" },
      { type: "reading", step: "gap", round: 1, value: 1.5, unit: "mm", point: 2 },
      { type: "reading", step: "gap", round: 1, value: 1.5, unit: "mm", point: -1 },
      { type: "reading", step: "tip", round: 1, value: 1.5, unit: "mm", point: 1 },
      { type: "consumable-used", item: "x", qty: "7", unit: "mL" },
      { type: "signed", role: "witness", name: "W" },
    ].map((body) => log.add(body as never));
    const after = foldRun(procedure, log.events);
    expect(after.unknown).toEqual(newer);
    expect({ ...after, unknown: [] }).toEqual(before);
    expect(nextSteps(procedure, after, bare)).toEqual([{ step: "gap", round: 1 }]);
  });

  it("settle nothing: a point that does not exist stands for none of those that do", () => {
    const log = new TestLog();
    log.read("gap", 1.5, "mm", 0);
    log.read("gap", 1.5, "mm", 7);
    expect(foldRun(procedure, log.events).steps["gap"]?.status).toBe("open");
    log.read("gap", 1.5, "mm", 1);
    expect(foldRun(procedure, log.events).steps["gap"]).toMatchObject({ status: "done", answer: "in" });
  });
});

it("a digit too many, or ten, is high and leaves the sheet readable", () => {
  const log = new TestLog();
  log.read("tip", 1.5e17, "mm");
  expect(must(foldRun(procedure, log.events).steps["tip"]).readings[0]?.verdict).toBe("high");
});

describe("corrections", () => {
  const correct = (log: TestLog, ref: RunEvent, set: object, by = "ben"): RunEvent =>
    log.add({ type: "corrected", ref: ref.id, set, why: "misread" }, { by });

  it("of a step's answer keep the old one, who, when and why", () => {
    const log = new TestLog();
    const answer = log.done("way", "a");
    const correction = correct(log, answer, { answer: "b" });
    const state = foldRun(procedure, log.events);
    const told = {
      eventId: correction.id,
      by: "ben",
      at: correction.at,
      why: "misread",
      old: { answer: "a" },
      set: { answer: "b" },
    };
    expect(state.steps["way"]).toMatchObject({ answer: "b", corrections: [told] });
    expect(state.corrections).toEqual({ [answer.id]: [told] });
  });

  it("of a correction, and of that again, are about the entry itself", () => {
    const log = new TestLog();
    const reading = log.read("tip", 9, "mm");
    const first = correct(log, reading, { value: 8 });
    const second = correct(log, first, { value: 1.5 }, "cem");
    const third = correct(log, second, { value: 1.6 });
    for (const events of [log.events, [...log.events].reverse()]) {
      const state = foldRun(procedure, events);
      expect(state.unknown).toEqual([]);
      expect(state.steps["tip"]).toMatchObject({ answer: "in" });
      const [tip] = must(state.steps["tip"]).readings;
      expect(tip).toMatchObject({ value: 1.6, verdict: "in" });
      expect(tip?.corrections.map(({ eventId, by, old, set }) => [eventId, by, old.value, set.value])).toEqual([
        [first.id, "ben", 9, 8],
        [second.id, "cem", 8, 1.5],
        [third.id, "ben", 1.5, 1.6],
      ]);
    }
    // Taken back, it takes with it what corrected it.
    log.add({ type: "undone", ref: second.id });
    expect(must(foldRun(procedure, log.events).steps["tip"]).readings[0]?.value).toBe(8);
  });

  it("that go round in a circle, or set what cannot be, are kept and change nothing", () => {
    const log = new TestLog();
    const answer = log.done("way", "a");
    const tip = log.read("tip", 1.5, "mm");
    const wrong = [
      correct(log, answer, { answer: "c" }),
      correct(log, tip, { value: NaN }),
      correct(log, tip, { value: "2" }),
      log.add({ type: "corrected", ref: tip.id, set: null as never, why: "" }),
    ];
    const [one, other] = [correct(log, tip, { value: 1 }), correct(log, tip, { value: 1 })];
    const circle = [
      { ...one, ref: other.id },
      { ...other, ref: one.id },
    ] as RunEvent[];
    const state = foldRun(procedure, [...log.events.slice(0, -2), ...circle]);
    expect(state.unknown).toEqual([...wrong, ...circle]);
    expect([state.steps["way"]?.answer, state.steps["tip"]?.readings[0]?.value]).toEqual(["a", 1.5]);
    expect(correctedEntries(circle).size).toBe(0);
  });
});

it("a block has no more passes than it may: the last answer stands, whatever it is", () => {
  const log = new TestLog();
  for (const round of [1, 2, 3]) {
    log.done("wash", undefined, round);
    log.done("again", "again", round);
  }
  const state = foldRun(procedure, log.events);
  expect(state.rounds).toEqual({ again: 2 });
  expect(state.steps["again#2"]).toMatchObject({ status: "done", answer: "again" });
  expect(state.unknown.map((event) => "round" in event && event.round)).toEqual([3, 3]);
});

it("a list, a log and a procedure that are none are told by their names", () => {
  expect(() => foldRun(procedure, null as never)).toThrow(expect.objectContaining({ path: "events" }) as Error);
  expect(() => foldRun(procedure, [null] as never)).toThrow(expect.objectContaining({ path: "events[0]" }) as Error);
  expect(() => foldRun(null as never, [])).toThrow(expect.objectContaining({ path: "procedure" }) as Error);
  expect(() => foldRun({ ...procedure, steps: 3 as never }, [])).toThrow(
    expect.objectContaining({ path: "procedure.steps" }) as Error,
  );
  expect(foldRun(procedure, [])).toEqual(emptyState());
});
