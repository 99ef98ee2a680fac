import { foldRun, type RunEvent, sheetSteps, type TimedBounds, timedBounds } from "@core";
import { getDb } from "@db";

import * as sql from "./visit.sql";

/** An open sheet in a person's hands: enough to show its clocks and to switch to it. */
export interface OpenSheet {
  runId: string;
  title: string;
  machineName: string;
  machineTag: string;
  siteName: string;
  settled: number;
  total: number;
  /** Bounds and titles of every step with a clock. */
  clocks: Record<string, TimedBounds & { title: string }>;
  /** Events that start and stop clocks. */
  clockEvents: RunEvent[];
  handedBy: string | null;
}

/** The sheets in a person's hands, oldest first: two queries. */
export async function openSheetsOf(personId: string): Promise<OpenSheet[]> {
  const db = getDb();
  const runs = await sql.runs({ personId });
  if (runs.length === 0) return [];
  const rows = await db.models.RunEvent.findAll({
    attributes: ["runId", "body"],
    where: { runId: runs.map((run) => run.runId) },
    order: ["seq"],
    raw: true,
  });
  return runs.reverse().map(({ body, expanded, options, openedBy, ...shown }) => {
    const procedure = expanded ?? body;
    const events = rows.filter((row) => row.runId === shown.runId).map((row) => row.body);
    const steps = sheetSteps(procedure, foldRun(procedure, events), { options });
    return {
      ...shown,
      settled: steps.filter((one) => one.settled).length,
      total: steps.length,
      clocks: Object.fromEntries(
        procedure.steps.flatMap((step) => {
          const bounds = timedBounds(step);
          if (!bounds) return [];
          const { minMinutes, maxMinutes } = bounds;
          return [[step.id, { title: step.title, minMinutes, ...(maxMinutes === undefined ? {} : { maxMinutes }) }]];
        }),
      ),
      clockEvents: events.filter((event) => CLOCK_EVENTS.has(event.type)),
      handedBy: openedBy === personId ? null : openedBy,
    };
  });
}

const CLOCK_EVENTS = new Set<RunEvent["type"]>(["timer-started", "timer-stopped", "safety-confirmed", "undone"]);
