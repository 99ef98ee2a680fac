import { foldRun } from "./fold-run";
import { lastResults } from "./logged-facts";
import { nextSteps } from "./next-steps";
import type { Procedure } from "./procedure";
import { base2, off, on, soak } from "./testing/lint-cases-2";
import { TestLog } from "./testing/runs";
import { doing } from "./testing/sample";

const PROCEDURE: Procedure = base2([
  doing("wipe"),
  {
    id: "proof",
    kind: "prove",
    title: "Each stop",
    expect: "The belt stands at once",
    functions: [
      { id: "left", name: "Stop", place: "left end" },
      { id: "right", name: "Stop", place: "right end" },
    ],
  },
]);

/** The proof after some tries: each a list of functions, with `!` before what failed. */
function proof(...tries: string[][]) {
  const log = new TestLog();
  log.add({ type: "step-done", step: "wipe", round: 1 });
  for (const tried of tries)
    log.add({
      type: "step-done",
      step: "proof",
      round: 1,
      answer: "ok",
      results: tried.map((one) => ({ function: one.replace("!", ""), ok: !one.startsWith("!") })),
    });
  const state = foldRun(PROCEDURE, log.events);
  const at = state.steps["proof"];
  return {
    status: at?.status ?? null,
    next: nextSteps(PROCEDURE, state, { options: [] }).map((one) => one.step),
    last: at ? [...lastResults(at)].map(([name, { ok }]) => `${ok ? "" : "!"}${name}`) : [],
    all: at?.results?.length ?? 0,
  };
}

describe("a proof of several functions", () => {
  it("holds when each has been as expected, at once or one by one", () => {
    expect(proof(["left", "right"])).toMatchObject({ status: "done", next: [] });
    expect(proof(["left"])).toMatchObject({ status: "open", next: ["proof"] });
    expect(proof(["left"], ["right"])).toMatchObject({ status: "done" });
  });

  it("stays open with one that fails, until that is tried again; what was before stays readable", () => {
    expect(proof(["left", "!right"])).toMatchObject({ status: "open", next: ["proof"], last: ["left", "!right"] });
    expect(proof(["left", "!right"], ["right"])).toMatchObject({ status: "done", last: ["left", "right"], all: 3 });
    expect(proof(["left"], ["!left", "right"])).toMatchObject({ status: "open" });
  });

  it("is not proven by functions that it does not have", () => {
    expect(proof(["left", "middle"])).toMatchObject({ status: "open", last: ["left"] });
  });

  it("takes the answer of a device that knows no functions, and no results that are not", () => {
    const log = new TestLog();
    log.add({ type: "step-done", step: "proof", round: 1, answer: "ok" });
    expect(foldRun(PROCEDURE, log.events).steps["proof"]?.status).toBe("done");
    const bad = new TestLog();
    bad.add({ type: "step-done", step: "proof", round: 1, results: [{ function: "left" }] as never });
    expect(foldRun(PROCEDURE, bad.events).unknown).toHaveLength(1);
  });

  it("is not settled by results of a step that has no functions", () => {
    const other = base2([off(), soak, on()]);
    const log = new TestLog();
    log.add({ type: "step-done", step: "off", round: 1, results: [{ function: "x", ok: false }] });
    expect(foldRun(other, log.events).steps["off"]?.status).toBe("done");
  });
});
