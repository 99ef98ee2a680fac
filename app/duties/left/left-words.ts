import { addDays, type OpenItem, type Procedure, severityOf } from "@core";

/** Days within which what was left is wanted, by how bad it is; common practice. */
const WANTED_DAYS = { unsafe: 0, major: 7, minor: 30 };
/** Minutes of hands-on work where the procedure says none; common practice. */
const MINUTES = { "fit-part": 15, finding: 30, incomplete: 10, "out-of-limit": 20, interim: 20 };

/** Until when an item is wanted, from the day it came about. */
export function wantedBy(one: Pick<OpenItem, "severity" | "again">, arisenOn: string): string {
  return addDays(arisenOn, WANTED_DAYS[severityOf(one)]);
}

/** What there is to do, in a line. */
export function itemTitle(one: OpenItem, procedure: Procedure, itemName: string | null): string {
  return clipped(titleOf(one, procedure, itemName), 200);
}

function titleOf(one: OpenItem, procedure: Procedure, itemName: string | null): string {
  const step = procedure.steps.find(({ id }) => id === one.step);
  switch (one.kind) {
    case "fit-part": {
      const part = procedure.parts.find(({ item }) => item === one.item);
      const slot = part && part.slots.length > 1 ? part.slots.find(({ id }) => id === one.slot) : undefined;
      return `Fit ${part?.name ?? itemName ?? "the part"}${slot ? ` (${slot.name})` : ""}`;
    }
    case "incomplete":
      return `Not done: ${step?.title ?? one.because}`;
    case "out-of-limit":
      return `Beyond its limit: ${step?.title ?? one.because}`;
    case "interim":
      return `For now: ${one.because}`;
    case "finding":
      return `Found: ${one.because}`;
  }
}

/** Hands-on minutes that an item takes. */
export function itemMinutes(one: OpenItem, procedure: Procedure): number {
  const step = procedure.steps.find(({ id }) => id === one.step);
  const own = one.kind === "fit-part" || one.kind === "incomplete" ? step?.minutes : undefined;
  return Math.max(1, Math.round(own ?? MINUTES[one.kind]));
}

/** One title for what is left of a machine. */
export function workTitle(titles: readonly string[]): string {
  return titles.length === 1 ? (titles[0] ?? "") : clipped(`${titles.length} left open: ${titles.join("; ")}`, 200);
}

function clipped(text: string, most: number): string {
  const one = text.replace(/\s+/g, " ").trim();
  return one.length <= most ? one : `${one.slice(0, most - 1).trimEnd()}…`;
}
