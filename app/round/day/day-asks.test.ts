import type { DayJob } from "@core";

import { asAsked, asksAt, couldAsk, type DayAsk, isKeptFree, type JobAsks, stepsOf } from "./day-asks";

const ask = (machineId: string, kind: DayAsk["kind"], more: Partial<DayAsk> = {}): DayAsk => ({
  id: `${machineId} ${kind}`,
  machineId,
  machineName: machineId,
  kind,
  ask: kind,
  steps: [],
  lead: 0,
  text: null,
  ...more,
});
const job = (id: string): DayJob => ({ id, phases: [{ kind: "hands", minutes: 10 }], windows: [[600, 700]] });

it("asks for a machine to be kept free where it is free at hours only", () => {
  const row = { machineId: "m", machineName: "Oven", procedureId: "p", freeHours: "Mo-Fr 14:00-16:00" };
  const procedure = { steps: [], options: [], states: [] } as never;
  expect(couldAsk(row, procedure, { options: [] }).map((one) => one.id)).toEqual(["m free"]);
  expect(couldAsk({ ...row, freeHours: "" }, procedure, { options: [] })).toEqual([]);
});

it("takes the hours off a duty whose machine is kept free, and leaves them otherwise", () => {
  const phases = {
    phases: [{ kind: "hands" as const, minutes: 4 }],
    bench: [],
    steps: [],
    handsOn: 4,
    waiting: 0,
    likely: [],
  };
  expect(asAsked(job("a"), phases, [ask("m", "free")])).toEqual({ id: "a", phases: phases.phases });
  expect(asAsked(job("a"), phases, [ask("m", "cool")])).toMatchObject({ windows: [[600, 700]] });
  expect(isKeptFree([ask("m", "cool")])).toBe(false);
  expect([...stepsOf([ask("m", "cool", { steps: ["a", "b"] })])]).toEqual(["a", "b"]);
});

it("asks once for what two duties of a machine gain by, in time for the one that needs it earliest", () => {
  const with30 = ask("m", "cool", { lead: 30 });
  const with60 = ask("m", "cool", { lead: 60 });
  const of = (id: string, could: DayAsk[]): JobAsks & { job: DayJob } => ({
    could: () => could,
    as: () => job(id),
    job: job(id),
  });
  const { asks, variants } = asksAt("s", [of("a", [with30]), of("b", [with60, ask("m", "free")])], (one, id) => ({
    ...one,
    value: id === "a" ? 1 : 2,
  }));
  expect(asks).toEqual([with60, ask("m", "free")]);
  expect(variants.map(({ asked, job: { id, value } }) => ({ asked, id, value }))).toEqual([
    { asked: ["m cool"], id: "a", value: 1 },
    { asked: ["m cool"], id: "b", value: 2 },
    { asked: ["m free"], id: "b", value: 2 },
    { asked: ["m cool", "m free"], id: "b", value: 2 },
  ]);
});
