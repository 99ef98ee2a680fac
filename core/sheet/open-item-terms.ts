import { addDays } from "../days/add-days";
import { must } from "../must";
import { type OpenItem, severityOf } from "./open-items";
import type { Procedure } from "./procedure";

/** Days within which what was left open is wanted, by how bad it is; common practice. */
export const WANTED_WITHIN_DAYS = { unsafe: 0, major: 7, minor: 30 } as const;

/** Minutes of hands-on work where the procedure says none; common practice. */
const MINUTES = { "fit-part": 15, finding: 30, incomplete: 10, "out-of-limit": 20, interim: 20 } as const;

/**
 * The day by which an item is wanted.
 *
 * @param arisenOn day on which it came about, YYYY-MM-DD
 * @throws CoreError for a day that does not exist
 */
export function wantedBy(one: Pick<OpenItem, "severity" | "again">, arisenOn: string): string {
  return addDays(arisenOn, must(WANTED_WITHIN_DAYS[severityOf(one)]));
}

/** Hands-on minutes that an item takes: its step's, else what such work usually takes. At least one. */
export function itemMinutes(one: Pick<OpenItem, "kind" | "step">, procedure: Procedure): number {
  const step = procedure.steps.find(({ id }) => id === one.step);
  const own = one.kind === "fit-part" || one.kind === "incomplete" ? step?.minutes : undefined;
  return Math.max(1, Math.round(own ?? MINUTES[one.kind]));
}
