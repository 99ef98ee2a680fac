import { foldRun, placeGates, type Procedure, type RunEvent, sheetSteps } from "@core";

import { entriesOf } from "~/testing/entries";
import { stepMarkup } from "~/testing/step-markup";

import { base2, off, on, proof, soak } from "../../core/sheet/testing/lint-cases-2";

const PROCEDURE: Procedure = placeGates(base2([off(), soak, on(), proof]));
const done = (step: string) => ({ type: "step-done", step, round: 1 }) as const;
/** All that "a" did before the lock comes off. */
const WORKED: RunEvent[] = entriesOf([
  { type: "safety-confirmed", step: "gate-isolated-in-1", round: 1 },
  done("off"),
  { type: "timer-started", step: "soak", round: 1 },
  { type: "timer-stopped", step: "soak", round: 1 },
  done("on"),
]);

/** The gate out, as a person sees it. */
function gateOut(me: string, { isLead = false, entries = WORKED } = {}): string {
  const state = foldRun(PROCEDURE, entries);
  const one = sheetSteps(PROCEDURE, state, { options: [] }).find((step) => step.step === "gate-isolated-out-1");
  if (!one) throw new Error("no gate out");
  return stepMarkup(PROCEDURE, state, one, {
    hands: { sheetId: "r", me, isLead, nameOf: (id) => (id === "a" ? "Ada" : "Bo") },
  });
}

describe("the gate that takes a lock off", () => {
  it("is for who put it on", () => {
    expect(gateOut("a")).not.toContain("This lock is");
    expect(gateOut("a")).toContain("Tick each first");
  });

  it("says to anybody else whose lock it is, and lets a lead lift it", () => {
    expect(gateOut("b")).toContain("This lock is Ada’s.");
    expect(gateOut("b")).toContain("Not your lock");
    expect(gateOut("b")).not.toContain("Lift the lock");
    expect(gateOut("b", { isLead: true })).toContain("Lift the lock");
  });

  it("is for who took the sheet over, and for anybody once the lock was lifted", () => {
    const at = "2026-06-10T09:00:00Z";
    const base = { runId: "r", at, device: "d" };
    const handed: RunEvent = { ...base, id: "h", by: "a", type: "handed-over", to: "b" };
    expect(gateOut("b", { entries: [...WORKED, handed] })).toContain("Tick each first");
    expect(gateOut("a", { entries: [...WORKED, handed] })).toContain("This lock is Bo’s.");
    const lifted: RunEvent = { ...base, id: "l", by: "lead", type: "lock-lifted", state: "isolated", reason: "gone" };
    expect(gateOut("b", { entries: [...WORKED, lifted] })).toContain("Tick each first");
  });
});
