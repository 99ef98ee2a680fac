import {
  foldRun,
  nextSteps,
  type RunEvent,
  type SheetStep,
  sheetSteps,
  type StepRef,
  type TimedBounds,
  timedBounds,
} from "@core";
import { getDb } from "@db";

import * as sql from "./open-sheets.sql";

/** An open sheet in a person's hands: enough to show its clocks and to switch to it. */
export interface OpenSheet {
  sheetId: string;
  dutyId: string;
  siteId: string;
  title: string;
  machineName: string;
  machineTag: string;
  siteName: string;
  settled: number;
  total: number;
  /** What can be done on it now; null while only clocks run, or when all is settled. */
  next: string | null;
  /** Bounds and titles of every step with a clock. */
  clocks: Record<string, TimedBounds & { title: string }>;
  /** Events that start and stop clocks. */
  clockEntries: RunEvent[];
  handedBy: string | null;
}

/** What the root loader gives with a page that is loaded as a whole; null with anything less. */
export interface OpenSheetsAtFirst {
  openSheets: OpenSheet[] | null;
}

/** The sheets in a person's hands, oldest first: two queries. */
export async function openSheetsOf(personId: string): Promise<OpenSheet[]> {
  const db = getDb();
  const sheets = await sql.openSheets({ personId });
  if (sheets.length === 0) return [];
  const rows = await db.models.LogEntry.findAll({
    attributes: ["sheetId", "body"],
    where: { sheetId: sheets.map((sheet) => sheet.sheetId) },
    order: ["seq"],
    raw: true,
  });
  return sheets.reverse().map(({ body, expanded, options, openedBy, ...shown }) => {
    const procedure = expanded ?? body;
    const entries = rows.filter((row) => row.sheetId === shown.sheetId).map((row) => row.body);
    const state = foldRun(procedure, entries);
    const steps = sheetSteps(procedure, state, { options });
    return {
      ...shown,
      settled: steps.filter((one) => one.settled).length,
      total: steps.length,
      next: nextToDo(steps, nextSteps(procedure, state, { options })),
      clocks: Object.fromEntries(
        procedure.steps.flatMap((step) => {
          const bounds = timedBounds(step);
          if (!bounds) return [];
          const { minMinutes, maxMinutes } = bounds;
          return [[step.id, { title: step.title, minMinutes, ...(maxMinutes === undefined ? {} : { maxMinutes }) }]];
        }),
      ),
      clockEntries: entries.filter((entry) => CLOCK_ENTRIES.has(entry.type)),
      handedBy: openedBy === personId ? null : openedBy,
    };
  });
}

function nextToDo(steps: readonly SheetStep[], next: readonly StepRef[]): string | null {
  for (const ref of next) {
    const one = steps.find(({ step, round }) => step === ref.step && round === ref.round);
    if (one && one.state?.status !== "running") return one.definition.title;
  }
  return null;
}

const CLOCK_ENTRIES = new Set<RunEvent["type"]>(["timer-started", "timer-stopped", "safety-confirmed", "undone"]);
