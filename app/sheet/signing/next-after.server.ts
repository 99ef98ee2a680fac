import * as openSheets from "~/sheet/open-sheets.sql";

import * as sql from "./next-after.sql";

/** What is next for who has just signed. */
export interface NextAfter {
  /** Sheets still open in the person's hands at the site. */
  open: { sheetId: string; machineName: string; title: string }[];
  /** What the day still has at the site. */
  here: { dutyId: string; machineName: string; title: string }[];
  /** Sites that the day still has. */
  sites: string[];
}

/** Two queries. */
export async function nextAfter(personId: string, siteId: string, on: string): Promise<NextAfter> {
  const [open, planned] = await Promise.all([openSheets.openSheets({ personId }), sql.plannedFor({ personId, on })]);
  return {
    open: open.filter((one) => one.siteId === siteId),
    here: planned.filter((one) => one.siteId === siteId),
    sites: [...new Set(planned.filter((one) => one.siteId !== siteId).map((one) => one.siteName))],
  };
}

/** The sheets that one signature of the customer was given for, this one left out. */
export async function signedTogether(
  sheetId: string,
  signature: { sheets?: string[] } | null,
): Promise<{ sheetId: string; machineName: string }[]> {
  const sheetIds = (signature?.sheets ?? []).filter((id) => id !== sheetId);
  return sheetIds.length === 0 ? [] : sql.machinesOf({ sheetIds });
}
