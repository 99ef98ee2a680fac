import { addDays, type OpenItem, type Procedure, WANTED_WITHIN_DAYS } from "@core";

import { clipped } from "~/kit/clipped";
import { shortDay } from "~/kit/days/day-time";

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

const SEVERITY = { unsafe: "Unsafe", major: "Major", minor: "Minor" } as const;

/** How bad an item is. */
export const severityWord = (severity: OpenItem["severity"]): string => SEVERITY[severity];

/** Why an item is wanted by its day: by how bad it is, unless a person has set it. */
export function wantedWhy(
  one: Pick<OpenItem, "severity"> & { wantedBy: string },
  arisenOn: string,
  today: string,
): string[] {
  const say = (day: string): string => shortDay(day, today);
  const within = WANTED_WITHIN_DAYS[one.severity];
  const usual = addDays(arisenOn, within);
  const rule = `${severityWord(one.severity)}: wanted ${within === 0 ? "on the day" : `within ${within} days`} of being left open (common practice).`;
  const sum = `Left open on ${say(arisenOn)}${within === 0 ? "" : `, and ${within} days is ${say(usual)}`}.`;
  return one.wantedBy === usual ? [rule, sum] : [rule, sum, `${say(one.wantedBy)} was set for it since.`];
}

/** One title for what is left of a machine. */
export function workTitle(titles: readonly string[]): string {
  return titles.length === 1 ? (titles[0] ?? "") : clipped(`${titles.length} left open: ${titles.join("; ")}`, 200);
}
