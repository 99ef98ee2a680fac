import { baselineReadings, withBaselines } from "./baselines";
import { foldRun } from "./fold-run";
import type { Begins, Procedure } from "./procedure";
import type { RunEventBody } from "./run-event";
import { base2, proof } from "./testing/lint-cases-2";
import { TestLog } from "./testing/runs";

const PROCEDURE: Procedure = base2([
  {
    id: "drop",
    kind: "measure",
    title: "Drop over the strainer",
    reading: "drop",
    unit: "kPa",
    ofClean: { reading: "drop-clean", max: 1.2 },
  },
  proof,
]);

function verdict(begins: Begins | undefined, value: number): string | undefined {
  const log = new TestLog();
  const started: RunEventBody = { type: "started", planId: "p", procedureId: "sample", procedureVersion: 1 };
  log.add(begins ? { ...started, begins } : started);
  log.add({ type: "reading", step: "drop", round: 1, value, unit: "kPa" });
  return foldRun(PROCEDURE, log.events).steps["drop"]?.readings[0]?.verdict;
}

describe("limits as ratios to the machine's own clean value", () => {
  it("are figures on a sheet that begins with it, without the tails of binary fractions", () => {
    const whole = withBaselines(PROCEDURE, { baselines: { "drop-clean": 3 } });
    expect(whole.steps[0]).toMatchObject({ limits: { max: 3.6 } });
    expect(withBaselines(whole, { baselines: { "drop-clean": 3 } })).toEqual(whole);
    expect(baselineReadings(PROCEDURE)).toEqual(["drop-clean"]);
  });

  it("judge a reading, the limit included", () => {
    expect(verdict({ baselines: { "drop-clean": 3 } }, 3.6)).toBe("in");
    expect(verdict({ baselines: { "drop-clean": 3 } }, 3.7)).toBe("high");
  });

  it("judge nothing where no clean value is known", () => {
    expect(verdict(undefined, 99)).toBe("in");
    expect(verdict({ baselines: { other: 3 } }, 99)).toBe("in");
    expect(withBaselines(PROCEDURE, null)).toBe(PROCEDURE);
  });

  it("are not what is no figure", () => {
    const log = new TestLog();
    log.add({
      type: "started",
      planId: "p",
      procedureId: "sample",
      procedureVersion: 1,
      begins: { baselines: { "drop-clean": "3" } as never },
    });
    expect(foldRun(PROCEDURE, log.events).unknown).toHaveLength(1);
  });
});
