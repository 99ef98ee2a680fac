import { foldRun, type RunEvent, type RunEventBody, type RunState } from "@core";
import { v7 as uuidv7 } from "uuid";

import type { Actor } from "~/kit/actor";
import { appendEvents, loadRun, openRun, signRun } from "~/sheet/log/runs.server";

import { type RunScript, simulateRun } from "../../db/demo/simulate-run";
import { planOf } from "./database";

export interface Worked {
  runId: string;
  state: RunState;
  events: RunEvent[];
}

/** Opens a duty's sheet, works it as the script says, and signs it. */
export async function workAndSign(
  actor: Actor,
  tag: string,
  procedureId: string,
  at: Date,
  script: RunScript = {},
): Promise<Worked> {
  const runId = await openRun(actor, await planOf(tag, procedureId), "phone", at);
  const { procedure, machine, plan, slots } = await loadRun(runId);
  const events = simulateRun({
    procedure,
    machine: { options: machine.options, slots },
    runId,
    by: actor.id,
    startMs: at.getTime(),
    newId: uuidv7,
    started: { type: "started", planId: plan.id, procedureId, procedureVersion: procedure.version },
    script,
  }).slice(1);
  const end = new Date(Date.parse(events.at(-1)!.at) + 60_000);
  const { refused } = await appendEvents(actor, runId, events, end);
  if (refused.length > 0) throw new Error(JSON.stringify(refused));
  const signed = await signRun(
    actor,
    runId,
    { customer: { method: "typed", name: "Desk" }, missingReason: null, device: "phone" },
    end,
  );
  if (!signed.signed) throw new Error(JSON.stringify(signed.missing));
  const after = await loadRun(runId);
  return { runId, state: foldRun(procedure, after.events), events: after.events };
}

export function eventOf(actor: Actor, runId: string, at: Date, body: RunEventBody): RunEvent {
  return { id: uuidv7(), runId, at: at.toISOString(), by: actor.id, device: "phone", ...body };
}
