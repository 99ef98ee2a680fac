import { foldRun, must, type Procedure, type RunEvent } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { publishProcedures } from "~/procedures/procedures.server";
import { addActor, closeDatabase, dutyOf, freshDatabase, importLines } from "~/testing/database";
import { workAndSign } from "~/testing/sheets";

import { OVEN } from "../../../core/visit/testing/oven-weekly";
import { simulateSheet } from "../../../db/demo/simulate-sheet";
import { appendEntries } from "./append-entries.server";
import { loadSheet, openSheet, signSheet } from "./sheets.server";

const NOW = new Date("2026-06-10T09:00:00Z");
const CHAMBER = "chamber-degreaser-then-clean-water";
const critical: Procedure = {
  ...OVEN.weekly,
  id: "oven-critical",
  plan: { triggers: OVEN.weekly.plan.triggers },
  steps: OVEN.weekly.steps.map((step) => (step.id === CHAMBER ? { ...step, critical: true } : step)),
};
let ada: Actor;

beforeAll(async () => {
  await freshDatabase();
  await publishProcedures([OVEN.daily, OVEN.weekly, critical], NOW);
  ada = await addActor("Ada");
  const lines = Array.from(
    { length: 3 },
    (_, i) => `Co,Café,,Europe/Lisbon,,,Kitchen,O-${i},Oven ${i},conveyor-oven,,2026-06-01`,
  );
  await importLines(await addActor("Lea", "lead"), lines, NOW);
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
async function workBut(tag: string, change: (entry: RunEvent) => RunEvent): Promise<string> {
  const sheetId = await openSheet(ada, await dutyOf(tag, critical.id), "phone", NOW);
  const { procedure, machine, duty } = await loadSheet(sheetId);
  const entries = simulateSheet({
    procedure,
    machine: { options: machine.options },
    sheetId,
    by: ada.id,
    startMs: NOW.getTime(),
    newId: uuidv7,
    started: { type: "started", planId: duty.id, procedureId: critical.id, procedureVersion: 1 },
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
      ? ({ ...entry, type: "step-skipped", reason: "The shop opens" } as RunEvent)
      : entry,
  );
  const { procedure, entries } = await loadSheet(skipped);
  expect(foldRun(procedure, entries).status).toBe("signed");
  expect(await completionsOf(skipped)).toEqual([]);
});
