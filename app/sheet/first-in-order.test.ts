import { foldRun, nextSteps, type RunEvent, sheetSteps } from "@core";

import { TestLog } from "../../core/sheet/testing/runs";
import { doing, sample } from "../../core/sheet/testing/sample";
import { firstInOrder } from "./use-shown-step";

const procedure = sample([], {
  formatVersion: 2,
  steps: [
    doing("off", { opens: "cups", takesOff: [{ item: "cup", count: 2 }] }),
    doing("soak", { kind: "wait", path: "cups", minMinutes: 15 }),
    doing("wipe"),
    doing("rinse", { path: "cups" }),
    doing("on", { putsBack: [{ item: "cup", count: 2 }] }),
  ],
});
const machine = { options: [] };
const first = (events: RunEvent[]): string | undefined => {
  const state = foldRun(procedure, events);
  return firstInOrder(sheetSteps(procedure, state, machine), nextSteps(procedure, state, machine))?.step;
};

it("is the sheet's own order over all ways: into the soak first, then the machine, and what only waits last", () => {
  const log = new TestLog();
  const at = { step: "soak", round: 1 };
  const seen = [first(log.events)];
  const then = (...work: (() => unknown)[]): void => {
    for (const one of work) one();
    seen.push(first(log.events));
  };
  then(() => log.done("off"));
  then(() => log.add({ type: "timer-started", ...at }));
  then(() => log.done("wipe"));
  then(() => log.add({ type: "timer-stopped", ...at }, { after: 16 }));
  then(() => log.done("rinse"));
  then(() => log.done("on"));
  expect(seen).toEqual(["off", "soak", "wipe", "soak", "rinse", "on", undefined]);
});
