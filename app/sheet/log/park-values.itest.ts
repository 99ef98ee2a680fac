import { must, type Procedure, type RunEvent, type RunEventBody } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import { addDuty } from "~/duties/duties.server";
import type { Actor } from "~/kit/actor";
import { parkedOf as waitingOn } from "~/machines/machines.server";
import { gatewayView } from "~/outside/gateway.server";
import { settleParked } from "~/outside/parked.server";
import { publishProcedures } from "~/procedures/procedures.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines } from "~/testing/database";

import { base2 } from "../../../core/sheet/testing/lint-cases-2";
import { appendEntries } from "./append-entries.server";
import { correctFact, openSheet } from "./sheets.server";
import { signSheet } from "./sign-sheets.server";

const START = new Date("2026-06-01T09:00:00Z");
const day = (count: number): Date => new Date(START.getTime() + count * 86_400_000);
const CHECK: Procedure = {
  ...base2([
    { id: "hours", kind: "measure", title: "Hours", reading: "hours", unit: "h", meter: "hours" },
    { id: "pressure", kind: "measure", title: "Pressure", reading: "pressure", unit: "bar" },
    { id: "proof", kind: "prove", title: "Runs", expect: "Runs" },
  ]),
  id: "check",
  family: "ride-on-sweeper",
  plan: { triggers: [{ kind: "meter", meter: "hours", every: 100, basis: "completion" }] },
  options: [],
  materials: [],
  meters: [{ id: "hours", name: "Hours", unit: "h" }],
};
let ada: Actor;
let lea: Actor;
let machines = 0;

beforeAll(async () => {
  await freshDatabase();
  await publishProcedures([CHECK], START);
  [ada, lea] = [await addActor("Ada"), await addActor("Lea", "lead")];
});
afterAll(closeDatabase);

interface Machine {
  tag: string;
  id: string;
}
/** A machine that was read six times, ten days apart, with eight hours a day. */
async function known(): Promise<Machine> {
  const tag = `S-${machines++}`;
  await importLines(lea, [`Co,Works,,Europe/Lisbon,,,Hall,${tag},Sweeper,ride-on-sweeper,,2026-05-01`], START);
  const id = must(await getDb().models.Machine.findOne({ where: { tag }, raw: true })).id;
  if ((await getDb().models.Duty.count({ where: { machineId: id, procedureId: "check" } })) === 0)
    await addDuty(lea, id, { procedureId: "check", title: null }, START);
  for (let i = 0; i < 6; i++) await work(tag, day(i * 10), { hours: 2000 + i * 80, pressure: 4.2 });
  return { tag, id };
}

type Asked = Extract<RunEventBody, { type: "reading" }>["asked"];
async function work(
  tag: string,
  at: Date,
  values: { hours: number; pressure: number },
  asked: { hours?: Asked; pressure?: Asked } = {},
): Promise<{ sheetId: string; entries: RunEvent[] }> {
  const sheetId = await openSheet(ada, await dutyOf(tag, "check"), "phone", at);
  const read = (step: "hours" | "pressure", unit: string): RunEventBody => ({
    type: "reading",
    step,
    round: 1,
    value: values[step],
    unit,
    ...(asked[step] ? { asked: asked[step] } : {}),
  });
  const bodies: RunEventBody[] = [
    read("hours", "h"),
    read("pressure", "bar"),
    { type: "step-done", step: "proof", round: 1, answer: "ok" },
  ];
  const entries = bodies.map((body, i): RunEvent => ({
    id: uuidv7(),
    runId: sheetId,
    at: new Date(at.getTime() + (i + 1) * 60_000).toISOString(),
    by: ada.id,
    device: "phone",
    ...body,
  }));
  const end = new Date(at.getTime() + 600_000);
  expect((await appendEntries(ada, sheetId, entries, end)).refused).toEqual([]);
  const signature = { customer: { method: "typed", name: "Desk" }, missingReason: null, device: "phone" } as const;
  expect(await signSheet(ada, sheetId, signature, end)).toMatchObject({ signed: true });
  return { sheetId, entries };
}

const meterRows = (machine: Machine) =>
  getDb().models.MeterReading.findAll({ where: { machineId: machine.id }, order: ["readAt", "value"], raw: true });
const pressures = (machine: Machine) =>
  getDb().models.Reading.findAll({ where: { machineId: machine.id }, order: ["readAt"], raw: true });
const parkedOf = async (machine: Machine) => (await gatewayView()).parked.filter((one) => one.machineId === machine.id);
const metersOf = async (sheetId: string) =>
  must(await getDb().models.Completion.findOne({ where: { sheetId }, raw: true })).meters;
const due = async (machine: Machine) =>
  must(await getDb().models.Duty.findByPk(await dutyOf(machine.tag, "check"), { raw: true })).dueOn;

it("what nobody was asked about waits for a person, and moves no day", async () => {
  const machine = await known();
  const before = await due(machine);
  const { sheetId } = await work(machine.tag, day(60), { hours: 2.4, pressure: 42 });
  expect(await meterRows(machine)).toHaveLength(6);
  expect(await pressures(machine)).toHaveLength(6);
  expect(await metersOf(sheetId)).toEqual({});
  expect(await due(machine)).toBe(before);
  expect(await waitingOn(machine.id)).toBe(2);
  const parked = await parkedOf(machine);
  expect(parked.map(({ ref, value }) => [ref, value]).sort()).toEqual([
    ["hours", 2.4],
    ["pressure", 42],
  ]);
  expect(parked.map((one) => one.reason).join(" ")).toContain("2.4 h is not between 2400 and 2640 h");
  // Both at once; the meter is another one, then.
  await settleParked(
    lea,
    parked.map((one) => one.id),
    "taken",
    day(61),
  );
  expect((await meterRows(machine)).at(-1)).toMatchObject({ value: 2.4, replaced: true, sheetId });
  expect((await pressures(machine)).at(-1)).toMatchObject({ value: 42, unit: "bar", readOn: "2026-07-31" });
  expect(await parkedOf(machine)).toEqual([]);
  expect(await waitingOn(machine.id)).toBe(0);
});

it("what is dropped is never used, also when its sheet is settled again", async () => {
  const machine = await known();
  const { sheetId, entries } = await work(machine.tag, day(60), { hours: 2480, pressure: 42 });
  const [parked] = await parkedOf(machine);
  await settleParked(lea, [must(parked).id], "dropped", day(61));
  await correctFact(lea, sheetId, { ref: must(entries[0]).id, set: { value: 2481 }, why: "Misread" }, day(62));
  expect((await meterRows(machine)).at(-1)).toMatchObject({ value: 2481 });
  expect(await pressures(machine)).toHaveLength(6);
  expect(await parkedOf(machine)).toEqual([]);
});

it("what a person was asked about is used as it was answered", async () => {
  const machine = await known();
  const right: Asked = { answer: "right" };
  const { sheetId } = await work(
    machine.tag,
    day(60),
    { hours: 2650, pressure: 12 },
    { hours: right, pressure: right },
  );
  expect((await meterRows(machine)).at(-1)).toMatchObject({ value: 2650, replaced: false });
  expect(await metersOf(sheetId)).toEqual({ hours: 2650 });
  expect((await pressures(machine)).at(-1)).toMatchObject({ value: 12 });
  expect(await parkedOf(machine)).toEqual([]);
});

it("but not when it cannot be, whatever was answered", async () => {
  const machine = await known();
  await work(machine.tag, day(60), { hours: 9999, pressure: 4.2 }, { hours: { answer: "right" } });
  expect(await meterRows(machine)).toHaveLength(6);
  expect(await parkedOf(machine)).toMatchObject([{ ref: "hours", value: 9999 }]);
});

it("a replaced meter ends where it ended and begins where the new one begins", async () => {
  const machine = await known();
  const { sheetId } = await work(
    machine.tag,
    day(60),
    { hours: 3, pressure: 4.2 },
    { hours: { answer: "replaced", oldValue: 2475 } },
  );
  expect((await meterRows(machine)).slice(-2)).toMatchObject([
    { value: 2475, replaced: false, sheetId },
    { value: 3, replaced: true, sheetId },
  ]);
  expect(await parkedOf(machine)).toEqual([]);
  const { sheetId: next } = await work(machine.tag, day(70), { hours: 80, pressure: 4.2 });
  expect(await metersOf(next)).toEqual({ hours: 80 });
});

it("what is corrected to what can be meant waits no longer", async () => {
  const machine = await known();
  const { sheetId, entries } = await work(machine.tag, day(60), { hours: 2480, pressure: 42 });
  expect(await parkedOf(machine)).toHaveLength(1);
  await correctFact(ada, sheetId, { ref: must(entries[1]).id, set: { value: 4.2 }, why: "The point" }, day(61));
  expect(await parkedOf(machine)).toEqual([]);
  expect((await pressures(machine)).at(-1)).toMatchObject({ value: 4.2 });
});
