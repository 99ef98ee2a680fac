import { foldRun, must, sheetSteps } from "@core";

import { shipped, TestLog } from "../../core/sheet/testing/runs";
import { outcomeOf } from "./step-outcome";

const outcome = (procedureId: string, step: string, log: TestLog): string => {
  const procedure = shipped(procedureId);
  return outcomeOf(
    must(
      sheetSteps(procedure, foldRun(procedure, log.events), { options: ["side-brooms"] }).find(
        (one) => one.step === step,
      ),
    ),
  );
};

it.each([
  [12, "! cut short: 12 min"],
  [17, "17 min"],
  [25, "! over the maximum: 25 min"],
])("a soak of %d minutes: %s", (minutes, words) => {
  const log = new TestLog();
  log.soak("chlorine-soak", minutes);
  expect(outcome("slide-stainer-chambers", "chlorine-soak", log)).toBe(words);
});

it("never rounds a soak that is cut short up to its minimum", () => {
  const log = new TestLog();
  log.soak("chlorine-soak", 14.99);
  expect(outcome("slide-stainer-chambers", "chlorine-soak", log)).toBe("! cut short: 14.9 min");
});

it("gives the latest reading of each point in order, and marks what is out", () => {
  const log = new TestLog();
  log.read("main-bristle", 2.4, "in", 2);
  log.read("main-bristle", 1.9, "in", 0);
  log.read("main-bristle", 2.1, "in", 1);
  log.read("main-bristle", 2.2, "in", 0);
  expect(outcome("ride-on-sweeper-daily", "main-bristle", log)).toBe("2.2 · 2.1 · 2.4 in");
  log.read("main-bristle", 1.5, "in", 1);
  expect(outcome("ride-on-sweeper-daily", "main-bristle", log)).toBe("2.2 · 1.5 ! · 2.4 in");
});

it("says why something was left, skipped or does not apply", () => {
  const log = new TestLog();
  log.read("polish-mark", 2, "in");
  log.add({ type: "step-done", step: "polish-mark", round: 1, reason: "Knob seized" });
  log.add({ type: "step-skipped", step: "battery", round: 1, reason: "Locked" });
  log.add({ type: "step-not-applicable", step: "filter", round: 1, reason: "No filter" });
  expect(outcome("ride-on-sweeper-daily", "polish-mark", log)).toBe("2 ! in, left so: Knob seized");
  expect(outcome("ride-on-sweeper-daily", "battery", log)).toBe("Skipped: Locked");
  expect(outcome("ride-on-sweeper-daily", "filter", log)).toBe("Not applicable: No filter");
});

it("counts parts and repetitions that are not all there yet", () => {
  const log = new TestLog();
  log.read("side-bristle", 1, "in", 0);
  log.read("side-bristle", 1, "in", 1);
  log.fit("side-new", "side-broom", "side-left");
  expect(outcome("ride-on-sweeper-daily", "side-new", log)).toBe("1 of 2 new");
  const rinse = new TestLog();
  rinse.count("rinse-eight", 3);
  expect(outcome("slide-stainer-chambers", "rinse-eight", rinse)).toBe("3 of 8");
});
