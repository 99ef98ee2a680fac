import { orderEvents } from "../sheet/order-events";
import type { RunEvent } from "../sheet/run-event";

/** A longer silence in a log is a break or another machine's work, not one step: it counts as this much, minutes. */
const LONGEST_GAP = 20;

/**
 * Hands-on minutes of a sheet, from its log: the time between one entry and the next, without what passed while a clock ran
 * or the sheet was paused, long silences cut.
 *
 * An estimate: work on another machine in between is only seen as a silence. It is used through medians of several sheets.
 *
 * @returns minutes, not rounded; null for a log with fewer than two entries
 */
export function handsOnMinutes(events: readonly RunEvent[]): number | null {
  const ordered = orderEvents(events).filter((event) => event.type !== "corrected");
  if (ordered.length < 2) return null;
  let minutes = 0;
  const running = new Set<string>();
  let paused = false;
  ordered.forEach((event, i) => {
    const next = ordered[i + 1];
    if (event.type === "timer-started") running.add(event.step);
    else if (event.type === "timer-stopped" || event.type === "safety-confirmed") running.delete(event.step);
    else if (event.type === "paused") paused = true;
    else if (event.type === "resumed") paused = false;
    if (!next || paused) return;
    // A clock's own end closes a wait; anything else that is logged while it runs is work done meanwhile.
    if (
      running.size > 0 &&
      (next.type === "timer-stopped" || (next.type === "safety-confirmed" && running.has(next.step)))
    )
      return;
    minutes += Math.min(LONGEST_GAP, Math.max(0, (Date.parse(next.at) - Date.parse(event.at)) / 60_000));
  });
  return minutes;
}
