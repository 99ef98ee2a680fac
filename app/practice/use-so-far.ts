import type { Procedure, RunEvent } from "@core";
import { type SetStateAction, useCallback, useEffect, useMemo, useState, useSyncExternalStore } from "react";

import { serverClock } from "~/sheet/log/server-clock";

import { keepPractice, type KeptPractice, keptPractice } from "./kept-practice";

/** A practised sheet as far as it is, and milliseconds by which the machine's time is ahead. */
interface SoFar extends KeptPractice {
  ahead: number;
}

const never = (): (() => void) => () => undefined;

/**
 * What was done on a practised sheet so far. What is judged is kept on this device, and is there again once the page's script is
 * up: nothing on the page is put up anew for it, so that no tap is lost.
 *
 * @param run a practice that is judged
 */
export function useSoFar({ options }: Pick<Procedure, "options">, run: { id: string } | null) {
  const runId = run?.id ?? null;
  const read = useMemo(() => readOnce(runId), [runId]);
  const kept = useSyncExternalStore(never, read, () => null);
  const [changed, setChanged] = useState<SoFar | null>(null);
  const begun = useMemo(
    (): SoFar => kept ?? { entries: [], options: options.map((one) => one.id), ahead: 0 },
    [kept, options],
  );
  const soFar = changed ?? begun;
  const change = useCallback(
    <Name extends keyof SoFar>(name: Name, next: SetStateAction<SoFar[Name]>): void => {
      setChanged((was) => {
        const base = was ?? begun;
        const value = typeof next === "function" ? next(base[name]) : next;
        return { ...base, [name]: value };
      });
    },
    [begun],
  );
  useEffect(() => {
    if (runId !== null && changed && changed.entries.length > 0)
      keepPractice(runId, { entries: changed.entries, options: changed.options });
  }, [runId, changed]);
  const setEntries = useCallback((next: SetStateAction<RunEvent[]>) => change("entries", next), [change]);
  const setOptions = useCallback((next: SetStateAction<string[]>) => change("options", next), [change]);
  const setAhead = useCallback((next: SetStateAction<number>) => change("ahead", next), [change]);
  return { ...soFar, setEntries, setOptions, setAhead };
}

/** What this device has kept, read the first time that it is asked for. While nobody was at it, the machine's time stood still. */
function readOnce(runId: string | null): () => SoFar | null {
  let known: SoFar | null | undefined;
  return () => {
    if (known === undefined) {
      const kept = runId === null ? null : keptPractice(runId);
      const last = kept?.entries[kept.entries.length - 1];
      known = kept && last ? { ...kept, ahead: Date.parse(last.at) - serverClock.now().at } : null;
    }
    return known;
  };
}
