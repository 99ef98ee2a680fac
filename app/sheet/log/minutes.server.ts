import { handsOnMinutes, type LearnedMinutes, learnMinutes, type RunEvent } from "@core";
import type { Transaction } from "@db";

import * as sql from "./minutes.sql";

export interface SheetMinutes {
  sheetId: string;
  procedureId: string;
  siteId: string;
  personId: string;
  doneOn: string;
  entries: readonly RunEvent[];
}

/** Keeps what signed sheets took: worked out once, from their logs. */
export async function storeSheetMinutes(sheets: readonly SheetMinutes[], tx: Transaction): Promise<void> {
  const rows = sheets.flatMap(({ entries, ...sheet }) => {
    const minutes = handsOnMinutes(entries);
    return minutes === null || minutes <= 0 ? [] : [{ ...sheet, minutes: Math.round(minutes * 10) / 10 }];
  });
  if (rows.length === 0) return;
  const places = rows.map((_, i) => `(:r${i}, :q${i}, :s${i}, :p${i}, :d${i}, :m${i})`).join(", ");
  await sql.addSheetMinutes(
    Object.assign(
      {},
      ...rows.map((row, i) => ({
        [`r${i}`]: row.sheetId,
        [`q${i}`]: row.procedureId,
        [`s${i}`]: row.siteId,
        [`p${i}`]: row.personId,
        [`d${i}`]: row.doneOn,
        [`m${i}`]: row.minutes,
      })),
    ) as Record<string, unknown>,
    places,
    tx,
  );
}

/** Minutes to plan with, for each procedure at each site in a person's hands: one query, on one covering index. */
export async function learnedMinutes(
  wanted: readonly { procedureId: string; siteId: string; typical: number }[],
  personId: string,
): Promise<LearnedMinutes[]> {
  if (wanted.length === 0) return [];
  const rows = await sql.minutesByProcedure({ ids: [...new Set(wanted.map((one) => one.procedureId))] });
  return wanted.map(({ procedureId, siteId, typical }) =>
    learnMinutes(
      Math.max(1, typical),
      rows
        .filter((row) => row.procedureId === procedureId)
        .map((row) => ({
          minutes: row.minutes,
          sameSite: row.siteId === siteId,
          samePerson: row.personId === personId,
        })),
    ),
  );
}
