import { fittedOnSheet } from "../wear/worn-values";
import { foldRun } from "./fold-run";
import { sheetSteps } from "./next-steps";
import type { Procedure, Step } from "./procedure";
import { TestLog } from "./testing/runs";
import { BLADES, sample } from "./testing/sample";

const STEPS: Step[] = [
  {
    ...{ id: "edge", kind: "measure", title: "Edge", reading: "edge", unit: "mm", limits: { min: 3 } },
    wears: { item: "blade", slots: ["l", "r"], per: "day", worse: "down" },
  },
  { id: "new", kind: "replace", title: "New", item: "blade", slots: ["l", "r"], when: [{ step: "edge", is: "low" }] },
  { id: "keep", kind: "do", title: "Keep", when: [{ step: "edge", is: "in" }] },
];
const PROCEDURE: Procedure = sample(STEPS, { parts: [BLADES] });
const decide = (choice: "now" | "next") =>
  ({ type: "wear-decided", step: "edge", round: 1, choice, chance: 0.83 }) as const;

function worked(value: number, work: (log: TestLog) => void) {
  const log = new TestLog();
  log.add({ type: "started", planId: "plan", procedureId: "sample", procedureVersion: 1 });
  log.safe("gate");
  log.read("edge", value, "mm");
  work(log);
  const state = foldRun(PROCEDURE, log.events);
  const shown = sheetSteps(PROCEDURE, state, { options: [] }).map((one) => one.step);
  return { state, shown, fitted: fittedOnSheet(PROCEDURE, state, false) };
}

describe("a part that is renewed though it is within its limit", () => {
  it("is renewed by the step that a value beyond the limit would show, and by plan", () => {
    const { state, shown, fitted } = worked(3.4, (log) => {
      log.add(decide("now"));
      log.fit("new", "blade", "l");
      log.fit("new", "blade", "r");
    });
    expect(shown).toContain("new");
    expect(shown).not.toContain("keep");
    expect(state.steps["edge#1"] ?? state.steps["edge"]).toMatchObject({
      answer: "in",
      decided: { choice: "now", side: "low", chance: 0.83, reason: null, by: "ada" },
    });
    expect(fitted.map((one) => one.cameOut)).toEqual(["planned", "planned"]);
  });

  it("is left when that was said, when it was taken back, and when the last word was another", () => {
    expect(worked(3.4, (log) => log.add(decide("next"))).shown).toContain("keep");
    const undone = worked(3.4, (log) => {
      const { id } = log.add(decide("now"));
      log.add({ type: "undone", ref: id });
    });
    expect([undone.shown.includes("new"), undone.shown.includes("keep")]).toEqual([false, true]);
    const changed = worked(3.4, (log) => {
      log.add(decide("now"));
      log.add(decide("next"));
    });
    expect(changed.shown).not.toContain("new");
  });

  it("beyond its limit it is worn, whatever was said before", () => {
    const { shown, fitted } = worked(2.4, (log) => {
      log.add(decide("next"));
      log.fit("new", "blade", "l");
    });
    expect(shown).toContain("new");
    expect(fitted.map((one) => one.cameOut)).toEqual(["worn"]);
  });

  it("of a step that tells of no part, or with no choice, is kept and changes nothing", () => {
    const wrong = [
      { ...decide("now"), step: "keep" },
      { ...decide("now"), choice: "later" },
      { ...decide("now"), chance: NaN },
    ];
    for (const body of wrong) {
      const { state } = worked(3.4, (log) => log.add(body as ReturnType<typeof decide>));
      expect(state.unknown).toHaveLength(1);
      expect(Object.values(state.steps).every((at) => at.decided === undefined)).toBe(true);
    }
  });
});
