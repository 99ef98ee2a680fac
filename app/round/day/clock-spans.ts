import type { RunEvent } from "@core";

/** From when to when, `null` while it runs. */
export type ClockSpan = [from: number, to: number | null];

/**
 * When clocks ran, of soaks and of gates that open after a time, oldest first: several run at once where parts go their own
 * way, so that each ends with its own step. A gate's clock ends with its confirmation.
 *
 * @param entries in their order in time, undone ones left out
 */
export function clockSpans(entries: readonly RunEvent[], minute: (at: string) => number): ClockSpan[] {
  const spans: ClockSpan[] = [];
  const running = new Map<string, ClockSpan>();
  for (const entry of entries) {
    if (entry.type !== "timer-started" && entry.type !== "timer-stopped" && entry.type !== "safety-confirmed") continue;
    const key = `${entry.step} ${entry.round}`;
    const span = running.get(key);
    if (entry.type === "timer-started") {
      // A second tap on a clock that runs begins nothing.
      if (span) continue;
      const begun: ClockSpan = [minute(entry.at), null];
      spans.push(begun);
      running.set(key, begun);
    } else if (span) {
      span[1] = minute(entry.at);
      running.delete(key);
    }
  }
  return spans;
}
