import { foldRun, must, type RunEvent, type RunEventBody, type RunState } from "@core";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { appendEntries } from "~/sheet/log/append-entries.server";
import { loadSheet, openSheet } from "~/sheet/log/sheets.server";
import { signSheet } from "~/sheet/log/sign-sheets.server";

import { type SheetScript, simulateSheet } from "../../db/demo/simulate-sheet";
import { dutyOf } from "./database";

export interface Worked {
  sheetId: string;
  state: RunState;
  entries: RunEvent[];
}

/** Opens a duty's sheet, works it as the script says, and signs it. */
export async function workAndSign(
  actor: Actor,
  tag: string,
  procedureId: string,
  at: Date,
  script: SheetScript = {},
): Promise<Worked> {
  const sheetId = await openSheet(actor, await dutyOf(tag, procedureId), "phone", at);
  const { procedure, machine, duty, slots, entries: opened } = await loadSheet(sheetId);
  const start = must(opened[0]);
  const entries = simulateSheet({
    procedure,
    machine: { options: machine.options, slots },
    sheetId,
    by: actor.id,
    startMs: at.getTime(),
    newId: uuidv7,
    started: {
      type: "started",
      planId: duty.id,
      procedureId,
      procedureVersion: procedure.version,
      ...(start.type === "started" && start.begins ? { begins: start.begins } : {}),
    },
    script,
  }).slice(1);
  const end = new Date(Date.parse(must(entries.at(-1)).at) + 60_000);
  const { refused } = await appendEntries(actor, sheetId, entries, end);
  if (refused.length > 0) throw new Error(JSON.stringify(refused));
  const signed = await signSheet(
    actor,
    sheetId,
    { customer: { method: "typed", name: "Desk" }, missingReason: null, device: "phone" },
    end,
  );
  if (!signed.signed) throw new Error(JSON.stringify(signed.missing));
  const after = await loadSheet(sheetId);
  return { sheetId, state: foldRun(procedure, after.entries), entries: after.entries };
}

export function entryOf(actor: Actor, sheetId: string, at: Date, body: RunEventBody): RunEvent {
  return { id: uuidv7(), runId: sheetId, at: at.toISOString(), by: actor.id, device: "phone", ...body };
}
