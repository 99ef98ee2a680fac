import { must } from "../must";
import { foldRun, locksOf, nextSteps, placeGates, type RunEvent, sheetSteps, statesInForce } from "../sheet/index";
import { guideProcedure, isFaultProcedure } from "./guide-procedure";
import { smallGuide } from "./testing/small-guide";

const procedure = placeGates(guideProcedure(smallGuide()));
let n = 0;
const event = (body: Record<string, unknown>, by = "ada"): RunEvent => {
  n++;
  const at = new Date(Date.UTC(2026, 0, 5, 8, 0, n)).toISOString();
  return {
    id: String(n).padStart(4, "0"),
    runId: "r",
    at,
    by,
    device: "d",
    round: 1,
    ...body,
  } as unknown as RunEvent;
};
const weak = () => event({ type: "step-done", step: "symptom", answer: "weak" });
const gate = (state: string, way = "in", more: object = {}) =>
  event({ type: "gate-passed", step: "cause", state, way, ...more });
const checked = (check: string, result: string, more: object = {}) =>
  event({ type: "checked", step: "cause", check, result, ...more });
const shown = (events: RunEvent[]): string[] =>
  sheetSteps(procedure, foldRun(procedure, events), { options: [] }).map((one) => one.step);
const next = (events: RunEvent[]): string[] =>
  nextSteps(procedure, foldRun(procedure, events), { options: [] }).map((one) => one.step);

it("is a procedure of the family's faults", () => {
  expect(procedure.id).toBe("small-machine-faults");
  expect(isFaultProcedure(procedure.id)).toBe(true);
});

it("shows the remedy of what was found alone, and leaves the lock before the proof", () => {
  const events = [weak(), gate("locked"), gate("cool"), checked("open", "found", { cause: "dirt" })];
  expect(shown(events)).toEqual(["symptom", "cause", "dirt-clean", "gate-locked-out-1", "proof"]);
  expect(next(events)).toEqual(["dirt-clean"]);
});

it("a remedy that needs what the search was in goes on in it; else it gets there first", () => {
  const inside = [weak(), gate("locked"), gate("cool"), checked("open", "found", { cause: "seal" })];
  expect(next(inside)).toEqual(["seal-new"]);
  // Seen at once, from outside: locked and cooled first.
  const seen = [weak(), event({ type: "step-done", step: "cause", answer: "seal", reason: "Seen" })];
  expect(shown(seen).slice(2)).toEqual([
    "gate-locked-in-1",
    "gate-cool-in-1",
    "seal-new",
    "gate-locked-out-1",
    "proof",
  ]);
});

it("what is not cured is searched on, in another pass; what is given up is handed over", () => {
  const first = [weak(), checked("listen", "found"), event({ type: "step-done", step: "dirt-clean" })];
  const failed = [...first, event({ type: "step-done", step: "proof", answer: "not-ok" })];
  expect(next(failed)).toEqual(["again"]);
  const on = [...failed, event({ type: "step-done", step: "again", answer: "again" })];
  expect(nextSteps(procedure, foldRun(procedure, on), { options: [] })).toEqual([{ step: "cause", round: 2 }]);
  const given = [...failed, event({ type: "step-done", step: "again", answer: "clean" })];
  expect(next(given)).toEqual(["hand-off"]);
});

it("nothing found goes to somebody else", () =>
  expect(next([weak(), event({ type: "step-done", step: "cause", answer: "unknown", reason: "None" })])).toEqual([
    "unknown-hand-off",
  ]));

it("the only cause that a check shows needs no name; of several one is wanted", () => {
  const state = foldRun(procedure, [weak(), checked("listen", "found"), checked("open", "found")]);
  expect(must(state.steps["cause"]).answer).toBe("dirt");
  expect(state.unknown).toHaveLength(1);
});

it.each([
  ["a check that is not there", () => checked("smell", "clear")],
  ["a cause that the check cannot show", () => checked("listen", "found", { cause: "seal" })],
  ["a result that is none", () => checked("listen", "perhaps")],
  ["a state that is not there", () => gate("drained")],
  ["no way", () => gate("locked", "through")],
  ["a search on another step", () => event({ type: "checked", step: "proof", check: "listen", result: "clear" })],
])("%s is kept and changes nothing", (_what, make) => {
  const state = foldRun(procedure, [weak(), make()]);
  expect(state.unknown).toHaveLength(1);
  expect(state.steps["cause"]?.checks ?? []).toEqual([]);
});

it("gates within the search count for what is in force and whose lock is on", () => {
  const state = foldRun(procedure, [weak(), gate("locked"), gate("cool")]);
  expect([...statesInForce(procedure, state)].sort()).toEqual(["cool", "locked"]);
  expect(locksOf(procedure, state).on).toEqual([expect.objectContaining({ state: "locked", by: "ada" })]);
  const out = foldRun(procedure, [weak(), gate("locked"), gate("locked", "out"), gate("running")]);
  expect([...statesInForce(procedure, out)]).toEqual(["running"]);
  expect(locksOf(procedure, out).on).toEqual([]);
});

it("somebody else's lock taken off within the search is to be answered for", () => {
  const mine = gate("locked");
  const theirs = event({ type: "gate-passed", step: "cause", state: "locked", way: "out" }, "ben");
  const { takenOff } = locksOf(procedure, foldRun(procedure, [weak(), mine, theirs]));
  expect(takenOff).toEqual([expect.objectContaining({ heldBy: "ada", takenOffBy: "ben" })]);
});

it("a check can be undone, and what it found corrected", () => {
  const found = checked("open", "found", { cause: "dirt" });
  const undone = foldRun(procedure, [weak(), found, event({ type: "undone", ref: found.id })]);
  expect(undone.steps["cause"]).toBeUndefined();
  const right = event({ type: "corrected", ref: found.id, set: { answer: "seal" }, why: "Mistapped" });
  const state = foldRun(procedure, [weak(), found, right]);
  expect(must(state.steps["cause"]).answer).toBe("seal");
  expect(state.corrections[found.id]).toEqual([expect.objectContaining({ old: { answer: "dirt" } })]);
});
