import fc from "fast-check";

import type { SheetScript } from "../../db/demo/simulate-sheet";
import { must } from "../must";
import { allRounds } from "./all-rounds";
import { foldRun } from "./fold-run";
import { missingSteps, nextSteps, sheetSteps } from "./next-steps";
import type { Procedure } from "./procedure";
import type { RunEvent } from "./run-event";
import { runResults } from "./run-results";
import { allShipped, whole } from "./testing/shipped";
import { workedSheet } from "./testing/worked";

/** What must hold for any procedure, tried on all that ship, worked in random ways. */
const all = allShipped().map((one, _, written) => whole(one, written));

interface Work {
  procedure: Procedure;
  options: string[];
  events: RunEvent[];
}

/** Some way of working a procedure: options, branches, rounds, findings, overlong soaks. */
const work: fc.Arbitrary<Work> = fc
  .record({
    index: fc.nat(all.length - 1),
    seed: fc.nat(1_000_000),
    rounds: fc.integer({ min: 1, max: 3 }),
    usesLeft: fc.integer({ min: 0, max: 4 }),
  })
  .map(({ index, seed, rounds, usesLeft }) => {
    const procedure = must(all[index]);
    const pick = (n: number): boolean => ((seed >> (n % 20)) & 1) === 1;
    const options = procedure.options.map((one) => one.id).filter((_, i) => pick(i));
    const script: SheetScript = { rounds, notOk: [], answers: {}, waited: {} };
    procedure.steps.forEach((step, i) => {
      if (step.kind === "inspect" && pick(i)) must(script.notOk).push(step.id);
      if (step.kind === "choose") must(script.answers)[step.id] = must(step.schools[seed % step.schools.length]).id;
      if (step.kind === "decide") must(script.answers)[step.id] = must(step.branches[seed % step.branches.length]).id;
      if (step.kind === "wait" && step.maxMinutes !== undefined && pick(i))
        must(script.waited)[step.id] = step.maxMinutes + 5;
    });
    return { procedure, options, events: workedSheet(procedure, { options, script, usesLeft }) };
  });

it("one name stands for one item, and one item has one name and one unit", () => {
  const named = allShipped().flatMap(({ materials, parts, tools, protective }) => [
    ...materials,
    ...parts.map(({ item, name }) => ({ item, name, unit: "pc" })),
    ...tools.map((name) => ({ item: `tool ${name}`, name, unit: "pc" })),
    ...protective.map((name) => ({ item: `wear ${name}`, name, unit: "pc" })),
  ]);
  const names = new Map(named.map((one) => [one.name.toLowerCase(), one.item]));
  const items = new Map(named.map((one) => [one.item, one]));
  const apart = named.filter(
    ({ item, name, unit }) =>
      names.get(name.toLowerCase()) !== item || items.get(item)?.name !== name || items.get(item)?.unit !== unit,
  );
  expect(apart).toEqual([]);
});

it("every way of working comes to an end with nothing missing and nothing unknown", () => {
  fc.assert(
    fc.property(work, ({ procedure, options, events }) => {
      const state = foldRun(procedure, events);
      expect(nextSteps(procedure, state, { options })).toEqual([]);
      expect(missingSteps(procedure, state, { options })).toEqual([]);
      expect(state.unknown).toEqual([]);
      expect(state.applied).toBe(events.length);
    }),
    { numRuns: 150 },
  );
});

it("the state is the same for any order and any repetition of the same events", () => {
  fc.assert(
    fc.property(work, fc.nat(), ({ procedure, events }, seed) => {
      const once = foldRun(procedure, events);
      const shuffled = [...events, ...events.filter((_, i) => i % 3 === seed % 3)].sort(
        (a, b) => hash(a.id, seed) - hash(b.id, seed),
      );
      expect(foldRun(procedure, shuffled)).toEqual(once);
    }),
    { numRuns: 60 },
  );
});

it("half the log, then the rest, is the same as all at once; what is done stays done", () => {
  fc.assert(
    fc.property(work, fc.double({ min: 0, max: 1, noNaN: true }), ({ procedure, options, events }, share) => {
      const half = foldRun(procedure, events.slice(0, Math.floor(events.length * share)));
      const whole = foldRun(procedure, events);
      for (const [key, at] of Object.entries(half.steps))
        if (at.status === "done" && at.readings.length === 0) expect(must(whole.steps[key]).status).toBe("done");
      // What may be done next is always something that is on the sheet and not settled.
      for (const ref of nextSteps(procedure, half, { options })) {
        const one = sheetSteps(procedure, half, { options }).find(
          (step) => step.step === ref.step && step.round === ref.round,
        );
        expect(one).toBeDefined();
        expect(must(one).settled).toBe(false);
      }
    }),
    { numRuns: 80 },
  );
});

it("everything taken back leaves an empty sheet, with the log still readable", () => {
  fc.assert(
    fc.property(work, ({ procedure, events }) => {
      const back = events.slice(1).map((event, i): RunEvent => ({
        id: `undo-${String(i).padStart(6, "0")}`,
        runId: "run",
        at: "2026-06-11T08:00:00Z",
        by: "ada",
        device: "d",
        type: "undone",
        ref: event.id,
      }));
      const state = foldRun(procedure, [...events, ...back]);
      expect(state.steps).toEqual({});
      expect([state.parts, state.consumables, state.findings]).toEqual([[], [], []]);
      expect(state.undone).toHaveLength(events.length - 1);
    }),
    { numRuns: 40 },
  );
});

it("the record lists every settled step, and results name only readings of the sheet", () => {
  fc.assert(
    fc.property(work, ({ procedure, options, events }) => {
      const state = foldRun(procedure, events);
      const listed = new Set(allRounds(procedure, state, { options }).map((one) => `${one.step}#${one.round}`));
      for (const at of Object.values(state.steps)) expect(listed).toContain(`${at.step}#${at.round}`);
      const logged = new Set(events.map((event) => event.id));
      const results = runResults(procedure, state, { options });
      for (const one of [...results.readings, ...results.meterReadings]) expect(logged).toContain(one.eventId);
      expect(Object.keys(results.meters).sort()).toEqual(
        [...new Set(results.meterReadings.map((one) => one.meter))].sort(),
      );
    }),
    { numRuns: 60 },
  );
});

function hash(text: string, seed: number): number {
  let value = seed % 1013;
  for (const letter of text) value = (value * 31 + letter.charCodeAt(0)) % 100_003;
  return value;
}
