import { v7 as uuidv7 } from "uuid";

import { appendEntries } from "~/sheet/log/append-entries.server";
import { loadSheet } from "~/sheet/log/sheets.server";
import { signSheet } from "~/sheet/log/sign-sheets.server";

import { startFault } from "../app/faults/start-fault.server";
import type { Actor } from "../app/kit/actor";
import { findLink, makeLink } from "../app/kit/server/links.server";
import { reportProblem } from "../app/outside/operator.server";
import { must } from "../core/must";
import type { PastFault } from "../db/demo/faults-story";
import { simulateSheet } from "../db/demo/simulate-sheet";
import { getDb } from "../db/index";

const HOUR_MS = 3_600_000;

/** A fault from what was reported to the signature, as the app has it worked. */
export async function workFault(
  firm: { actors: ReadonlyMap<string, Actor>; machines: ReadonlyMap<string, { id: string; options: string[] }> },
  { tag, by, symptom, cause, report }: PastFault,
  at: Date,
): Promise<void> {
  const machine = must(firm.machines.get(tag));
  const actor = must(firm.actors.get(by));
  const reported = report ? await fileReport(must(firm.actors.get("jonas")), machine.id, report, at) : null;
  const begin = new Date(at.getTime() + (report?.hours ?? 0) * HOUR_MS);
  const sheetId = await startFault(actor, machine.id, { symptom, report: reported }, begin);
  const { procedure, entries: begun, duty } = await loadSheet(sheetId);
  const entries = simulateSheet({
    ...{ procedure, machine, sheetId, by: actor.id, startMs: begin.getTime(), newId: uuidv7 },
    started: { type: "started", planId: duty.id, procedureId: procedure.id, procedureVersion: procedure.version },
    script: { answers: { symptom }, ...(cause === undefined ? {} : { cause }) },
  });
  const end = new Date(Date.parse(must(entries.at(-1)).at) + 60_000);
  // That it was begun, and with what, is on the sheet.
  const { refused } = await appendEntries(actor, sheetId, entries.slice(begun.length), end);
  if (refused[0]) throw new Error(`${symptom}: ${refused[0].message}`);
  const customer = { method: "typed", name: report?.name ?? "Desk" } as const;
  const signed = await signSheet(actor, sheetId, { customer, missingReason: null, device: "demo" }, end);
  if (!signed.signed) throw new Error(`${symptom}: ${JSON.stringify(signed.missing)}`);
}

async function fileReport(
  lead: Actor,
  machineId: string,
  { name, text, stopped }: NonNullable<PastFault["report"]>,
  at: Date,
): Promise<string> {
  const link = must(await findLink(["operator"], await makeLink(lead, "operator", machineId, at)));
  await reportProblem(link, { name, text, stopped, photo: null }, at);
  const where = { linkId: link.id };
  return must(await getDb().models.ProblemReport.findOne({ where, attributes: ["id"], raw: true })).id;
}
