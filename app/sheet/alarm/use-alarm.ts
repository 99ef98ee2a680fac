import type { TimerNow } from "@core";
import { useEffect, useRef, useSyncExternalStore } from "react";

import type { ClockShown } from "../sheet-clocks";
import { alarm } from "./alarm";
import type { AlarmAbilities } from "./alarm-words";
import { dueRings } from "./phases";

/** What has rung already, so that a page that is loaded anew stays quiet about it. */
const RUNG = "hound-rung";

/** Rings when a clock comes to its minimum, near its maximum and past it, and keeps the screen on while one runs. */
export function useAlarm(clocks: readonly ClockShown[], now: number | null): void {
  const running = clocks.length > 0;
  useEffect(() => {
    alarm.keepScreenOn(running);
  }, [running]);
  const phases = useRef<Record<string, TimerNow["phase"]> | null>(null);
  useEffect(() => {
    if (now === null || !running) return;
    const before = phases.current ?? readRung();
    const { rings, phases: next } = dueRings(clocks, now, before);
    phases.current = next;
    if (rings.length === 0) return;
    writeRung(next);
    alarm.ring(rings);
  }, [clocks, now, running]);
}

export const useAlarmAbilities = (): AlarmAbilities =>
  useSyncExternalStore(alarm.subscribe, alarm.snapshot, alarm.serverSnapshot);

function readRung(): Record<string, TimerNow["phase"]> {
  try {
    return JSON.parse(sessionStorage.getItem(RUNG) ?? "{}") as Record<string, TimerNow["phase"]>;
  } catch {
    return {};
  }
}

function writeRung(phases: Record<string, TimerNow["phase"]>): void {
  try {
    sessionStorage.setItem(RUNG, JSON.stringify(phases));
  } catch {
    // It rings once more after the page was loaded anew.
  }
}
