import { foldRun, nextSteps, type Procedure, type RunEventBody, sheetSteps, type Step } from "@core";

import { entriesOf } from "~/testing/entries";

import { sample } from "../../core/sheet/testing/sample";
import { freeMeanwhile } from "./meanwhile";

const MACHINE = { options: [] };
const OFF: RunEventBody = { type: "step-done", step: "off", round: 1 };
const SOAK: RunEventBody = { type: "timer-started", step: "soak", round: 1 };
const DESCALE: RunEventBody = { type: "timer-started", step: "descale", round: 1 };

const steps: Step[] = [
  { id: "off", kind: "do", title: "Pan off", opens: "pan", takesOff: [{ item: "pan", count: 1 }] },
  { id: "soak", kind: "wait", title: "Soak the pan", path: "pan", minMinutes: 10 },
  { id: "rinse", kind: "do", title: "Rinse the pan", path: "pan" },
  { id: "descale", kind: "wait", title: "Descale", minMinutes: 20, meanwhile: ["wipe"] },
  { id: "wipe", kind: "do", title: "Wipe the door" },
  { id: "on", kind: "do", title: "Pan on", putsBack: [{ item: "pan", count: 1 }] },
  { id: "proof", kind: "prove", title: "Runs", expect: "Runs" },
];
const PROCEDURE: Procedure = sample([], { formatVersion: 2, steps });

/** What is free on a step so many minutes after eight. */
function free(step: string, minutes: number, ...bodies: RunEventBody[]) {
  const state = foldRun(PROCEDURE, entriesOf(bodies));
  const sheet = sheetSteps(PROCEDURE, state, MACHINE);
  const shown = sheet.find((one) => one.step === step);
  if (!shown) throw new Error(`${step} is not on the sheet`);
  const now = Date.parse("2026-06-10T08:00:00Z") + minutes * 60_000;
  const found = freeMeanwhile(sheet, nextSteps(PROCEDURE, state, MACHINE), shown, now);
  return found && { minutes: found.minutes, head: found.head?.step ?? null };
}

describe("what can be done while a clock runs", () => {
  it("is what stands next on the machine, until the first clock needs somebody", () => {
    expect(free("soak", 2, OFF, SOAK)).toEqual({ minutes: 9, head: "descale" });
    expect(free("descale", 3, OFF, SOAK, DESCALE)).toEqual({ minutes: 8, head: "wipe" });
  });

  it("is a clock that has run long enough, before any other machine", () => {
    const wiped: RunEventBody = { type: "step-done", step: "wipe", round: 1 };
    expect(free("descale", 5, OFF, SOAK, DESCALE, wiped)).toEqual({ minutes: 6, head: null });
    expect(free("descale", 12, OFF, SOAK, DESCALE, wiped)).toEqual({ minutes: 10, head: "soak" });
  });

  it("is nothing once the step's own clock has run long enough, or while none runs", () => {
    expect(free("soak", 12, OFF, SOAK)).toBeNull();
    expect(free("off", 0)).toBeNull();
    expect(free("descale", 5, OFF, SOAK)).toBeNull();
  });
});
