import { type TimerNow, timerNow } from "@core";

import type { ClockShown } from "../sheet-clocks";

export interface Ring {
  /** Of the clock and of the time it was started. */
  key: string;
  title: string;
  says: string;
  /** Past its maximum, or near it: it has to be taken out. */
  urgent: boolean;
}

type Phases = Record<string, TimerNow["phase"]>;

/**
 * Which clocks have come to something that a person must hear, and where all of them stand now. A clock that was never seen
 * rings too when its time is already up: the page was closed meanwhile.
 */
export function dueRings(
  clocks: readonly ClockShown[],
  now: number,
  before: Phases,
): { rings: Ring[]; phases: Phases } {
  const phases: Phases = {};
  const rings: Ring[] = [];
  for (const { key: clock, title, bounds, startedAt, aheadMs = 0 } of clocks) {
    const key = `${clock}@${startedAt}`;
    const { phase, says } = timerNow(bounds, Date.parse(startedAt), now + aheadMs);
    phases[key] = phase;
    if (phase !== "before-min" && phase !== before[key])
      rings.push({ key, title, says, urgent: phase === "near-max" || phase === "past-max" });
  }
  return { rings, phases };
}
