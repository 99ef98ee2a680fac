import { foldRun, locksOf, must, nextSteps, type Procedure, type RunEvent } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import { addDuty } from "~/duties/duties.server";
import type { Actor } from "~/kit/actor";
import { publishProcedures } from "~/procedures/procedures.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines } from "~/testing/database";
import { workAndSign } from "~/testing/sheets";

import { OVEN } from "../../../core/visit/testing/oven-weekly";
import { simulateSheet } from "../../../db/demo/simulate-sheet";
import { appendEntries } from "./append-entries.server";
import { pastTrials } from "./past-trials.server";
import { loadSheet, openSheet } from "./sheets.server";
import { signSheet } from "./sign-sheets.server";

const NOW = new Date("2026-06-10T09:00:00Z");
const CHAMBER = "chamber";
const critical: Procedure = {
  ...OVEN.weekly,
  id: "oven-critical",
  plan: { triggers: OVEN.weekly.plan.triggers },
  steps: OVEN.weekly.steps.map((step) => (step.id === CHAMBER ? { ...step, critical: true } : step)),
};
const HELD = {
  id: "isolated",
  name: "Isolated",
  in: { checks: ["Locked"], gates: ["lock-out" as const] },
  out: { checks: ["Lock off"] },
};
const shortOne = (id: string, more: Partial<Procedure>): Procedure => ({
  ...OVEN.daily,
  id,
  version: 1,
  options: [],
  materials: [],
  states: [HELD],
  ...more,
});
/** Taken apart in the evening, put together in the morning. */
const strip = shortOne("oven-strip", {
  plan: { triggers: [{ kind: "event", event: "evening" }], emits: [{ event: "stripped", on: "same-day" }] },
  leaves: { states: ["isolated"], off: ["hood"] },
  steps: [
    {
      id: "off",
      kind: "do",
      title: "Hood off",
      state: ["isolated"],
      takesOff: [{ item: "hood", count: 1, place: "rack" }],
    },
  ],
});
const assembly = shortOne("oven-assembly", {
  plan: { triggers: [{ kind: "event", event: "stripped" }] },
  steps: [
    { id: "on", kind: "do", title: "Hood on", state: ["isolated"], putsBack: [{ item: "hood", count: 1 }] },
    { id: "proof", kind: "prove", title: "Runs", expect: "Runs" },
  ],
});
let ada: Actor;
let bo: Actor;
let lea: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishProcedures([OVEN.daily, OVEN.weekly, critical, strip, assembly], NOW);
  [ada, bo, lea] = [await addActor("Ada"), await addActor("Bo"), await addActor("Lea", "lead")];
  const lines = Array.from(
    { length: 6 },
    (_, i) => `Co,Café,,Europe/Lisbon,,,Kitchen,O-${i},Oven ${i},conveyor-oven,,2026-06-01`,
  );
  await importLines(lea, lines, NOW);
});
afterAll(closeDatabase);

const completionsOf = (sheetId: string) => getDb().models.Completion.findAll({ where: { sheetId }, raw: true });

it("a sheet with states and paths is published with its gates, worked and signed, with nothing off", async () => {
  const { sheetId, state, entries } = await workAndSign(ada, "O-0", "conveyor-oven-weekly", NOW);
  expect(state).toMatchObject({ status: "signed", ledger: [], leftOff: [], unknown: [] });
  const confirmed = entries.flatMap((one) => (one.type === "safety-confirmed" ? [one.step] : []));
  expect(confirmed).toEqual(["gate-isolated-in-1", "gate-cool-in-1", "gate-isolated-out-1", "gate-powered-in-1"]);
  expect(await completionsOf(sheetId)).toHaveLength(1);
});

/** Works a sheet with one step done in another way, and signs it. */
async function workBut(
  tag: string,
  change: (entry: RunEvent) => RunEvent,
  procedureId: string = critical.id,
  now = NOW,
): Promise<string> {
  const sheetId = await openSheet(ada, await dutyOf(tag, procedureId), "phone", now);
  const { procedure, machine, duty } = await loadSheet(sheetId);
  const entries = simulateSheet({
    procedure,
    machine: { options: machine.options },
    sheetId,
    by: ada.id,
    startMs: now.getTime(),
    newId: uuidv7,
    started: { type: "started", planId: duty.id, procedureId, procedureVersion: 1 },
    script: {},
  }).slice(1);
  const end = new Date(Date.parse(must(entries.at(-1)).at) + 60_000);
  expect((await appendEntries(ada, sheetId, entries.map(change), end)).refused).toEqual([]);
  const signature = { customer: { method: "typed", name: "Desk" }, missingReason: null, device: "phone" } as const;
  expect(await signSheet(ada, sheetId, signature, end)).toMatchObject({ signed: true });
  return sheetId;
}

it("leaves the duty due when a critical step was left out, and counts it when all was done", async () => {
  const done = await workBut("O-1", (entry) => entry);
  expect(await completionsOf(done)).toHaveLength(1);
  const skipped = await workBut("O-2", (entry) =>
    entry.type === "step-done" && entry.step === CHAMBER
      ? { ...entry, type: "step-skipped", reason: "The shop opens" }
      : entry,
  );
  const { procedure, entries } = await loadSheet(skipped);
  expect(foldRun(procedure, entries).status).toBe("signed");
  expect(await completionsOf(skipped)).toEqual([]);
});

const skip =
  (step: string) =>
  (entry: RunEvent): RunEvent =>
    entry.type === "step-done" && entry.step === step
      ? { ...entry, type: "step-skipped", reason: "The shop opens" }
      : entry;
/** The procedures whose duties a sheet counts for. */
async function counted(sheetId: string): Promise<string[]> {
  const credits = (await completionsOf(sheetId)).flatMap((one) => one.credits ?? []);
  const rows = await getDb().models.Duty.findAll({ where: { id: credits }, raw: true });
  return rows.map((one) => one.procedureId).sort();
}

it("counts for the daily part when all of that was worked, whatever became of the rest", async () => {
  const [daily, weekly] = ["conveyor-oven-daily", "conveyor-oven-weekly"];
  expect(await counted(await workBut("O-3", (entry) => entry, weekly))).toEqual([daily, weekly]);
  expect(await counted(await workBut("O-4", skip("daily-brush"), weekly))).toEqual([weekly]);
  expect(await counted(await workBut("O-5", skip(CHAMBER), weekly))).toEqual([daily]);
  const due = async (tag: string, procedure: string) =>
    (await getDb().models.Duty.findByPk(await dutyOf(tag, procedure), { raw: true }))?.dueOn;
  expect(await due("O-4", "conveyor-oven-daily")).not.toBe(await due("O-5", "conveyor-oven-daily"));
});

it("begins with the lock and the parts that the duty before has left, and the lock is whose it was", async () => {
  await workAndSign(ada, "O-0", "oven-strip", NOW);
  const dutyId = await dutyOf("O-0", "oven-assembly");
  const later = new Date(NOW.getTime() + 3_600_000);
  const sheetId = await openSheet(bo, dutyId, "phone", later);
  const { procedure, entries } = await loadSheet(sheetId);
  expect(entries[0]).toMatchObject({
    begins: { states: ["isolated"], heldBy: ada.id, off: [{ item: "hood", count: 1, place: "rack" }] },
  });
  const state = foldRun(procedure, entries);
  expect(locksOf(procedure, state).on).toMatchObject([{ state: "isolated", by: ada.id }]);
  expect(nextSteps(procedure, state, { options: [] })).toEqual([{ step: "on", round: 1 }]);

  const at = (minutes: number): string => new Date(later.getTime() + minutes * 60_000).toISOString();
  const entry = (who: Actor, minutes: number, body: object): RunEvent =>
    ({ id: uuidv7(), runId: sheetId, at: at(minutes), by: who.id, device: "phone", ...body }) as RunEvent;
  const end = new Date(later.getTime() + 3_600_000);
  const lifted = { type: "lock-lifted", state: "isolated", reason: "Ada is on the ferry, the machine is in sight" };
  expect((await appendEntries(bo, sheetId, [entry(bo, 1, lifted)], end)).refused).toMatchObject([
    { code: "leads-only" },
  ]);
  expect((await appendEntries(lea, sheetId, [entry(lea, 2, lifted)], end)).refused).toEqual([]);
  const work = [
    entry(bo, 3, { type: "step-done", step: "on", round: 1 }),
    entry(bo, 4, { type: "safety-confirmed", step: "gate-isolated-out-1", round: 1 }),
    entry(bo, 5, { type: "step-done", step: "proof", round: 1, answer: "ok" }),
  ];
  expect((await appendEntries(bo, sheetId, work, end)).refused).toEqual([]);
  const worked = await loadSheet(sheetId);
  expect(locksOf(worked.procedure, foldRun(worked.procedure, worked.entries))).toEqual({ on: [], takenOff: [] });
  const signature = { customer: { method: "typed", name: "Desk" }, missingReason: null, device: "phone" } as const;
  expect(await signSheet(bo, sheetId, signature, end)).toEqual({ signed: true });

  // It was taken up: the next sheet begins with a machine that is whole.
  const next = await loadSheet(await openSheet(bo, dutyId, "phone", new Date(end.getTime() + 60_000)));
  expect(next.entries[0]).not.toHaveProperty("begins");
});

it("takes no device's word for what a machine was left in", async () => {
  const sheetId = uuidv7();
  const started = {
    id: uuidv7(),
    runId: sheetId,
    at: NOW.toISOString(),
    by: ada.id,
    device: "phone",
    type: "started",
    planId: await dutyOf("O-1", "oven-assembly"),
    procedureId: "oven-assembly",
    procedureVersion: 1,
    begins: { states: ["isolated"] },
  };
  await expect(appendEntries(ada, sheetId, [started], NOW)).rejects.toMatchObject({ code: "no-such-run" });
});

it("keeps what chemicals must not do when a device sends it all the same: the machine stops, and it never counts", async () => {
  const clean = shortOne("oven-clean", {
    states: [],
    plan: { triggers: [{ kind: "event", event: "clean" }] },
    materials: [
      { item: "descaler", name: "Descaler", qty: 1, unit: "mL", chemical: "acid" },
      { item: "bleach", name: "Bleach", qty: 1, unit: "mL", chemical: "hypochlorite" },
    ],
    steps: [
      { id: "descale", kind: "do", title: "Descale", uses: [{ item: "descaler", qty: 1 }] },
      { id: "rinse", kind: "do", title: "Rinse", rinses: true },
      { id: "bleach", kind: "do", title: "Bleach", uses: [{ item: "bleach", qty: 1 }] },
      { id: "proof", kind: "prove", title: "Runs", expect: "Runs" },
    ],
  });
  await publishProcedures([clean], NOW);
  await importLines(lea, ["Co,Café,,Europe/Lisbon,,,Kitchen,O-9,Oven 9,conveyor-oven,,2026-06-01"], NOW);
  const dutyId = await dutyOf("O-9", "oven-clean");
  const sheetId = await openSheet(ada, dutyId, "phone", NOW);
  const at = (minutes: number): string => new Date(NOW.getTime() + minutes * 60_000).toISOString();
  const entry = (minutes: number, body: object): RunEvent =>
    ({ id: uuidv7(), runId: sheetId, at: at(minutes), by: ada.id, device: "phone", ...body }) as RunEvent;
  const end = new Date(NOW.getTime() + 3_600_000);
  const work = [
    entry(1, { type: "step-done", step: "descale", round: 1 }),
    entry(2, { type: "step-skipped", step: "rinse", round: 1, reason: "hurry" }),
    entry(3, { type: "step-done", step: "bleach", round: 1 }),
    entry(4, { type: "step-done", step: "proof", round: 1, answer: "ok" }),
  ];
  expect((await appendEntries(ada, sheetId, work, end)).refused).toEqual([]);
  // Sent again it is not held twice.
  await appendEntries(ada, sheetId, work, end);
  const holds = await getDb().models.MachineHold.findAll({ where: { sheetId }, raw: true });
  expect(holds).toMatchObject([
    { entryId: must(work[2]).id, reason: expect.stringContaining("hypochlorite onto acid") },
  ]);
  const signature = { customer: { method: "typed", name: "Desk" }, missingReason: null, device: "phone" } as const;
  expect(await signSheet(ada, sheetId, signature, end)).toEqual({ signed: true });
  expect(await completionsOf(sheetId)).toEqual([]);
});

it("shows how the functions of a proof came out the last three times, with what was tried again as it came out last", async () => {
  const proven = {
    ...critical,
    id: "proven",
    steps: critical.steps.map((step) =>
      step.kind === "prove" ? { ...step, functions: [{ id: "stop", name: "Stop button" }] } : step,
    ),
  };
  await publishProcedures([proven], NOW);
  /** The third time it does not work at first. */
  const tried =
    (time: number) =>
    (entry: RunEvent): RunEvent => {
      if (entry.type !== "step-done" || entry.answer !== "ok") return entry;
      const well = { function: "stop", ok: true };
      const late = [
        { function: "stop", ok: false, note: "runs on" },
        { ...well, note: "after cleaning" },
      ];
      return { ...entry, results: time === 2 ? late : [well] };
    };
  const day = (count: number): Date => new Date(NOW.getTime() + count * 86_400_000);
  const machineId = must(await getDb().models.Machine.findOne({ where: { tag: "O-1" }, raw: true })).id;
  await addDuty(lea, machineId, { procedureId: "proven", title: null }, NOW);
  const ask = () => pastTrials(machineId, proven, "Europe/Lisbon");
  expect(await ask()).toEqual({});
  for (let i = 0; i < 4; i++) await workBut("O-1", tried(i), "proven", day(i));
  expect(await ask()).toEqual({
    stop: [3, 2, 1].map((i) => ({ on: `2026-06-${10 + i}`, ok: true, note: i === 2 ? "after cleaning" : null })),
  });
  expect(await pastTrials(machineId, critical, "Europe/Lisbon")).toEqual({});
});
