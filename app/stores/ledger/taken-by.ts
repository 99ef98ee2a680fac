import type { RunEvent, RunState } from "@core";

export interface Taken {
  entryId: string;
  item: string;
  qty: number;
  lot: string | null;
  expires: string | null;
  by: string;
  at: string;
}

/**
 * What a sheet has taken from the stores, as its log stands: corrected quantities, without what was taken back. A step that
 * mixes a product may log it as a material too: what was logged by itself counts, once.
 */
export function takenBy(state: RunState, entries: readonly RunEvent[]): Taken[] {
  const mixed = new Set(entries.flatMap((entry) => (entry.type === "mixed" ? [entry.id] : [])));
  const logged = state.consumables.filter((one) => !mixed.has(one.eventId));
  const byItself = (one: RunState["consumables"][number]): boolean =>
    logged.some((other) => other.item === one.item && other.step === one.step && (other.round ?? 1) === one.round);
  const used = state.consumables.filter((one) => !mixed.has(one.eventId) || !byItself(one));
  // A piece that is turned to its next edge is on the machine already.
  const fitted = state.parts.filter((part) => part.turnedUsesLeft === null);
  return [...used, ...fitted]
    .map(({ eventId: entryId, item, qty, lot, expires, by, at }) => ({ entryId, item, qty, lot, expires, by, at }))
    .filter((one) => one.qty > 0);
}
