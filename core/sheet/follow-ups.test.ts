import { creditedPlans, expandNested, foldRun, followUps, type Procedure, type Step } from "./index";
import type { Part } from "./procedure";
import { TestLog } from "./testing/runs";
import { doing, PROOF, sample } from "./testing/sample";

const BARE: { options: string[] } = { options: [] };
const GAP: Step = { id: "gap", kind: "measure", title: "Gap", reading: "gap", unit: "mm", limits: { max: 2 } };
const BLADE: Part = { item: "blade", name: "Blade", slots: ["l", "r"].map((id) => ({ id, name: id })) };
const renew = (more: object = {}): Step =>
  doing("renew", { kind: "replace", item: "blade", slots: ["l", "r"], ...more });
const soak = (more: object = {}): Step => doing("soak", { kind: "wait", minMinutes: 10, ...more });
const skip = (log: TestLog, step: string): void =>
  void log.add({ type: "step-skipped", step, round: 1, reason: "No time" });

describe("what a sheet leaves to be done", () => {
  const left = (steps: Step[], work: (log: TestLog) => void) => {
    const log = new TestLog();
    work(log);
    const procedure = sample([], { parts: [BLADE], steps });
    return followUps(procedure, foldRun(procedure, log.events), BARE);
  };

  it("is nothing when all was done", () => {
    expect(left([doing("a"), GAP], (log) => [log.done("a"), log.read("gap", 1.5, "mm"), log.sign()])).toEqual([]);
    // What is open on a sheet that goes on is not left.
    expect(left([doing("a", { critical: true })], () => undefined)).toEqual([]);
  });

  it("is what was found, as bad as it was found, in the sheet's order", () => {
    const found = left([doing("a"), doing("b")], (log) => {
      log.add({ type: "finding", text: "Loose", severity: "major" });
      log.add({ type: "finding", text: "Sparks", severity: "unsafe", step: "b", round: 1 });
      log.add({ type: "finding", text: "Dent", severity: "minor", step: "a", round: 1 });
    });
    expect(found).toEqual([
      { kind: "finding", step: "a", severity: "minor", because: "Dent" },
      { kind: "finding", step: "b", severity: "unsafe", because: "Sparks" },
      { kind: "finding", step: null, severity: "major", because: "Loose" },
    ]);
  });

  it("is work that was left out, missed or cut short: major where it is critical", () => {
    const steps = [
      doing("a", { critical: true }),
      doing("b"),
      soak({ critical: true }),
      doing("c", { critical: true }),
    ];
    const found = left(steps, (log) => {
      skip(log, "a");
      skip(log, "b");
      log.soak("soak", 4);
      log.sign();
    });
    expect(found.map(({ kind, step, severity, because }) => [kind, step, severity, because])).toEqual([
      ["incomplete", "a", "major", "a: left out: No time"],
      ["incomplete", "b", "minor", "b: left out: No time"],
      ["incomplete", "soak", "major", "soak: cut short"],
      ["incomplete", "c", "major", "c: not done"],
    ]);
    const excused = (log: TestLog): unknown =>
      log.add({ type: "step-not-applicable", step: "a", round: 1, reason: "Has none" });
    expect(left([doing("a", { critical: true })], (log) => [excused(log), log.sign()])).toEqual([]);
  });

  it("is a part that was not fitted, by its place: major when a reading asks for it, which is then no item of its own", () => {
    const asked = renew({ when: [{ step: "gap", is: "out" }] });
    const found = left([GAP, asked], (log) => {
      log.read("gap", 3, "mm");
      log.fit("renew", "blade", "l");
      skip(log, "renew");
    });
    expect(found).toEqual([
      {
        kind: "fit-part",
        step: "renew",
        slot: "r",
        item: "blade",
        severity: "major",
        because: "renew: left out: No time",
      },
    ]);
    const fitted = left([GAP, asked], (log) => {
      log.read("gap", 3, "mm");
      log.fit("renew", "blade", "l");
      log.fit("renew", "blade", "r");
    });
    expect(fitted).toEqual([]);
    expect(left([renew()], (log) => skip(log, "renew")).map((one) => one.severity)).toEqual(["minor", "minor"]);
  });

  it("is a reading beyond its limits, one item with its finding", () => {
    expect(left([GAP], (log) => log.read("gap", 3, "mm"))).toEqual([
      { kind: "out-of-limit", step: "gap", severity: "minor", because: "Gap: 3 mm, at most 2 mm" },
    ]);
    const found = left([GAP], (log) => {
      log.read("gap", 3, "mm");
      log.add({ type: "finding", text: "Worn", severity: "major", step: "gap", round: 1 });
    });
    expect(found).toEqual([{ kind: "finding", step: "gap", severity: "major", because: "Worn" }]);
    expect(left([{ ...GAP, retest: true }], (log) => [log.read("gap", 3, "mm"), log.read("gap", 1, "mm")])).toEqual([]);
  });

  it("is what holds for the time being, until it is taken back", () => {
    const slower = (log: TestLog) =>
      log.add({ type: "interim", text: "Belt set slower", until: "calibrated", step: "a", round: 1 });
    expect(left([doing("a")], slower)).toEqual([
      { kind: "interim", step: "a", severity: "minor", because: "Belt set slower, until: calibrated" },
    ]);
    expect(left([doing("a")], (log) => log.add({ type: "interim-ended", ref: slower(log).id }))).toEqual([]);
  });
});

describe("duties that a sheet is worked for", () => {
  const daily: Procedure = sample([], {
    id: "daily",
    options: [{ id: "lid", name: "Lid" }],
    steps: [
      doing("wipe"),
      GAP,
      doing("turn", { when: [{ step: "gap", is: "out" }] }),
      doing("lid", { when: [{ option: "lid", fitted: true }] }),
      soak(),
    ],
  });
  const STEPS = daily.steps.map((step) => step.id);
  const nested = (id: string, procedure = "daily", more: object = {}): Step =>
    doing(id, { kind: "nested", procedure, version: 1, ...more });
  const middle = sample([], { id: "middle", steps: [nested("in"), doing("end")] });
  const find = (id: string): Procedure | undefined => ({ daily, middle })[id];
  const credited = (
    steps: Step[],
    work: (log: TestLog) => void,
    plan = { procedureId: "daily", steps: STEPS },
  ): string[] => {
    const whole = expandNested(sample([], { id: "weekly", steps }), find);
    const log = new TestLog();
    work(log);
    return creditedPlans(whole, foldRun(whole, log.events), BARE, [{ id: "plan", ...plan }]);
  };
  const all = (log: TestLog, at = "d"): TestLog => {
    log.done(`${at}-wipe`);
    log.read(`${at}-gap`, 1, "mm");
    log.soak(`${at}-soak`, 12);
    return log;
  };

  it("are those whose every step was worked: done, not there on this machine, or not called for", () => {
    expect(credited([nested("d"), doing("more")], (log) => all(log))).toEqual(["plan"]);
    expect(credited([doing("more")], (log) => log.done("more"))).toEqual([]);
    expect(credited([nested("d")], (log) => [log.done("d-wipe"), log.read("d-gap", 1, "mm")])).toEqual([]);
    const own = { procedureId: "weekly", steps: ["more"] };
    expect(credited([doing("more")], (log) => log.done("more"), own)).toEqual(["plan"]);
    expect(credited([doing("more")], () => undefined, own)).toEqual([]);
  });

  it("are not those of which something was skipped, cut short or called for and open; not applicable counts with its reason", () => {
    const but = (change: (log: TestLog) => void) =>
      credited([nested("d")], (log) => {
        all(log);
        change(log);
      });
    expect(but((log) => skip(log, "d-wipe"))).toEqual([]);
    expect(but((log) => log.soak("d-soak", 3))).toEqual([]);
    expect(but((log) => log.read("d-gap", 5, "mm"))).toEqual([]);
    expect(but((log) => [log.read("d-gap", 5, "mm"), log.done("d-turn")])).toEqual(["plan"]);
    expect(but((log) => log.add({ type: "step-not-applicable", step: "d-wipe", round: 1, reason: "Wet" }))).toEqual([
      "plan",
    ]);
  });

  it("are not those that an answer outside them has left out", () => {
    const ask: Step = doing("ask", {
      kind: "decide",
      question: "?",
      branches: ["yes", "no"].map((id) => ({ id, name: id })),
    });
    const steps = [ask, nested("d", "daily", { when: [{ step: "ask", is: "yes" }] })];
    expect(credited(steps, (log) => log.done("ask", "no"))).toEqual([]);
    const both = (log: TestLog): void => {
      log.done("ask", "yes");
      all(log);
    };
    expect(credited(steps, both)).toEqual(["plan"]);
  });

  it("are found however deep they are nested, and once is enough", () => {
    const inMiddle = { procedureId: "middle", steps: ["in", "end"] };
    expect(credited([nested("m", "middle")], (log) => all(log, "m-in"))).toEqual(["plan"]);
    expect(credited([nested("m", "middle")], (log) => all(log, "m-in"), inMiddle)).toEqual([]);
    expect(credited([nested("m", "middle")], (log) => [all(log, "m-in"), log.done("m-end")], inMiddle)).toEqual([
      "plan",
    ]);
    expect(credited([nested("d"), nested("e")], (log) => all(log, "e"))).toEqual(["plan"]);
    // Half of one and half of the other is none.
    const halves = (log: TestLog): void => {
      log.done("d-wipe");
      log.read("e-gap", 1, "mm");
      log.soak("e-soak", 12);
    };
    expect(credited([nested("d"), nested("e")], halves)).toEqual([]);
  });

  it("refuse a list that is none", () => {
    const procedure = sample([PROOF]);
    const state = foldRun(procedure, []);
    expect(() => creditedPlans(procedure, state, BARE, null as never)).toThrow(/plans must be a list/);
    expect(() => creditedPlans(procedure, state, BARE, [{ id: "a", procedureId: "b" } as never])).toThrow(
      /plans\[0\].steps/,
    );
  });
});
