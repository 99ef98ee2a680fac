import { foldRun, missingSteps, nextSteps, type Procedure, sheetSteps, type Step } from "./index";
import { base2, off, on, proof, soak } from "./testing/lint-cases-2";
import { TestLog } from "./testing/runs";
import { doing } from "./testing/sample";

const BARE = { options: [] };
const PLAIN = base2([
  off({ takesOff: [{ item: "pan", count: 2, wayRound: "lip up", place: "left bench" }] }),
  doing("wipe"),
  soak,
  on(),
  proof,
]);
const ledger = (log: TestLog, procedure: Procedure = PLAIN) => foldRun(procedure, log.events).ledger;
const next = (log: TestLog, procedure: Procedure = PLAIN): string[] =>
  nextSteps(procedure, foldRun(procedure, log.events), BARE).map((one) => one.step);

describe("what is off", () => {
  it("is told with how many, which way round, where, and the way that it goes, until it is back on", () => {
    const log = new TestLog();
    expect(ledger(log)).toEqual([]);
    log.done("off");
    expect(ledger(log)).toEqual([{ item: "pan", count: 2, wayRound: "lip up", place: "left bench", path: "pan" }]);
    log.soak("soak", 12);
    log.done("on");
    expect(ledger(log)).toEqual([]);
  });

  it("is as logged where that differs, and goes back whole", () => {
    const log = new TestLog();
    log.add({ type: "step-done", step: "off", round: 1, off: [{ item: "pan", count: 3, place: "trolley" }] });
    expect(ledger(log)).toEqual([{ item: "pan", count: 3, wayRound: "lip up", place: "trolley", path: "pan" }]);
    log.done("on");
    expect(ledger(log)).toEqual([]);
  });

  it("stays on the ledger as far as it did not go back, and the step stays open", () => {
    const log = new TestLog();
    log.done("off");
    log.soak("soak", 12);
    log.add({ type: "step-done", step: "on", round: 1, back: [{ item: "pan", count: 1 }] });
    expect(ledger(log)).toMatchObject([{ item: "pan", count: 1 }]);
    log.done("wipe");
    expect(next(log)).toEqual(["on"]);
    log.done("on");
    expect(ledger(log)).toEqual([]);
    expect(next(log)).toEqual(["proof"]);
  });

  it("is left off when its refit is skipped, with the reason, and holds the proof no more", () => {
    const log = new TestLog();
    log.done("off");
    log.done("wipe");
    log.soak("soak", 12);
    log.add({ type: "step-skipped", step: "on", round: 1, reason: "Bent: a new one is ordered" });
    expect(foldRun(PLAIN, log.events)).toMatchObject({ ledger: [], leftOff: [{ item: "pan", count: 2 }] });
    expect(next(log)).toEqual(["proof"]);
  });

  it("is not off any more when its step is undone, and nothing of its way is on the sheet when it was left out", () => {
    const log = new TestLog();
    const done = log.done("off");
    log.add({ type: "undone", ref: done.id });
    expect(ledger(log)).toEqual([]);
    log.add({ type: "step-not-applicable", step: "off", round: 1, reason: "No pan on this one" });
    const steps = sheetSteps(PLAIN, foldRun(PLAIN, log.events), BARE).map((one) => one.step);
    expect(steps).toEqual(["off", "wipe", "proof"]);
  });

  it("comes off once, however often a block is done before it is back", () => {
    const again: Step = { id: "again", kind: "repeat", title: "?", from: "off", question: "?", clean: "c", again: "a" };
    const procedure = base2([off(), soak, again, on(), proof]);
    const log = new TestLog();
    log.done("off");
    log.soak("soak", 12);
    log.done("again", "again");
    log.done("off", undefined, 2);
    expect(ledger(log, procedure)).toMatchObject([{ count: 2 }]);
    log.soak("soak", 12, 2);
    log.done("again", "clean", 2);
    log.done("on");
    expect(ledger(log, procedure)).toEqual([]);
  });

  it("is off also when the first to take it off is a later pass", () => {
    const dirty: Step = {
      id: "look",
      kind: "decide",
      title: "?",
      question: "?",
      branches: ["yes", "no"].map((id) => ({ id, name: id })),
    };
    const again: Step = {
      id: "again",
      kind: "repeat",
      title: "?",
      from: "look",
      question: "?",
      clean: "c",
      again: "a",
    };
    const procedure = base2([dirty, off({ when: [{ step: "look", is: "yes" }] }), again, soak, on(), proof]);
    const log = new TestLog();
    for (const round of [1, 2]) {
      log.done("look", "no", round);
      log.done("again", "again", round);
    }
    log.done("look", "yes", 3);
    log.done("off", undefined, 3);
    expect(ledger(log, procedure)).toMatchObject([{ item: "pan", count: 2 }]);
  });

  it("is nothing when what is said to be off is no list of counts", () => {
    const log = new TestLog();
    log.add({ type: "step-done", step: "off", round: 1, off: [{ item: "pan", count: NaN }] });
    expect(foldRun(PLAIN, log.events)).toMatchObject({ ledger: [], unknown: [{ type: "step-done" }] });
  });
});

describe("ways", () => {
  const three = base2([
    ...["a", "b", "c"].flatMap((id): Step[] => [
      doing(`${id}-off`, { takesOff: [{ item: id, count: 1 }], opens: id }),
      { id: `${id}-soak`, kind: "wait", title: id, path: id, minMinutes: 10 },
      doing(`${id}-dry`, { path: id }),
    ]),
    doing("wipe"),
    ...["b", "c", "a"].map((id) => doing(`${id}-on`, { putsBack: [{ item: id, count: 1 }] })),
    proof,
  ]);

  it("lets three soaks overlap, each head to be taken, and the refit wait for its own alone", () => {
    const log = new TestLog();
    log.done("a-off");
    expect(next(log, three)).toEqual(["b-off", "a-soak"]);
    log.add({ type: "timer-started", step: "a-soak", round: 1 });
    log.done("b-off");
    log.done("c-off");
    expect(next(log, three)).toEqual(["wipe", "b-soak", "c-soak", "a-soak"]);
    log.add({ type: "timer-started", step: "c-soak", round: 1 });
    log.soak("b-soak", 11);
    log.done("wipe");
    expect(next(log, three)).toEqual(["b-dry", "a-soak", "c-soak"]);
    log.done("b-dry");
    expect(next(log, three)).toEqual(["b-on", "a-soak", "c-soak"]);
    log.done("b-on");
    for (const id of ["a", "c"]) log.add({ type: "timer-stopped", step: `${id}-soak`, round: 1 });
    expect(next(log, three)).toEqual(["a-dry", "c-dry"]);
    for (const id of ["a", "c"]) log.done(`${id}-dry`);
    for (const id of ["c", "a"]) log.done(`${id}-on`);
    expect(next(log, three)).toEqual(["proof"]);
    log.done("proof");
    expect(missingSteps(three, foldRun(three, log.events), BARE)).toEqual([]);
  });

  it("holds no proof for what the procedure leaves off", () => {
    const left = base2([off(), soak, proof], { leaves: { off: ["pan"] } });
    const log = new TestLog();
    log.done("off");
    expect(next(log, left)).toEqual(["proof", "soak"]);
  });
});
