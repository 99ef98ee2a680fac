import {
  foldRun,
  type Procedure,
  type RunEvent,
  type RunState,
  sheetSteps,
  type TimedBounds,
  timedBounds,
} from "@core";
import { getDb } from "@db";

import * as sql from "./open-sheets.sql";

/** An open sheet in a person's hands: enough to show its clocks and to switch to it. */
export interface OpenSheet {
  sheetId: string;
  title: string;
  machineName: string;
  machineTag: string;
  siteName: string;
  settled: number;
  total: number;
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

/** An open sheet, folded. */
interface FoldedSheet {
  row: sql.OpenSheetRow;
  procedure: Procedure;
  entries: RunEvent[];
  state: RunState;
}

/** The sheets in a person's hands, everywhere or at one site, oldest first: two queries. */
export async function foldedSheetsOf(personId: string, siteId: string | null = null): Promise<FoldedSheet[]> {
  const sheets = (await sql.openSheets({ personId })).filter((one) => siteId === null || one.siteId === siteId);
  if (sheets.length === 0) return [];
  const logged = await getDb().models.LogEntry.findAll({
    attributes: ["sheetId", "body"],
    where: { sheetId: sheets.map((sheet) => sheet.sheetId) },
    order: ["seq"],
    raw: true,
  });
  return sheets.reverse().map((row) => {
    const procedure = row.expanded ?? row.body;
    const entries = logged.filter((one) => one.sheetId === row.sheetId).map((one) => one.body);
    return { row, procedure, entries, state: foldRun(procedure, entries) };
  });
}

/** The sheets in a person's hands, as every page shows them. */
export async function openSheetsOf(personId: string): Promise<OpenSheet[]> {
  return (await foldedSheetsOf(personId)).map(({ row, procedure, entries, state }) => {
    const { sheetId, title, machineName, machineTag, siteName, openedBy, options } = row;
    const steps = sheetSteps(procedure, state, { options });
    return {
      sheetId,
      title,
      machineName,
      machineTag,
      siteName,
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
      clockEntries: entries.filter((entry) => CLOCK_ENTRIES.has(entry.type)),
      handedBy: openedBy === personId ? null : openedBy,
    };
  });
}

const CLOCK_ENTRIES = new Set<RunEvent["type"]>(["timer-started", "timer-stopped", "safety-confirmed", "undone"]);
