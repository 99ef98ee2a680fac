import { foldRun } from "../sheet/fold-run";
import type { Procedure, Step } from "../sheet/procedure";
import { TestLog } from "../sheet/testing/runs";
import { BLADES, sample } from "../sheet/testing/sample";
import { shipped } from "../sheet/testing/shipped";
import { fittedOnSheet, wearRules, wornValues } from "./index";

const measure = (more: object): Step => ({
  id: "edge",
  kind: "measure",
  title: "Edge",
  reading: "edge",
  unit: "mm",
  limits: { min: 3 },
  points: ["Left", "Right"],
  wears: { item: "blade", slots: ["l", "r"], per: "day", worse: "down" },
  ...more,
});
const renew: Step = { id: "new", kind: "replace", title: "New", item: "blade", slots: ["l", "r"] };
const asked: Step = { ...renew, when: [{ step: "edge", is: "low" }] };
const of = (steps: Step[]): Procedure => sample(steps, { parts: [BLADES] });

function told(procedure: Procedure, work: (log: TestLog) => void) {
  const log = new TestLog();
  log.add({ type: "started", planId: "plan", procedureId: procedure.id, procedureVersion: 1 });
  log.safe("gate");
  work(log);
  const state = foldRun(procedure, log.events);
  return {
    values: wornValues(procedure, state, { options: [] }).map(({ slot, value, stage }) => [slot, stage, value]),
    fitted: fittedOnSheet(procedure, state, false).map(({ slot, cameOut, turned }) => [slot, cameOut, turned]),
    failed: fittedOnSheet(procedure, state, true).map(({ cameOut }) => cameOut),
  };
}

describe("what a sheet says of wear", () => {
  it("is each place's value of its own slot, as found and as left", () => {
    const { values, fitted, failed } = told(of([measure({ retest: true }), asked]), (log) => {
      log.read("edge", 2.5, "mm", 0);
      log.read("edge", 3.5, "mm", 1);
      log.fit("new", "blade", "l");
      log.fit("new", "blade", "r");
      log.read("edge", 6, "mm", 0);
      log.read("edge", 6.1, "mm", 1);
    });
    expect(values).toEqual([
      ["l", "found", 2.5],
      ["r", "found", 3.5],
      ["l", "left", 6],
      ["r", "left", 6.1],
    ]);
    expect(fitted).toEqual([
      ["l", "worn", false],
      ["r", "worn", false],
    ]);
    expect(failed).toEqual(["failed", "failed"]);
  });

  it("is the worst of its places where they are all of each slot", () => {
    const worst = { item: "blade", slots: ["l", "r"], per: "day", worse: "down", worst: true };
    const { values } = told(of([measure({ wears: worst })]), (log) => {
      log.read("edge", 4, "mm", 0);
      log.read("edge", 3.2, "mm", 1);
    });
    expect(values).toEqual([
      ["l", "found", 3.2],
      ["r", "found", 3.2],
    ]);
    const up = told(of([measure({ wears: { ...worst, worse: "up" } })]), (log) => log.read("edge", 4, "mm", 0));
    expect(up.values.map((one) => one[2])).toEqual([4, 4]);
  });

  it("leaves out what does not apply, and asks a newer version where the sheet's own says nothing", () => {
    const hidden = of([measure({ when: [{ option: "knife", fitted: true }] })]);
    expect(told(hidden, (log) => log.read("edge", 4, "mm", 0)).values).toEqual([]);
    const { wears: _, ...older } = measure({}) as Extract<Step, { kind: "measure" }>;
    const log = new TestLog();
    log.add({ type: "started", planId: "plan", procedureId: "sample", procedureVersion: 1 });
    log.safe("gate");
    log.read("edge", 4, "mm", 0);
    const procedure = of([older]);
    const state = foldRun(procedure, log.events);
    expect(wornValues(procedure, state, { options: [] })).toEqual([]);
    const [rule = null] = wearRules(of([measure({})]));
    expect(wornValues(procedure, state, { options: [] }, () => rule)).toMatchObject([{ slot: "l", limit: 3 }]);
  });

  it("a part that nothing asked for was renewed by plan", () => {
    const { fitted } = told(of([renew]), (log) => {
      log.fit("new", "blade", "l");
      log.fit("new", "blade", "r");
    });
    expect(fitted.map((one) => one[1])).toEqual(["planned", "planned"]);
  });
});

describe("shipped sheets", () => {
  it("tell the wear of brooms by running hours, of bearings by days, on the side of their limits", () => {
    expect(wearRules(shipped("ride-on-sweeper-daily"))).toMatchObject([
      { reading: "main-broom-bristle", per: "running-hours", worse: "down", worst: true, limit: 2 },
      { reading: "side-broom-bristle", per: "running-hours", worse: "down", worst: false, limit: 2.5 },
    ]);
    expect(wearRules(shipped("flake-ice-maker-bearings-new"))).toMatchObject([
      { reading: "auger-bearing-gap", per: "day", worse: "up", worst: true, limit: 0.02 },
    ]);
    expect(wearRules(shipped("wash-tunnel-conveyor-monthly"))).toMatchObject([{ limit: null }]);
  });
});
