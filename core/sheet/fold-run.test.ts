import { CoreError } from "../errors";
import { must } from "../must";
import { allRounds } from "./all-rounds";
import { foldRun } from "./fold-run";
import { missingSteps, nextSteps, sheetSteps } from "./next-steps";
import type { MachineFacts } from "./procedure";
import { runResults } from "./run-results";
import { cleanedOnce, TestLog } from "./testing/runs";
import { earlier, shipped } from "./testing/shipped";

const iceMaker = earlier("flake-ice-maker-clean-sanitise");
const sweeper = shipped("ride-on-sweeper-daily");
const printer = earlier("wide-format-printer-periodic");
const stainer = earlier("slide-stainer-chambers");
const plain = { options: [] };
const next = (procedure: typeof iceMaker, log: TestLog, machine: MachineFacts = plain) =>
  nextSteps(procedure, foldRun(procedure, log.events), machine).map((one) =>
    one.round > 1 ? `${one.step}#${one.round}` : one.step,
  );

describe("the flow of a sheet", () => {
  it("starts at the safety gate and lets nothing past it", () => {
    const log = new TestLog();
    expect(next(iceMaker, log)).toEqual(["make-safe"]);
    log.done("look-over", "ok");
    expect(next(iceMaker, log)).toEqual(["make-safe"]);
  });

  it("has fitted options only", () => {
    const log = new TestLog();
    log.safe();
    log.done("look-over", "ok");
    expect(next(iceMaker, log)).toEqual(["bearing-gap"]);
    expect(next(iceMaker, log, { options: ["water-filter"] })).toEqual(["water-filter"]);
  });

  it("takes the branch for a feeler that goes in, from exactly 0.020 in on, and wants both of the pair", () => {
    for (const gap of [0.02, 0.025]) {
      const log = new TestLog();
      log.safe();
      log.done("look-over", "ok");
      log.done("water-filter");
      log.read("bearing-gap", gap, "in");
      expect(next(iceMaker, log)).toEqual(["bearings"]);
      log.fit("bearings", "auger-bearing", "bearing-top");
      expect(next(iceMaker, log)).toEqual(["bearings"]);
      log.fit("bearings", "auger-bearing", "bearing-bottom");
      expect(next(iceMaker, log)).toEqual(["fill-cleaner"]);
    }
    const tight = new TestLog();
    tight.safe();
    tight.done("look-over", "ok");
    tight.read("bearing-gap", 0.0199, "in");
    expect(next(iceMaker, tight)).toEqual(["fill-cleaner"]);
  });

  it("offers what may be done while a soak runs, and the soak last", () => {
    const log = new TestLog();
    log.safe();
    log.done("look-over", "ok");
    log.read("bearing-gap", 0, "in");
    log.done("fill-cleaner");
    log.add({ type: "timer-started", step: "soak-cleaner", round: 1 });
    expect(next(iceMaker, log)).toEqual(["wipe-outside", "soak-cleaner"]);
    log.done("wipe-outside");
    expect(next(iceMaker, log)).toEqual(["soak-cleaner"]);
    log.add({ type: "timer-stopped", step: "soak-cleaner", round: 1 }, { after: 15 });
    expect(next(iceMaker, log)).toEqual(["freeze-out-cleaner"]);
  });

  it("lets a soak that was cut short stand again, and waits for that one", () => {
    const log = new TestLog();
    log.safe();
    log.done("look-over", "ok");
    log.read("bearing-gap", 0, "in");
    log.done("fill-cleaner");
    log.soak("soak-cleaner", 4);
    log.done("wipe-outside");
    expect(next(iceMaker, log)).toEqual(["freeze-out-cleaner"]);
    const started = log.add({ type: "timer-started", step: "soak-cleaner", round: 1 });
    expect(next(iceMaker, log)).toEqual(["soak-cleaner"]);
    expect(must(foldRun(iceMaker, log.events).steps["soak-cleaner"])).toMatchObject({
      status: "running",
      answer: null,
    });
    log.add({ type: "timer-stopped", step: "soak-cleaner", round: 1 }, { after: 16 });
    expect(next(iceMaker, log)).toEqual(["freeze-out-cleaner"]);
    expect(must(foldRun(iceMaker, log.events).steps["soak-cleaner"])).toMatchObject({ status: "done", answer: "in" });
    // Taken back, the cut short one counts again.
    log.add({ type: "undone", ref: started.id });
    expect(must(foldRun(iceMaker, log.events).steps["soak-cleaner"])).toMatchObject({
      status: "done",
      answer: "short",
    });
    // One that runs is not begun once more by a second tap, nor is one that was long enough.
    const twice = new TestLog();
    const first = twice.add({ type: "timer-started", step: "soak-cleaner", round: 1 });
    twice.add({ type: "timer-started", step: "soak-cleaner", round: 1 }, { after: 5 });
    expect(must(foldRun(iceMaker, twice.events).steps["soak-cleaner"]).timer).toMatchObject({ startedAt: first.at });
    const whole = cleanedOnce(0);
    whole.add({ type: "timer-started", step: "soak-cleaner", round: 1 });
    expect(must(foldRun(iceMaker, whole.events).steps["soak-cleaner"]).status).toBe("done");
  });

  it("repeats the whole cycle while it is not clean, each round on its own", () => {
    const log = cleanedOnce(0);
    log.done("reservoir-clean", "again");
    expect(next(iceMaker, log)).toEqual(["fill-cleaner#2"]);
    log.done("fill-cleaner", undefined, 2);
    log.soak("soak-cleaner", 16, 2);
    log.done("wipe-outside", undefined, 2);
    log.done("freeze-out-cleaner", undefined, 2);
    expect(next(iceMaker, log)).toEqual(["reservoir-clean#2"]);
    log.done("reservoir-clean", "clean", 2);
    expect(next(iceMaker, log)).toEqual(["rinse"]);
    const state = foldRun(iceMaker, log.events);
    expect(state.rounds).toEqual({ "reservoir-clean": 2 });
    expect(must(must(state.steps["soak-cleaner"]).timer).minutes).toBe(17);
    expect(must(must(state.steps["soak-cleaner#2"]).timer).minutes).toBe(16);
  });

  it.each([
    [14, "short"],
    [15, "in"],
    [20, "in"],
    [21, "long"],
  ])("judges a soak of %i minutes as %s", (minutes, verdict) => {
    const log = new TestLog();
    log.soak("chlorine-soak", minutes);
    expect(must(must(foldRun(stainer, log.events).steps["chlorine-soak"]).timer).verdict).toBe(verdict);
  });

  it("counts repetitions one by one", () => {
    const log = new TestLog();
    log.count("rinse-eight", 7);
    expect(must(foldRun(stainer, log.events).steps["rinse-eight"]).status).toBe("open");
    log.count("rinse-eight", 1);
    expect(must(foldRun(stainer, log.events).steps["rinse-eight"]).status).toBe("done");
  });

  it("keeps an adjustment open until the retest is within limits, or it is left with a reason", () => {
    const log = new TestLog();
    log.read("polish-mark", 0.5, "in");
    expect(foldRun(sweeper, log.events).steps["polish-mark"]).toMatchObject({ status: "open", answer: "low" });
    log.read("polish-mark", 1.2, "in");
    const state = must(foldRun(sweeper, log.events).steps["polish-mark"]);
    expect(state).toMatchObject({ status: "done", answer: "in" });
    expect(state.readings.map((one) => one.verdict)).toEqual(["low", "in"]);

    const left = new TestLog();
    left.read("polish-mark", 2, "in");
    left.add({ type: "step-done", step: "polish-mark", round: 1, reason: "Knob seized" });
    expect(foldRun(sweeper, left.events).steps["polish-mark"]).toMatchObject({
      status: "done",
      answer: "high",
      reason: "Knob seized",
    });
  });

  it("is done with a measurement when every point is read, out if one is", () => {
    const log = new TestLog();
    log.read("main-bristle", 2.4, "in", 0);
    log.read("main-bristle", 1.9, "in", 2);
    expect(must(foldRun(sweeper, log.events).steps["main-bristle"]).status).toBe("open");
    log.read("main-bristle", 2.2, "in", 1);
    expect(foldRun(sweeper, log.events).steps["main-bristle"]).toMatchObject({ status: "done", answer: "low" });
  });

  it("does not take a counter that was not reset", () => {
    const log = new TestLog();
    log.read("reset", 12400, "prints");
    expect(must(foldRun(printer, log.events).steps["reset"]).status).toBe("open");
    expect(missingSteps(printer, foldRun(printer, log.events), plain).some((one) => one.weight === "reset")).toBe(true);
    log.read("reset", 0, "prints");
    expect(must(foldRun(printer, log.events).steps["reset"]).status).toBe("done");
  });
});

describe("every round for the record", () => {
  it("lists the rounds of a block one after another, each with what was logged in it", () => {
    const log = cleanedOnce(0);
    log.done("reservoir-clean", "again");
    log.done("fill-cleaner", undefined, 2);
    log.soak("soak-cleaner", 16, 2);
    const listed = allRounds(iceMaker, foldRun(iceMaker, log.events), plain).map(
      (one) => `${one.step}#${one.round}${one.settled ? "" : " open"}`,
    );
    const from = listed.indexOf("fill-cleaner#1");
    expect(listed.slice(from, from + 11)).toEqual([
      "fill-cleaner#1",
      "soak-cleaner#1",
      "wipe-outside#1",
      "freeze-out-cleaner#1",
      "reservoir-clean#1",
      "fill-cleaner#2",
      "soak-cleaner#2",
      "wipe-outside#2 open",
      "freeze-out-cleaner#2 open",
      "reservoir-clean#2 open",
      "rinse#1 open",
    ]);
  });
  it("is the sheet itself where nothing was repeated", () => {
    const state = foldRun(iceMaker, cleanedOnce(0.03).events);
    expect(allRounds(iceMaker, state, plain)).toEqual(sheetSteps(iceMaker, state, plain));
  });
});

describe("undo, correction and signature", () => {
  it("takes back what an undo names, and the undo itself", () => {
    const log = new TestLog();
    log.safe();
    const done = log.done("look-over", "not-ok");
    const undo = log.add({ type: "undone", ref: done.id });
    expect(next(iceMaker, log)).toEqual(["look-over"]);
    log.add({ type: "undone", ref: undo.id });
    expect(next(iceMaker, log)).toEqual(["bearing-gap"]);
  });

  it("counts an undo that a wrong clock put before what it takes back", () => {
    const log = new TestLog();
    log.safe();
    const done = log.done("look-over", "ok");
    const undo = log.add({ type: "undone", ref: done.id });
    const early = { ...undo, at: "2026-11-24T07:00:00Z" };
    expect(foldRun(iceMaker, [early, ...log.events.slice(0, 2)]).steps["look-over"]).toBeUndefined();
  });

  it("keeps the old value, who, when and why beside a corrected one, and judges anew", () => {
    const log = new TestLog();
    const reading = log.read("bearing-gap", 0.2, "in");
    log.sign();
    log.add({ type: "corrected", ref: reading.id, set: { value: 0.002 }, why: "Typing slip" }, { by: "bo" });
    const [logged] = must(foldRun(iceMaker, log.events).steps["bearing-gap"]).readings;
    expect(logged).toMatchObject({ value: 0.002, verdict: "in" });
    expect(must(logged).corrections).toMatchObject([
      { old: { value: 0.2 }, set: { value: 0.002 }, by: "bo", why: "Typing slip" },
    ]);
  });

  it("closes with the technician's signature: later facts stand apart, and nothing is undone any more", () => {
    const log = new TestLog();
    const safe = log.safe();
    log.sign();
    log.done("look-over", "ok");
    log.add({ type: "undone", ref: safe.id });
    log.add({ type: "signed", role: "customer", method: "typed", name: "Kim" });
    const state = foldRun(iceMaker, log.events);
    expect(state.status).toBe("signed");
    expect(must(state.steps["make-safe"]).status).toBe("done");
    expect(state.steps["look-over"]).toBeUndefined();
    expect(state.afterClosing.map((event) => event.type)).toEqual(["step-done", "undone"]);
    expect(state.customerSignature).toMatchObject({ method: "typed", name: "Kim" });
    expect(nextSteps(iceMaker, state, plain)).toEqual([]);
  });

  it("ends without the work and says why", () => {
    const log = new TestLog();
    log.add({ type: "outcome", outcome: "no-access", reason: "Kitchen locked" });
    expect(foldRun(iceMaker, log.events)).toMatchObject({
      status: "ended",
      outcome: { outcome: "no-access", reason: "Kitchen locked" },
    });
  });

  it("sets events apart that name what this version does not have", () => {
    const log = new TestLog();
    log.done("polish-mark");
    log.add({ type: "undone", ref: "0190a000-0000-7000-8000-999999999999" });
    expect(
      foldRun(iceMaker, log.events)
        .unknown.map((event) => event.type)
        .sort(),
    ).toEqual(["step-done", "undone"]);
  });

  it("refuses an instant without an offset", () => {
    const log = new TestLog();
    const event = log.safe();
    expect(() => foldRun(iceMaker, [{ ...event, at: "2026-11-24T08:00:00" }])).toThrow(CoreError);
  });
});

describe("results", () => {
  it("gives the counter before and after its reset, the last one for the completion", () => {
    const log = new TestLog();
    log.read("counter", 12400, "prints");
    log.read("reset", 0, "prints");
    expect(runResults(printer, foldRun(printer, log.events), plain)).toMatchObject({
      meterReadings: [{ value: 12400 }, { value: 0 }],
      meters: { "service-counter": 0 },
    });
  });
  it("leaves out readings of options that are not fitted", () => {
    const log = new TestLog();
    log.read("side-bristle", 3, "in", 0);
    expect(runResults(sweeper, foldRun(sweeper, log.events), plain).readings).toEqual([]);
    expect(runResults(sweeper, foldRun(sweeper, log.events), { options: ["side-brooms"] }).readings).toMatchObject([
      { reading: "side-broom-bristle", value: 3 },
    ]);
  });
});
