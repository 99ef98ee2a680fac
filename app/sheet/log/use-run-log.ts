import { foldRun, type Procedure, type RunEvent, type RunEventBody, type RunState } from "@core";
import { useCallback, useEffect, useMemo, useRef, useSyncExternalStore } from "react";
import { v7 as uuidv7 } from "uuid";

import { outbox } from "./outbox";

const POLL_MS = 15_000;
/** What was on its way while this page was being loaded is in neither: neither in what was loaded nor among the waiting. */
const FIRST_POLL_MS = 1_000;

export interface RunLog {
  state: RunState;
  events: RunEvent[];
  /** Ids that the server has not acknowledged. */
  unsent: ReadonlySet<string>;
  log: (...bodies: RunEventBody[]) => void;
}

/**
 * A run's log on this device: what the server had, what was sent since, and what still waits, folded into the sheet by
 * the same function that the server uses.
 *
 * @param clockOffsetMs server time minus this device's: a wrong clock must not put events out of order
 */
export function useRunLog(
  runId: string,
  procedure: Procedure,
  loaded: RunEvent[],
  personId: string,
  clockOffsetMs: number,
): RunLog {
  const { waiting, sent } = useSyncExternalStore(outbox.subscribe, outbox.snapshot, outbox.serverSnapshot);
  const events = useMemo(() => {
    const merged = new Map(loaded.map((event) => [event.id, event]));
    for (const event of [...sent, ...waiting]) if (event.runId === runId) merged.set(event.id, event);
    return [...merged.values()];
  }, [loaded, sent, waiting, runId]);
  const unsent = useMemo(() => new Set(waiting.map((event) => event.id)), [waiting]);
  const state = useMemo(() => foldRun(procedure, events), [procedure, events]);

  const log = useCallback(
    (...bodies: RunEventBody[]) => {
      const at = new Date(Date.now() + clockOffsetMs).toISOString();
      outbox.add(bodies.map((body) => ({ id: uuidv7(), runId, at, by: personId, device: deviceName(), ...body })));
    },
    [runId, personId, clockOffsetMs],
  );
  usePolling(runId, events.length - unsent.size);
  return { state, events, unsent, log };
}

/** Asks now and then whether another device has added to the sheet. */
function usePolling(runId: string, have: number): void {
  const known = useRef(have);
  useEffect(() => {
    known.current = have;
  }, [have]);
  useEffect(() => {
    const ask = async (): Promise<void> => {
      if (document.visibilityState !== "visible") return;
      try {
        const response = await fetch(`/api/runs/${runId}/events?have=${known.current}`, {
          signal: AbortSignal.timeout(10_000),
        });
        if (response.ok) outbox.learn(((await response.json()) as { events: RunEvent[] }).events);
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
  }, [runId]);
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
