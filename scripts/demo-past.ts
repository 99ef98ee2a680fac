import { v7 as uuidv7 } from "uuid";

import type { Actor } from "../app/kit/actor";
import type { PastSheet } from "../app/sheet/log/history.server";
import type { MachineFacts, Procedure } from "../core/index";
import { must } from "../core/must";
import type { pastYear } from "../db/demo/history";
import { simulateSheet } from "../db/demo/simulate-sheet";
import { METERS, SHEETS } from "../db/demo/story";

/** Meter values that the story tells of a machine, oldest first. */
export function toldMeters(
  tag: string,
  procedures: ReadonlyMap<string, Procedure>,
): Record<string, { daysAgo: number; value: number }[]> {
  const told: Record<string, { daysAgo: number; value: number }[]> = {};
  const add = (meter: string, days: number, value: number): void =>
    void (told[meter] ??= []).push({ daysAgo: days, value });
  for (const one of METERS) if (one.tag === tag) for (const [days, value] of one.readings) add(one.meter, days, value);
  for (const run of SHEETS) {
    if (run.tag !== tag) continue;
    for (const step of procedures.get(run.procedure)?.steps ?? []) {
      const value = step.kind === "measure" && step.meter ? run.script?.readings?.[step.reading]?.[0] : undefined;
      if (step.kind === "measure" && value !== undefined) add(must(step.meter), run.daysAgo, value);
    }
  }
  for (const list of Object.values(told)) list.sort((a, b) => b.daysAgo - a.daysAgo);
  return told;
}

/** One sheet of the past, signed; `slots` are brought up to what it fitted. */
export function pastSheet(
  actor: Actor,
  machine: { machineId: string; options: string[]; timeZone: string; slots: NonNullable<MachineFacts["slots"]> },
  past: ReturnType<typeof pastYear>[number],
  on: Date,
): PastSheet {
  const { procedure, dutyId, script } = past;
  const sheetId = uuidv7();
  const entries = simulateSheet({
    procedure,
    machine,
    sheetId,
    by: actor.id,
    startMs: on.getTime(),
    newId: uuidv7,
    started: { type: "started", planId: dutyId, procedureId: procedure.id, procedureVersion: procedure.version },
    script,
  });
  const at = (minutes: number): string =>
    new Date(Date.parse(must(entries.at(-1)).at) + minutes * 60_000).toISOString();
  const common = { runId: sheetId, by: actor.id, device: "demo" };
  const count = entries.length;
  entries.push({
    id: uuidv7(),
    at: at(1),
    ...common,
    type: "signed",
    role: "customer",
    method: "typed",
    name: "Site desk",
  });
  entries.push({
    id: uuidv7(),
    at: at(1),
    ...common,
    type: "signed",
    role: "technician",
    name: actor.name,
    method: "password",
    eventCount: count,
    entries: entries.map((one) => one.id),
  });
  for (const entry of entries) {
    if (entry.type === "part-fitted") {
      const uses = procedure.parts.find((part) => part.item === entry.item)?.uses ?? 1;
      machine.slots[entry.slot] = { item: entry.item, usesLeft: uses };
    }
    if (entry.type === "part-turned") machine.slots[entry.slot] = { item: entry.item, usesLeft: entry.usesLeft };
  }
  return {
    sheetId,
    dutyId,
    machineId: machine.machineId,
    options: machine.options,
    timeZone: machine.timeZone,
    procedure,
    entries,
  };
}
