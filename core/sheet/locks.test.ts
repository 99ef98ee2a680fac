import { foldRun } from "./fold-run";
import { locksOf } from "./locks";
import { placeGates } from "./place-gates";
import type { Procedure } from "./procedure";
import type { RunEvent, RunEventBody } from "./run-event";
import { sample } from "./testing/sample";

const PROCEDURE: Procedure = placeGates({
  ...sample([
    { id: "open", kind: "do", title: "Open", state: ["isolated", "cool"] },
    { id: "try", kind: "do", title: "Try", state: ["standing"] },
    { id: "shut", kind: "do", title: "Shut", state: ["isolated"] },
  ]),
  formatVersion: 2,
  states: [
    {
      id: "isolated",
      name: "Isolated",
      excludes: ["standing"],
      in: { checks: ["Locked"], gates: ["lock-out"] },
      out: { checks: ["Lock off"] },
    },
    { id: "cool", name: "Cool", lostBy: ["standing"], in: { checks: ["Cool"] } },
    { id: "standing", name: "Standing", in: { checks: ["People clear"] } },
  ],
});
const IN = { type: "safety-confirmed", step: "gate-isolated-in-1", round: 1 } as const;
const OUT = { type: "safety-confirmed", step: "gate-isolated-out-1", round: 1 } as const;
const IN_AGAIN = { type: "safety-confirmed", step: "gate-isolated-in-2", round: 1 } as const;

/** Whose locks are on after entries, each by its person, a minute apart. */
function locks(...logged: [by: string, body: RunEventBody][]) {
  const entries = logged.map(([by, body], i): RunEvent => ({
    id: `e${i}`,
    runId: "r",
    at: `2026-06-10T08:${String(i).padStart(2, "0")}:00Z`,
    by,
    device: "d",
    ...body,
  }));
  return locksOf(PROCEDURE, foldRun(PROCEDURE, entries));
}

describe("locks", () => {
  it("belong to who went through the gate, and are off behind the gate out", () => {
    expect(locks(["ada", IN])).toEqual({
      on: [{ state: "isolated", by: "ada", at: "2026-06-10T08:00:00Z" }],
      takenOff: [],
    });
    expect(locks(["ada", IN], ["ada", OUT])).toEqual({ on: [], takenOff: [] });
    expect(locks(["ada", IN], ["ada", OUT], ["bo", IN_AGAIN]).on).toMatchObject([{ by: "bo" }]);
  });

  it("are answered for when somebody else takes them off", () => {
    expect(locks(["ada", IN], ["bo", OUT]).takenOff).toEqual([
      { step: "gate-isolated-out-1", state: "isolated", heldBy: "ada", takenOffBy: "bo", at: "2026-06-10T08:01:00Z" },
    ]);
  });

  it("pass with the sheet from the one who holds them, and from nobody else", () => {
    expect(locks(["ada", IN], ["ada", { type: "handed-over", to: "bo" }], ["bo", OUT])).toEqual({
      on: [],
      takenOff: [],
    });
    expect(locks(["ada", IN], ["bo", { type: "handed-over", to: "cy" }], ["cy", OUT]).takenOff).toHaveLength(1);
    expect(locks(["ada", IN], ["ada", OUT], ["ada", { type: "handed-over", to: "bo" }]).on).toEqual([]);
  });

  it("may be taken off by anybody once a lead has lifted them, for what they keep alone", () => {
    const lifted = { type: "lock-lifted", state: "isolated", reason: "went home" } as const;
    expect(locks(["ada", IN], ["lead", lifted]).on).toMatchObject([{ state: "isolated", by: null }]);
    expect(locks(["ada", IN], ["lead", lifted], ["bo", OUT]).takenOff).toEqual([]);
    expect(locks(["ada", IN], ["lead", { ...lifted, state: "cool" }], ["bo", OUT]).takenOff).toHaveLength(1);
  });

  it("stay with who left the machine locked for the duty that follows", () => {
    const begun: RunEventBody = {
      type: "started",
      planId: "p",
      procedureId: "x",
      procedureVersion: 1,
      begins: { states: ["isolated"], heldBy: "ada" },
    };
    expect(locks(["bo", begun]).on).toEqual([{ state: "isolated", by: "ada", at: null }]);
    expect(locks(["bo", begun], ["bo", OUT]).takenOff).toMatchObject([{ heldBy: "ada", takenOffBy: "bo" }]);
    expect(locks(["bo", begun], ["ada", { type: "handed-over", to: "bo" }], ["bo", OUT]).takenOff).toEqual([]);
  });

  it("are none where no state is kept by a lock or a tag", () => {
    expect(locks(["ada", { type: "safety-confirmed", step: "gate-cool-in-1", round: 1 }])).toEqual({
      on: [],
      takenOff: [],
    });
  });

  it("taken back never came on", () => {
    expect(locks(["ada", IN], ["ada", { type: "undone", ref: "e0" }]).on).toEqual([]);
  });
});
