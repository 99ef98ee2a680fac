import { must, type Procedure, type RunEvent, type RunEventBody } from "@core";
import { getDb, type OpenItemRow } from "@db";
import { v7 as uuidv7 } from "uuid";

import { addDuty } from "~/duties/duties.server";
import { WHAT_WAS_LEFT } from "~/duties/general-procedures";
import type { Actor } from "~/kit/actor";
import { publishProcedures } from "~/procedures/procedures.server";
import { appendEntries } from "~/sheet/log/append-entries.server";
import { openSheet } from "~/sheet/log/sheets.server";
import { signSheet } from "~/sheet/log/sign-sheets.server";
import { addPlace } from "~/stores/ledger/places.server";

import { base2 } from "../../core/sheet/testing/lint-cases-2";
import { addActor, freshDatabase, importLines, publishShipped } from "./database";

export const START = new Date("2026-06-01T09:00:00Z");
export const at = (days: number, minutes = 0): Date => new Date(START.getTime() + days * 86_400_000 + minutes * 60_000);
export const CHECK: Procedure = {
  ...base2([
    { id: "gap", kind: "measure", title: "Bristle", reading: "bristle", unit: "in", limits: { min: 2 } },
    {
      id: "new",
      kind: "replace",
      title: "New broom",
      item: "test-broom",
      slots: ["front"],
      when: [{ step: "gap", is: "low" }],
      minutes: 12,
    },
    { id: "wipe", kind: "do", title: "Wipe down" },
    { id: "grease", kind: "do", title: "Grease", critical: true },
    { id: "proof", kind: "prove", title: "Runs", expect: "Runs" },
  ]),
  id: "check",
  family: "ride-on-sweeper",
  plan: { triggers: [{ kind: "calendar", every: 7, unit: "day", basis: "completion" }] },
  options: [],
  materials: [],
  parts: [{ item: "test-broom", name: "Test broom", slots: [{ id: "front", name: "Front" }] }],
};
export let ada: Actor;
export let lea: Actor;
export let depot: string;
export let van: string;
let machines = 0;

/** A firm with a depot, a van, and a procedure of which everything can be left. */
export async function beginLeft(): Promise<void> {
  await freshDatabase();
  await publishShipped();
  await publishProcedures([CHECK], START);
  [ada, lea] = [await addActor("Ada"), await addActor("Lea", "lead")];
  depot = await addPlace(lea, { kind: "depot", name: "Depot", personId: null, siteId: null }, START);
  van = await addPlace(lea, { kind: "van", name: "Van", personId: ada.id, siteId: null }, START);
}

export interface Machine {
  tag: string;
  id: string;
}
export async function machine(): Promise<Machine> {
  const tag = `S-${machines++}`;
  await importLines(lea, [`Co,Works,,Europe/Lisbon,,,Hall,${tag},Sweeper,ride-on-sweeper,,2026-05-01`], START);
  const id = must(await getDb().models.Machine.findOne({ where: { tag }, raw: true })).id;
  if ((await getDb().models.Duty.count({ where: { machineId: id, procedureId: "check" } })) === 0)
    await addDuty(lea, id, { procedureId: "check", title: null }, START);
  return { tag, id };
}

export const on = (step: string) => ({ step, round: 1 });
export const done = (step: string): RunEventBody => ({ type: "step-done", ...on(step) });
export const skipped = (step: string, reason = "No broom on the van"): RunEventBody => ({
  type: "step-skipped",
  ...on(step),
  reason,
});
export const read = (value: number): RunEventBody => ({
  type: "reading",
  ...on("gap"),
  value,
  unit: "in",
  asked: { answer: "right" },
});
export const REST = [done("wipe"), done("grease"), { type: "step-done", ...on("proof"), answer: "ok" } as RunEventBody];
export const fitted: RunEventBody = { type: "part-fitted", ...on("new"), item: "test-broom", slot: "front", qty: 1 };
export const finding = (text: string, severity: "minor" | "major" | "unsafe"): RunEventBody => ({
  type: "finding",
  text,
  severity,
});

/** Works the duty's sheet on a day and signs it, or ends it. */
export async function work(
  dutyId: string,
  day: Date,
  bodies: RunEventBody[],
): Promise<{ sheetId: string; entries: RunEvent[] }> {
  const sheetId = await openSheet(ada, dutyId, "phone", day);
  const entries = bodies.map((body, i): RunEvent => ({
    id: uuidv7(),
    runId: sheetId,
    at: new Date(day.getTime() + (i + 1) * 60_000).toISOString(),
    by: ada.id,
    device: "phone",
    ...body,
  }));
  const end = new Date(day.getTime() + 30 * 60_000);
  expect((await appendEntries(ada, sheetId, entries, end)).refused).toEqual([]);
  if (!bodies.some((one) => one.type === "outcome"))
    await signSheet(
      ada,
      sheetId,
      { customer: { method: "typed", name: "Desk" }, missingReason: "as it was", device: "phone" },
      end,
    );
  return { sheetId, entries };
}

export const rowsOf = (machineId: string): Promise<OpenItemRow[]> =>
  getDb().models.OpenItem.findAll({ where: { machineId }, order: ["arisenAt", "id"], raw: true });
export const workDuty = (machineId: string) =>
  getDb().models.Duty.findOne({
    where: { machineId, procedureId: WHAT_WAS_LEFT },
    order: [["active", "DESC"]],
    raw: true,
  });
