import { foldRun, type Procedure, type RunEvent, type RunEventBody, type RunState } from "@core";
import { useCallback, useEffect, useMemo, useRef, useSyncExternalStore } from "react";
import { v7 as uuidv7 } from "uuid";

import { timeBehind } from "./entry-time";
import { outbox } from "./outbox";
import { useServerClock } from "./use-server-clock";

const POLL_MS = 15_000;
/** What was on its way while this page was being loaded is in neither: neither in what was loaded nor among the waiting. */
const FIRST_POLL_MS = 1_000;

export interface SheetLog {
  state: RunState;
  entries: RunEvent[];
  /** Ids that the server has not acknowledged. */
  unsent: ReadonlySet<string>;
  log: (...bodies: RunEventBody[]) => void;
}

/**
 * A sheet's log on this device: what the server had, what was sent since, and what still waits, folded into the sheet by
 * the same function that the server uses.
 */
export function useSheetLog(sheetId: string, procedure: Procedure, loaded: RunEvent[], personId: string): SheetLog {
  const serverClock = useServerClock();
  const { waiting, sent } = useSyncExternalStore(outbox.subscribe, outbox.snapshot, outbox.serverSnapshot);
  const entries = useMemo(() => {
    const merged = new Map(loaded.map((entry) => [entry.id, entry]));
    for (const entry of [...sent, ...waiting]) if (entry.runId === sheetId) merged.set(entry.id, entry);
    return [...merged.values()];
  }, [loaded, sent, waiting, sheetId]);
  const unsent = useMemo(() => new Set(waiting.map((entry) => entry.id)), [waiting]);
  const state = useMemo(() => foldRun(procedure, entries), [procedure, entries]);

  const last = useRef(0);
  useEffect(() => {
    last.current = entries.reduce((latest, entry) => Math.max(latest, Date.parse(entry.at)), 0);
  }, [entries]);

  const log = useCallback(
    (...bodies: RunEventBody[]) => {
      const time = timeBehind(serverClock.now(), last.current);
      outbox.add(
        bodies.map((body) => ({ id: uuidv7(), runId: sheetId, ...time, by: personId, device: deviceName(), ...body })),
        serverClock.stamp(),
      );
    },
    [sheetId, personId, serverClock],
  );
  usePolling(sheetId, entries.length - unsent.size);
  return { state, entries, unsent, log };
}

/** Asks now and then whether another device has added to the sheet. */
function usePolling(sheetId: string, have: number): void {
  const known = useRef(have);
  useEffect(() => {
    known.current = have;
  }, [have]);
  useEffect(() => {
    const ask = async (): Promise<void> => {
      if (document.visibilityState !== "visible") return;
      try {
        const response = await fetch(`/api/sheets/${sheetId}/entries?have=${known.current}`, {
          signal: AbortSignal.timeout(10_000),
        });
        if (response.ok) outbox.learn(((await response.json()) as { entries: RunEvent[] }).entries);
      } catch {
        // No connection: the next round asks again.
      }
    };
    const soon = setTimeout(() => void ask(), FIRST_POLL_MS);
    const timer = setInterval(() => void ask(), POLL_MS);
    return () => {
      clearTimeout(soon);
      clearInterval(timer);
    };
  }, [sheetId]);
}

/** A name for this browser, made once. */
function deviceName(): string {
  try {
    const known = localStorage.getItem("hound-device");
    if (known) return known;
    const made = `device-${uuidv7().slice(-8)}`;
    localStorage.setItem("hound-device", made);
    return made;
  } catch {
    return "device";
  }
}
