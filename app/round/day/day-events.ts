import type { DayEventRow } from "@db";

type Event = Pick<DayEventRow, "id" | "type" | "body">;

const TAKEN_BACK = ["started", "arrived", "left", "rested", "ended"] as const;
type TakenBack = (typeof TAKEN_BACK)[number];

/** What stands of what was logged on a day: neither what was taken back nor the taking back. */
export function standing<One extends Event>(logged: readonly One[]): One[] {
  const undone = new Set(logged.flatMap((one) => (one.type === "undone" ? (one.body.ref ?? []) : [])));
  return logged.filter((one) => one.type !== "undone" && !undone.has(one.id));
}

/**
 * The last step of the day when it can be taken back: a start, an arrival, a leaving, a break, an end. What was given away with a
 * step, a site's duties or the rest of a day, does not come back with it.
 *
 * @param events those that stand, in their order
 */
export function lastToTakeBack<One extends Event>(events: readonly One[]): (One & { type: TakenBack }) | null {
  const last = events.findLast((one) => one.type !== "replanned");
  return last && isTakenBack(last) ? last : null;
}

const isTakenBack = <One extends Event>(one: One): one is One & { type: TakenBack } =>
  TAKEN_BACK.some((type) => type === one.type);

/** The site that somebody has come to and not left. */
export function whereOne(events: readonly Pick<DayEventRow, "type" | "siteId">[]): string | null {
  const last = events.findLast((one) => one.type === "arrived" || one.type === "left");
  return last?.type === "arrived" ? last.siteId : null;
}
