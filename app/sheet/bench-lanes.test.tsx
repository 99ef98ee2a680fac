import { foldRun, nextSteps, placeGates, type Procedure, type RunEventBody, sheetSteps } from "@core";
import { renderToStaticMarkup } from "react-dom/server";

import { entriesOf } from "~/testing/entries";
import { stepMarkup } from "~/testing/step-markup";

import { base2, off, on, proof, soak } from "../../core/sheet/testing/lint-cases-2";
import { BenchLanes, benchLanes } from "./bench-lanes";
import { photosOfRemoval } from "./steps/parts-of-step";

const BARE = { options: [] };
const pan = { item: "pan", count: 2, wayRound: "lip up", place: "left bench" };
const PROCEDURE: Procedure = placeGates(base2([off({ takesOff: [pan] }), soak, on(), proof]));

/** The sheet after some entries. */
function sheet(...bodies: RunEventBody[]) {
  const state = foldRun(PROCEDURE, entriesOf(bodies));
  const steps = sheetSteps(PROCEDURE, state, BARE);
  return { state, steps, next: nextSteps(PROCEDURE, state, BARE) };
}
const locked: RunEventBody = { type: "safety-confirmed", step: "gate-isolated-in-1", round: 1 };
const taken: RunEventBody = { type: "step-done", step: "off", round: 1 };
const soaking: RunEventBody = { type: "timer-started", step: "soak", round: 1 };
const soaked: RunEventBody = { type: "timer-stopped", step: "soak", round: 1 };

const bench = (given: ReturnType<typeof sheet>, now: number | null = null): string =>
  renderToStaticMarkup(
    <BenchLanes {...given} ledger={given.state.ledger} shown={null} now={now} onOpen={() => undefined} />,
  );
const card = (given: ReturnType<typeof sheet>, step: string): string => {
  const one = given.steps.find((candidate) => candidate.step === step);
  if (!one) throw new Error(`no ${step}`);
  return stepMarkup(PROCEDURE, given.state, one);
};

describe("the bench beside a sheet", () => {
  it("is not there while nothing is off", () => {
    expect(bench(sheet(locked))).toBe("");
  });

  it("says what is off, what to do with it, how long it still soaks, and when it can go back on", () => {
    expect(bench(sheet(locked, taken))).toMatch(/Bench: 2 parts off, 1 to do now.*2 × pan.*Soak.*now/);
    const going = bench(sheet(locked, taken, soaking), Date.parse("2026-06-10T08:05:00Z"));
    expect(going).toMatch(/Bench: 2 parts off<.*Soak.*7:00 left/);
    expect(bench(sheet(locked, taken, soaking), Date.parse("2026-06-10T08:15:00Z"))).toMatch(/1 to do now.*>ready</);
    const over = sheet(locked, taken, soaking, soaked);
    expect(benchLanes(over.steps, over.next, over.state.ledger)).toEqual([
      { path: "pan", parts: "2 × pan", head: null },
    ]);
    expect(bench(over)).toMatch(/ready to go back on/);
  });

  it("shows at the removal what comes off, and at the refit how it was in and where it lies", () => {
    expect(card(sheet(locked), "off")).toMatch(/Comes off:.*2 × pan.*lip up.*left bench/);
    const refit = card(sheet(locked, taken, soaking, soaked), "on");
    expect(refit).toMatch(/Goes back on:.*2 × pan.*lip up.*left bench/);
    expect(refit).toMatch(/All back on.*Some missing/);
  });

  it("asks at a refit for as many as are still off", () => {
    const half = sheet(locked, taken, soaking, soaked, {
      type: "step-done",
      step: "on",
      round: 1,
      back: [{ item: "pan", count: 1 }],
    });
    const one = half.steps.find((candidate) => candidate.step === "on");
    expect(one?.settled).toBe(false);
    expect(card(half, "on")).toMatch(/Goes back on:<\/span><strong>pan<\/strong>/);
  });

  it("shows the pictures of the removal at the refit, and no others", () => {
    const { state, steps } = sheet(
      locked,
      { type: "photo", photo: "p1", step: "off", round: 1 },
      { type: "photo", photo: "p2", step: "soak", round: 1 },
      taken,
    );
    const refit = steps.find((one) => one.step === "on");
    expect(refit && photosOfRemoval(refit, PROCEDURE.steps, state.photos)).toEqual(["p1"]);
  });
});
