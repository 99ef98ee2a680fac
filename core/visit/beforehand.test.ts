import { must } from "../must";
import type { MachineState, Procedure, Step } from "../sheet/procedure";
import { sample } from "../sheet/testing/sample";
import { allShipped, shipped, whole } from "../sheet/testing/shipped";
import { beforehandOf } from "./beforehand";
import { procedurePhases } from "./procedure-phases";

const COOL: MachineState = {
  id: "cool",
  name: "Cool",
  lostBy: ["on"],
  in: { checks: ["Cool"], gates: ["cool-down"], belowC: 40, waitMinutes: 30 },
};
const ON: MachineState = { id: "on", name: "On", in: { checks: ["On"] } };
const step = (id: string, more: object = {}): Step => ({ id, kind: "do", title: id, minutes: 5, ...more });
const of = (steps: Step[], states: MachineState[] = [ON, COOL]): Procedure =>
  whole(sample([], { formatVersion: 2, states, steps, minutes: { handsOn: 15, waiting: 30 } }), []);
const machine = { options: [] };
const asked = (procedure: Procedure): string[] => beforehandOf(procedure, machine).map((one) => one.id);

it("asks to let cool what opens by a measured temperature, as long before as it cools", () => {
  const procedure = of([step("look"), step("clean", { state: ["cool"] })]);
  expect(beforehandOf(procedure, machine)).toEqual([{ id: "cool", steps: ["gate-cool-in-1"], lead: 30, text: null }]);
});

it("asks for no cooling where only a clock opens the gate, or where the machine is looked at running before", () => {
  const byClock = { ...COOL, in: { checks: ["Cool"], waitMinutes: 30 } };
  expect(asked(of([step("clean", { state: ["cool"] })], [ON, byClock]))).toEqual([]);
  expect(asked(of([step("measure", { state: ["on"] }), step("clean", { state: ["cool"] })]))).toEqual([]);
});

it("asks for what steps say, on machines that have them", () => {
  const lid = step("lid", { beforehand: "Please open the lid", when: [{ option: "lid", fitted: true }] });
  const procedure = of([step("empty", { beforehand: "Please empty the bin" }), lid, step("work")]);
  expect(beforehandOf(procedure, machine)).toEqual([
    { id: "empty", steps: ["empty"], lead: 0, text: "Please empty the bin" },
  ]);
  expect(beforehandOf({ ...procedure, options: [{ id: "lid", name: "Lid" }] }, { options: ["lid"] })).toHaveLength(2);
});

it("leaves out the wait of a gate, whose checks stay, and the work of a step", () => {
  const procedure = of([step("empty", { beforehand: "Please" }), step("clean", { state: ["cool"] }), step("work")]);
  const done = (...ids: string[]): [number, number] => {
    const { handsOn, waiting } = procedurePhases(procedure, machine, undefined, new Set(ids));
    return [handsOn, waiting];
  };
  const [hands, waiting] = done();
  expect(waiting).toBe(30);
  expect(done("gate-cool-in-1")).toEqual([hands, 0]);
  const [less] = done("empty");
  expect(hands - must(less)).toBeGreaterThanOrEqual(4);
});

it("asks so of shipped sheets", () => {
  const all = allShipped();
  const oven = whole(shipped("conveyor-oven-weekly"), all);
  expect(beforehandOf(oven, machine)).toMatchObject([{ id: "cool", lead: 60 }]);
  expect(asked(whole(shipped("flake-ice-maker-clean-sanitise"), all))).toEqual(["ice-away"]);
  expect(asked(whole(shipped("ride-on-scrubber-daily"), all))).toEqual(["drain"]);
  // The signal is read first, with the source hot.
  expect(asked(whole(shipped("mass-spectrometer-full"), all))).toEqual([]);
});
