import { must } from "@core";
import type { AsFoundRow } from "@db";

import { sameIntervals } from "~/duties/intervals";

import * as sql from "./intervals.sql";

const PAGE = 20;
/** Findings that are shown with a proposal. */
const SHOWN = 8;
const FIRST = { at: new Date("9999-01-01"), id: "~" };

export type Proposal = sql.ListedProposal & {
  /** The last findings of its duty, oldest first. */
  history: Pick<AsFoundRow, "sheetId" | "found" | "onDay" | "afterDays" | "told" | "because">[];
  /** The rules were changed since: it can be put away only. */
  isOutdated: boolean;
};

function cursorOf(after: string | null): { at: Date; id: string } {
  const [at = "", id = ""] = (after ?? "").split(" ");
  const when = new Date(Number(at));
  return at !== "" && !Number.isNaN(when.getTime()) && /^[0-9a-f-]{36}$/.test(id) ? { at: when, id } : FIRST;
}

/** Intervals that findings ask for, or what was decided of them; newest first. */
export async function listIntervals(
  show: "open" | "decided",
  after: string | null,
): Promise<{ rows: Proposal[]; next: string | null }> {
  const status = show === "open" ? ["open"] : ["accepted", "refused"];
  const { at, id } = cursorOf(after);
  const found = await sql.proposals({ status, beforeAt: at, beforeId: id, limit: PAGE + 1 }, show === "open");
  const page = found.slice(0, PAGE);
  const dutyIds = [...new Set(page.map((one) => one.dutyId))];
  const findings = dutyIds.length === 0 ? [] : await sql.findingsOf({ dutyIds, atMost: SHOWN });
  const last = found.length > PAGE ? must(page[PAGE - 1]) : null;
  return {
    rows: page.map((one) => ({
      ...one,
      history: findings.filter((finding) => finding.dutyId === one.dutyId),
      isOutdated: one.status === "open" && !sameIntervals(one.oldRules, one.rules),
    })),
    next: last && `${last.madeAt.getTime()} ${last.id}`,
  };
}

/** How a machine was found at a duty's last services, oldest first. */
export const findingsOfDuty = (dutyId: string): Promise<AsFoundRow[]> =>
  sql.findingsOf({ dutyIds: [dutyId], atMost: SHOWN });

/** How many proposals wait for a decision. */
export const openIntervals = async (): Promise<number> => (await sql.countOpen())[0]?.n ?? 0;
