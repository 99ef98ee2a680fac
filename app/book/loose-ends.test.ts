import { foldRun, type Procedure, type RunEventBody } from "@core";

import { entriesOf } from "~/testing/entries";

import { sample } from "../../core/sheet/testing/sample";
import { looseEnds } from "./loose-ends";

const PROCEDURE: Procedure = sample([], {
  formatVersion: 2,
  states: [{ id: "isolated", name: "Isolated", in: { checks: ["Locked"], gates: ["lock-out"] } }],
  steps: [
    { id: "in", kind: "safety", title: "Isolated", checks: ["Locked"], gate: { state: "isolated", way: "in" } },
    { id: "off", kind: "do", title: "Off", takesOff: [{ item: "clip", count: 4, place: "tray" }] },
    { id: "on", kind: "do", title: "On", putsBack: [{ item: "clip", count: 4 }] },
  ],
});
const ends = (...bodies: RunEventBody[]): string[] =>
  looseEnds(PROCEDURE, foldRun(PROCEDURE, entriesOf(bodies)), (id) => id.toUpperCase());
const on = (step: string) => ({ step, round: 1 });

describe("what a record leaves open", () => {
  it("says what is off, and what was left off", () => {
    expect(ends({ type: "step-done", ...on("off") })).toEqual(["Still off: 4 × clip, tray"]);
    expect(ends({ type: "step-done", ...on("off") }, { type: "step-skipped", ...on("on"), reason: "worn" })).toEqual([
      "Left off: 4 × clip",
    ]);
  });

  it("says what holds for now, and when it is over", () => {
    const interim: RunEventBody = { type: "interim", text: "Hose tied up", until: "a new one is fitted" };
    expect(ends(interim)).toEqual(["For now: Hose tied up, until a new one is fitted"]);
    expect(ends(interim, { type: "interim-ended", ref: "e0" })).toEqual(["For now, over: Hose tied up"]);
  });

  it("names whose lock is on, and who lifted one and why", () => {
    const locked: RunEventBody = { type: "safety-confirmed", ...on("in") };
    expect(ends(locked)).toEqual(["Still locked (isolated) by A"]);
    expect(ends(locked, { type: "lock-lifted", state: "isolated", reason: "key lost" })).toEqual([
      "Still locked (isolated)",
      "Lock (isolated) lifted by A: key lost",
    ]);
  });
});
