import { CoreError } from "../errors";
import { foldRun, nextSteps, placeGates, type Procedure, sheetSteps, type Step } from "./index";
import { base2, COOL, ISOLATED, STANDING } from "./testing/lint-cases-2";
import { TestLog } from "./testing/runs";
import { doing } from "./testing/sample";

const DRAINED = { id: "drained", name: "Drained", in: { checks: ["Empty"] }, out: { checks: ["Drain shut"] } };
const STATES = [ISOLATED, STANDING, COOL, DRAINED];
const step = (id: string, ...state: string[]): Step => doing(id, { state });
const placed = (steps: Step[], more: Partial<Procedure> = {}): Procedure =>
  placeGates(base2(steps, { states: STATES, ...more }));
const ids = (procedure: Procedure): string[] => procedure.steps.map((one) => one.id);
const serves = (procedure: Procedure, id: string): string[] | undefined => {
  const gate = procedure.steps.find((one) => one.id === id);
  return gate?.kind === "safety" ? gate.serves : undefined;
};
const FITTED = { options: ["extra"] };
const BARE: { options: string[] } = { options: [] };
const shown = (procedure: Procedure, machine = BARE): string[] =>
  sheetSteps(procedure, foldRun(procedure, []), machine).map((one) => one.step);

describe("gates", () => {
  it("stand once where the state changes, and the way out before what needs power", () => {
    const procedure = placed([step("a", "isolated"), doing("b"), step("c", "isolated"), step("d", "standing")]);
    expect(ids(procedure)).toEqual([
      "gate-isolated-in-1",
      "a",
      "b",
      "c",
      "gate-isolated-out-1",
      "gate-standing-in-1",
      "d",
    ]);
    expect(serves(procedure, "gate-isolated-in-1")).toEqual(["a", "c"]);
    expect(serves(procedure, "gate-isolated-out-1")).toEqual(["a", "c"]);
  });

  it("are entered in the order of the states, and left in the reverse, behind the last part that moves", () => {
    const procedure = placed([
      step("a", "drained", "isolated"),
      doing("off", { takesOff: [{ item: "lid", count: 1 }] }),
      doing("on", { putsBack: [{ item: "lid", count: 1 }] }),
      doing("note"),
    ]);
    expect(ids(procedure)).toEqual([
      "gate-isolated-in-1",
      "gate-drained-in-1",
      "a",
      "off",
      "on",
      "gate-drained-out-1",
      "gate-isolated-out-1",
      "note",
    ]);
  });

  it("keep what is cool cool until it is powered, and then ask for it again", () => {
    const procedure = placed([
      step("a", "cool", "isolated"),
      step("b", "cool"),
      step("c", "standing"),
      step("d", "cool"),
    ]);
    expect(ids(procedure).filter((id) => id.includes("cool"))).toEqual(["gate-cool-in-1", "gate-cool-in-2"]);
    const gate = procedure.steps.find((one) => one.id === "gate-cool-in-1");
    expect(gate).toMatchObject({ kind: "safety", title: "Cool", checks: ["Cool"], coolDown: { belowC: 40 } });
  });

  it("carry minutes, the wait, gates and cautions of their state", () => {
    const procedure = placed([step("a", "vented")], {
      states: [
        {
          id: "vented",
          name: "Vented",
          in: {
            checks: ["No hiss"],
            minutes: 2,
            waitMinutes: 5,
            gates: ["vent"],
            cautions: ["Stand aside.", "Glasses."],
          },
          out: { checks: ["Valve shut"], minutes: 1 },
        },
      ],
    });
    expect(procedure.steps).toEqual([
      {
        id: "gate-vented-in-1",
        kind: "safety",
        title: "Vented",
        text: "Stand aside. Glasses.",
        minutes: 2,
        checks: ["No hiss"],
        gates: ["vent"],
        coolDown: { minutes: 5 },
        gate: { state: "vented", way: "in" },
        serves: ["a"],
      },
      step("a", "vented"),
      {
        id: "gate-vented-out-1",
        kind: "safety",
        title: "End of: Vented",
        minutes: 1,
        checks: ["Valve shut"],
        gate: { state: "vented", way: "out" },
        serves: ["a"],
      },
    ]);
  });

  it("leave a lock last that was off for a trial and is on again, after what was opened behind it", () => {
    const out = { checks: ["Shut"] };
    const states = [
      { id: "isolated", name: "Isolated", excludes: ["trial", "running"], in: { checks: ["Locked"] }, out },
      { id: "open", name: "Open", excludes: ["running"], in: { checks: ["Covers off"] }, out },
      { id: "trial", name: "Trial", in: { checks: ["Clear"] } },
      { id: "running", name: "Running", in: { checks: ["Clear"] } },
    ];
    const work = [step("a", "isolated", "open"), step("b", "trial"), step("c", "isolated", "open")];
    const again = ["gate-isolated-out-1", "gate-trial-in-1", "b", "gate-isolated-in-2", "c"];
    expect(ids(placed([...work, step("d", "running")], { states })).slice(2)).toEqual([
      "a",
      ...again,
      "gate-open-out-1",
      "gate-isolated-out-2",
      "gate-running-in-1",
      "d",
    ]);
    expect(ids(placed(work, { states })).slice(3)).toEqual([...again, "gate-open-out-1", "gate-isolated-out-2"]);
  });

  it("leave what the procedure leaves", () => {
    const procedure = placed([step("a", "isolated", "drained")], { leaves: { states: ["isolated"] } });
    expect(ids(procedure)).toEqual(["gate-isolated-in-1", "gate-drained-in-1", "a", "gate-drained-out-1"]);
  });

  it("are put anew, not added to, also where a block begins with one", () => {
    const once = placed([
      step("a", "isolated"),
      step("b", "standing"),
      { id: "again", kind: "repeat", title: "?", from: "a", question: "?", clean: "c", again: "a" },
    ]);
    expect(once.steps.find((one) => one.kind === "repeat")).toMatchObject({ from: "gate-isolated-in-1" });
    expect(placeGates(once)).toEqual(once);
    expect(placeGates({ ...once, states: [] }).steps.map((one) => one.id)).toEqual(["a", "b", "again"]);
  });

  it("refuse a procedure with others still nested in it", () => {
    const nested = base2([{ id: "n", kind: "nested", title: "n", procedure: "x", version: 1 }]);
    expect(() => placeGates(nested)).toThrow(CoreError);
    expect(() => placeGates(null as never)).toThrow(/procedure must be an object/);
  });
});

describe("on a sheet", () => {
  const extra = (id: string, ...state: string[]): Step =>
    doing(id, { state, when: [{ option: "extra", fitted: true }] });

  it("a gate stands while one that it serves does, and one that changes nothing is gone", () => {
    const procedure = placed([extra("a", "isolated"), extra("b", "standing"), step("c", "isolated")]);
    expect(shown(procedure, FITTED)).toEqual([
      "gate-isolated-in-1",
      "a",
      "gate-isolated-out-1",
      "gate-standing-in-1",
      "b",
      "gate-isolated-in-2",
      "c",
      "gate-isolated-out-2",
    ]);
    expect(shown(procedure)).toEqual(["gate-isolated-in-2", "c", "gate-isolated-out-2"]);
    // Without power in between it stays locked.
    const through = placed([step("a", "isolated"), extra("b", "standing"), step("c", "isolated")]);
    expect(shown(through)).toEqual(["gate-isolated-in-1", "a", "c", "gate-isolated-out-2"]);
    const later = placed([extra("a", "isolated"), step("c", "isolated")]);
    expect(shown(later)).toEqual(["gate-isolated-in-1", "c", "gate-isolated-out-1"]);
  });

  it("comes again with the pass of its block", () => {
    const procedure = placed([
      step("off", "isolated"),
      step("clean", "isolated"),
      step("run", "standing"),
      { id: "again", kind: "repeat", title: "?", from: "clean", question: "?", clean: "c", again: "a" },
    ]);
    const log = new TestLog();
    const next = (): string | undefined => nextSteps(procedure, foldRun(procedure, log.events), BARE)[0]?.step;
    const seen: string[] = [];
    for (let id = next(); id !== undefined && seen.length < 20; id = next()) {
      seen.push(id);
      const round = seen.includes("again") && id !== "off" ? 1 + Number(seen.indexOf("again") < seen.length - 1) : 1;
      if (id.startsWith("gate")) log.add({ type: "safety-confirmed", step: id, round });
      else log.done(id, id === "again" ? (round === 1 ? "again" : "clean") : undefined, round);
    }
    expect(seen.map((id) => id.replace(/-\d$/, ""))).toEqual([
      "gate-isolated-in",
      "off",
      "clean",
      "gate-isolated-out",
      "gate-standing-in",
      "run",
      "again",
      "gate-isolated-in",
      "clean",
      "gate-isolated-out",
      "gate-standing-in",
      "run",
      "again",
    ]);
  });

  it("begins with what the duty before has left", () => {
    const procedure = placed([
      step("a", "isolated"),
      doing("on", { state: ["isolated"], putsBack: [{ item: "lid", count: 1 }] }),
    ]);
    const log = new TestLog();
    log.add({
      type: "started",
      planId: "p",
      procedureId: "sample",
      procedureVersion: 1,
      begins: { states: ["isolated"], off: [{ item: "lid", count: 1, place: "bench" }] },
    });
    const state = foldRun(procedure, log.events);
    expect(state.ledger).toEqual([{ item: "lid", count: 1, place: "bench" }]);
    expect(sheetSteps(procedure, state, BARE).map((one) => one.step)).toEqual(["a", "on", "gate-isolated-out-1"]);
    log.done("on");
    expect(foldRun(procedure, log.events).ledger).toEqual([]);
  });
});
