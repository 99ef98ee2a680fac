import { useEffect, useRef } from "react";
import { useRevalidator } from "react-router";

import type { MachineNow } from "./machine-now.server";

const ASK_MS = 3000;

/**
 * Keeps a page true to what happens to its machine meanwhile: taken out of service, returned, something reported. It asks every
 * few seconds while somebody looks, and reads the page anew when the answer is another.
 */
export function useMachineNow(
  machineId: string,
  shown: {
    holds: readonly { id: string; clearedAt: Date | string | null }[];
    reports: readonly { id: string; closedAt?: Date | string | null }[];
  },
): void {
  const { revalidate } = useRevalidator();
  const known = useRef("");
  const open = (rows: readonly { id: string; clearedAt?: unknown; closedAt?: unknown }[]): string[] =>
    rows.filter((row) => !row.clearedAt && !row.closedAt).map((row) => row.id);
  const now = [...open(shown.holds), ...open(shown.reports)].sort().join(" ");
  useEffect(() => {
    known.current = now;
  }, [now]);
  useEffect(() => {
    let control = new AbortController();
    const ask = async (): Promise<void> => {
      if (document.visibilityState === "hidden") return;
      control.abort();
      control = new AbortController();
      try {
        const response = await fetch(`/api/machines/${machineId}/now`, { signal: control.signal });
        if (!response.ok) return;
        const { open: there } = (await response.json()) as MachineNow;
        if ([...there].sort().join(" ") !== known.current) await revalidate();
      } catch {
        // No connection: what was known stays.
      }
    };
    const timer = setInterval(() => void ask(), ASK_MS);
    const onShown = (): void => void ask();
    document.addEventListener("visibilitychange", onShown);
    return () => {
      clearInterval(timer);
      control.abort();
      document.removeEventListener("visibilitychange", onShown);
    };
  }, [machineId, revalidate]);
}
