import fc from "fast-check";

import { must } from "../must";
import { foldRun } from "./fold-run";
import type { RunEvent } from "./run-event";
import { cleanedOnce } from "./testing/runs";
import { earlier } from "./testing/shipped";

const iceMaker = earlier("flake-ice-maker-clean-sanitise");

describe("the same events give the same sheet", () => {
  /** Any log of a phone and a tablet on one sheet, with undos and corrections of whatever came before. */
  type Drawn = {
    kind: string;
    step: string;
    round: number;
    target: number;
    minute: number;
    device: string;
    value: number;
  };
  const steps = iceMaker.steps.map((step) => step.id);
  const body: fc.Arbitrary<Drawn> = fc.record({
    kind: fc.constantFrom(
      "done",
      "again",
      "reading",
      "start",
      "stop",
      "skip",
      "fit",
      "undo",
      "correct",
      "sign",
      "note",
    ),
    step: fc.constantFrom(...steps),
    round: fc.integer({ min: 1, max: 3 }),
    target: fc.nat(),
    minute: fc.integer({ min: 0, max: 40 }),
    device: fc.constantFrom("phone", "tablet"),
    value: fc.double({ min: 0, max: 0.05, noNaN: true }),
  });
  const logOf = (drawn: Drawn[]): RunEvent[] => {
    const ids = drawn.map((_, i) => `0190a000-0000-7000-8000-${String(i).padStart(12, "0")}`);
    return drawn.map(({ kind, step, round, target, minute, device, value }, i) => {
      const base = {
        id: must(ids[i]),
        runId: "r",
        at: new Date(Date.UTC(2026, 0, 1, 8, minute)).toISOString(),
        by: device,
        device,
      };
      const ref = must(ids[target % ids.length]);
      switch (kind) {
        case "again":
          return { ...base, type: "step-done", step: "reservoir-clean", round, answer: "again" };
        case "reading":
          return { ...base, type: "reading", step, round, value, unit: "in" };
        case "start":
          return { ...base, type: "timer-started", step: "soak-cleaner", round };
        case "stop":
          return { ...base, type: "timer-stopped", step: "soak-cleaner", round };
        case "skip":
          return { ...base, type: "step-skipped", step, round, reason: "because" };
        case "fit":
          return {
            ...base,
            type: "part-fitted",
            step: "bearings",
            round: 1,
            item: "auger-bearing",
            slot: minute % 2 ? "bearing-top" : "bearing-bottom",
            qty: 1,
          };
        case "undo":
          return { ...base, type: "undone", ref };
        case "correct":
          return { ...base, type: "corrected", ref, set: { value }, why: "slip" };
        case "sign":
          return { ...base, type: "signed", role: "technician", name: "A", method: "password", eventCount: i };
        case "note":
          return { ...base, type: "note", text: "n" };
        default:
          return { ...base, type: "step-done", step, round };
      }
    });
  };
  const shuffled = fc.array(body, { maxLength: 40 }).chain((drawn) => {
    const events = logOf(drawn);
    const again = fc.subarray(events);
    return fc.tuple(
      fc.constant(events),
      again.chain((twice) => fc.shuffledSubarray([...events, ...twice], { minLength: events.length + twice.length })),
    );
  });

  it("in any order and however often", () => {
    fc.assert(
      fc.property(shuffled, ([events, mixed]) => {
        expect(foldRun(iceMaker, mixed)).toEqual(foldRun(iceMaker, events));
      }),
      { seed: 20261124, numRuns: 500 },
    );
  });

  it("when the same batch is sent twice, and when two devices' batches arrive in either order", () => {
    fc.assert(
      fc.property(fc.array(body, { maxLength: 40 }), (drawn) => {
        const events = logOf(drawn);
        const phone = events.filter((event) => event.device === "phone");
        const tablet = events.filter((event) => event.device === "tablet");
        const expected = foldRun(iceMaker, events);
        expect(foldRun(iceMaker, [...phone, ...tablet, ...phone])).toEqual(expected);
        expect(foldRun(iceMaker, [...tablet, ...phone])).toEqual(expected);
      }),
      { seed: 20261124, numRuns: 300 },
    );
  });

  it("does not change what it was given", () => {
    const log = cleanedOnce(0.03);
    const before = JSON.stringify(log.events);
    foldRun(iceMaker, log.events);
    expect(JSON.stringify(log.events)).toBe(before);
  });
});
