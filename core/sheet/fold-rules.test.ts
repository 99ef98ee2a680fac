import { foldRun } from "./fold-run";
import { nextSteps, sheetSteps } from "./next-steps";
import type { Procedure, Step } from "./procedure";
import { TestLog } from "./testing/runs";
import { doing, GATE, PROOF, sample } from "./testing/sample";

const plain = { options: [] };
const shown = (procedure: Procedure, log: TestLog): string[] =>
  sheetSteps(procedure, foldRun(procedure, log.events), plain).map((one) => one.step);
const next = (procedure: Procedure, log: TestLog): string[] =>
  nextSteps(procedure, foldRun(procedure, log.events), plain).map((one) => one.step);

describe("a branch", () => {
  const gap = doing("gap", { kind: "measure", reading: "gap", unit: "mm", limits: { min: 1, max: 2 } });
  const after = (id: string, is: string): Step => doing(id, { when: [{ step: "gap", is }] });
  const procedure = sample([gap, after("low", "low"), after("high", "high"), after("out", "out"), after("in", "in")]);

  it.each([
    [0.9, ["low", "out"]],
    [1, ["in"]],
    [2, ["in"]],
    [2.1, ["high", "out"]],
  ])("of a reading of %d mm is taken by where it falls; out is either side", (value, branches) => {
    const log = new TestLog();
    log.read("gap", value, "mm");
    expect(shown(procedure, log)).toEqual(["gate", "gap", ...branches, "proof"]);
  });

  it("is not there before its answer, nor when what it hangs on is not", () => {
    expect(shown(procedure, new TestLog())).toEqual(["gate", "gap", "proof"]);
    const chained = sample([gap, after("low", "low"), doing("then", { when: [{ step: "low", is: "ok" }] })]);
    const log = new TestLog();
    log.read("gap", 1.5, "mm");
    expect(shown(chained, log)).not.toContain("then");
  });
});

describe("a step that is settled without being done", () => {
  const procedure = sample([doing("a"), doing("b")]);

  it("does not apply, or is skipped, for the reason that was given", () => {
    const log = new TestLog();
    log.add({ type: "step-not-applicable", step: "a", round: 1, reason: "No filter" });
    log.add({ type: "step-skipped", step: "b", round: 1, reason: "No time" });
    const { steps } = foldRun(procedure, log.events);
    expect(steps.a).toMatchObject({ status: "not-applicable", reason: "No filter", answer: null });
    expect(steps.b).toMatchObject({ status: "skipped", reason: "No time", answer: null });
  });

  it("takes no answer that it does not offer", () => {
    const branches = [
      { id: "yes", name: "Yes" },
      { id: "no", name: "No" },
    ];
    const asked = sample([doing("worn", { kind: "decide", question: "?", branches })]);
    const log = new TestLog();
    log.done("worn", "perhaps");
    expect(foldRun(asked, log.events).steps.worn?.status ?? "open").toBe("open");
    log.done("worn", "yes");
    expect(foldRun(asked, log.events).steps.worn).toMatchObject({ status: "done", answer: "yes" });
  });
});

describe("a closed sheet", () => {
  const procedure: Procedure = { ...sample([doing("a")]), steps: [GATE, doing("a"), PROOF] };

  it("offers nothing any more, signed with steps open or ended", () => {
    const signed = new TestLog();
    signed.safe("gate");
    signed.sign();
    expect(next(procedure, signed)).toEqual([]);
    const ended = new TestLog();
    ended.add({ type: "outcome", outcome: "refused", reason: "Not now" });
    expect(next(procedure, ended)).toEqual([]);
    const open = new TestLog();
    open.safe("gate");
    expect(next(procedure, open)).toEqual(["a"]);
  });

  it("takes notes, corrections and the customer's signature, and sets all else apart", () => {
    const log = new TestLog();
    log.sign();
    log.add({ type: "note", text: "Left the key" });
    log.add({ type: "signed", role: "customer", method: "typed", name: "Kim" });
    log.add({ type: "signed", role: "technician", name: "Bo", method: "password", eventCount: 1 });
    const late = log.done("a");
    const state = foldRun(procedure, log.events);
    expect(state.notes.map((one) => one.text)).toEqual(["Left the key"]);
    expect(state.customerSignature).toMatchObject({ name: "Kim" });
    expect(state.technicianSignature).toMatchObject({ name: "Ada" });
    expect(state.afterClosing.map((one) => one.type)).toEqual(["signed", "step-done"]);
    expect(state.afterClosing).toContainEqual(late);
    expect(state.steps.a).toBeUndefined();
  });
});

describe("what was fitted", () => {
  const parts = [{ item: "blade", name: "Blade", slots: [{ id: "l", name: "Left" }] }];
  const procedure = sample([doing("it", { kind: "turn", item: "blade", slots: ["l"] })], { parts });

  it("has its lot and its expiry; a turned piece has the uses that are left, and is no new one", () => {
    const log = new TestLog();
    const at = { step: "it", round: 1, item: "blade", slot: "l" };
    log.add({ type: "part-turned", ...at, usesLeft: 2 });
    log.add({ type: "part-fitted", ...at, qty: 1, lot: "L-7", expires: "2027-01-31" });
    expect(foldRun(procedure, log.events).parts).toMatchObject([
      { slot: "l", turnedUsesLeft: 2, qty: 0, lot: null, expires: null },
      { slot: "l", turnedUsesLeft: null, qty: 1, lot: "L-7", expires: "2027-01-31" },
    ]);
  });
});
