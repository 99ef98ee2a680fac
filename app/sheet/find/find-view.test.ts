import { findStepOf, foldRun, guideProcedure, must, placeGates, type RunEvent, sheetSteps } from "@core";

import { smallGuide } from "../../../core/faults/testing/small-guide";
import { searchOutcomes } from "./fault-outcomes";
import { chanceWords, checkLine, findView, foundOn } from "./find-view";

const procedure = placeGates(guideProcedure(smallGuide()));
const entries = (...bodies: Record<string, unknown>[]): RunEvent[] =>
  bodies.map(
    (body, i) =>
      ({
        ...{ id: `${i}`, runId: "r", at: new Date(Date.UTC(2026, 0, 5, 8, i)).toISOString(), by: "ada", device: "d" },
        ...{ round: 1, ...body },
      }) as unknown as RunEvent,
  );
const WEAK = { type: "step-done", step: "symptom", answer: "weak" };
const stateOf = (...bodies: Record<string, unknown>[]) => foldRun(procedure, entries(...bodies));
const viewOf = (...bodies: Record<string, unknown>[]) => {
  const state = stateOf(...bodies);
  const one = must(sheetSteps(procedure, state, { options: [] }).find(({ definition }) => definition.kind === "find"));
  return findView(procedure, state, one as Parameters<typeof findView>[2], [], undefined);
};

it("there is nothing to look for until it is said what is wrong", () => {
  expect(viewOf()).toBeNull();
  expect(must(viewOf(WEAK)).search.open.map(({ check }) => check.id)).toEqual(["listen", "open"]);
});

const SEARCHED = [
  WEAK,
  { type: "checked", step: "cause", check: "listen", result: "found" },
  { type: "step-done", step: "dirt-clean" },
  { type: "step-done", step: "proof", answer: "not-ok" },
  { type: "step-done", step: "again", answer: "again" },
];

it("a search that goes on keeps what was checked, and leaves out what was remedied", () => {
  const view = must(viewOf(...SEARCHED));
  expect(view.cured).toEqual(["dirt"]);
  expect(view.search.open.map(({ check }) => check.id)).toEqual(["open"]);
  expect(must(view.search.causes.find((one) => one.cause === "dirt")).chance).toBe(0);
});

it("says what was found, of the last search", () => {
  expect(foundOn(procedure, stateOf(WEAK))).toBeNull();
  expect(foundOn(procedure, stateOf(...SEARCHED.slice(0, 2)))).toMatchObject({ cause: "dirt", round: 1 });
  const second = { type: "checked", step: "cause", round: 2, check: "open", result: "found", cause: "seal" };
  expect(foundOn(procedure, stateOf(...SEARCHED, second))).toMatchObject({ cause: "seal", round: 2 });
});

it("what each search came to: cured, handed over, or not that", () => {
  const second = { type: "checked", step: "cause", round: 2, check: "open", result: "found", cause: "seal" };
  const proven = { type: "step-done", step: "proof", round: 2, answer: "ok" };
  expect(searchOutcomes(procedure, stateOf(...SEARCHED, second, proven))).toMatchObject([
    { round: 1, symptom: "weak", cause: "dirt", foundBy: "listen", outcome: "not-cured" },
    { round: 2, cause: "seal", foundBy: "open", outcome: "cured" },
  ]);
  const none = { type: "step-done", step: "cause", answer: "unknown", reason: "Nothing" };
  expect(searchOutcomes(procedure, stateOf(WEAK, none))).toMatchObject([
    { cause: "unknown", foundBy: null, outcome: "handed-over" },
  ]);
  expect(searchOutcomes(procedure, stateOf(WEAK))).toEqual([]);
});

it("says what a check showed, in the guide's words", () => {
  const state = stateOf(
    WEAK,
    { type: "checked", step: "cause", check: "listen", result: "clear" },
    { type: "checked", step: "cause", check: "open", result: "left-out", note: "No key" },
  );
  const step = must(findStepOf(procedure) ?? undefined);
  expect(must(must(state.steps["cause"]).checks).map((one) => checkLine(step, one))).toEqual([
    "Listen: Even",
    "Open it: left out: No key",
  ]);
});

it.each([
  [0, "ruled out"],
  [0.001, "under 1 %"],
  [0.42, "42 %"],
])("%d is %s", (chance, words) => expect(chanceWords(chance)).toBe(words));
