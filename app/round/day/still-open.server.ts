import { locksOf, sheetSteps } from "@core";

import { foldedSheetsOf } from "~/sheet/open-sheets.server";
import { isRunning } from "~/sheet/sheet-clocks";

/** A sheet that is open at a site one is about to leave: what of it runs, is off, is locked. */
export interface StillOpen {
  sheetId: string;
  title: string;
  machineName: string;
  settled: number;
  total: number;
  /** Clocks that run. */
  running: string[];
  off: { item: string; count: number }[];
  locked: boolean;
}

/** The sheets in a person's hands at a site: what runs, is off or locked comes first. */
export async function stillOpen(personId: string, siteId: string): Promise<StillOpen[]> {
  const sheets = await foldedSheetsOf(personId, siteId);
  return sheets
    .map(({ row, procedure, state }) => {
      const steps = sheetSteps(procedure, state, { options: row.options });
      const runs = steps.filter(isRunning);
      return {
        sheetId: row.sheetId,
        title: row.title,
        machineName: row.machineName,
        settled: steps.filter((one) => one.settled).length,
        total: steps.length,
        running: runs.map((one) => one.definition.title),
        off: state.ledger.map(({ item, count }) => ({ item, count })),
        locked: locksOf(procedure, state).on.length > 0,
      };
    })
    .sort((a, b) => weight(b) - weight(a));
}

const weight = (one: StillOpen): number => 4 * one.running.length + 2 * one.off.length + (one.locked ? 1 : 0);
