import { orderEvents, undoneIds } from "./order-events";
import type { StepRef } from "./procedure";
import type { RunEvent } from "./run-event";

/** A clock of a log: a soak's, or that of a gate that opens after a time. */
export interface LoggedClock extends StepRef {
  /** Instant of the first tap: a second one on a clock that runs begins nothing. */
  startedAt: string;
  /** Null while it runs. A gate's clock ends with its confirmation. */
  stoppedAt: string | null;
}

/**
 * All clocks of a log, the oldest first. Several run at once where parts go their own way: each ends with its own step, in its
 * own pass. What was undone never was.
 */
export function loggedClocks(events: readonly RunEvent[]): LoggedClock[] {
  const ordered = orderEvents(events);
  const undone = undoneIds(ordered);
  const clocks: LoggedClock[] = [];
  const running = new Map<string, LoggedClock>();
  for (const event of ordered) {
    if (undone.has(event.id)) continue;
    if (event.type !== "timer-started" && event.type !== "timer-stopped" && event.type !== "safety-confirmed") continue;
    const { step, round, at } = event;
    const key = `${step}#${round}`;
    const clock = running.get(key);
    if (event.type === "timer-started") {
      if (clock) continue;
      const begun: LoggedClock = { step, round, startedAt: at, stoppedAt: null };
      clocks.push(begun);
      running.set(key, begun);
    } else if (clock) {
      clock.stoppedAt = at;
      running.delete(key);
    }
  }
  return clocks;
}
